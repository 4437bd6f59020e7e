import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, dirname, extname, join, resolve } from 'node:path';
import { Readable } from 'node:stream';
import type { ReadableStream as WebStream } from 'node:stream/web';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { type FileProblem, problemOf } from '#core/model/read-error.ts';
import type { RunDescription, RunStep } from '#core/model/run.ts';
import { cyclePhases } from '#core/motion/cycle-pictures.ts';
import { stepRange } from '#core/motion/play-clock.ts';
import { sayStep } from '#core/motion/step-text.ts';
import type { Scene } from '#core/scene/document.ts';
import type { Look } from '#core/scene/looks/look.ts';
import { lookSettingOf, withLook } from '#core/scene/looks/wear-look.ts';
import { playsInCycle } from '#core/scene/plays-in-cycle.ts';
import { readSceneFile, type SceneFile } from '#core/scene/scene-file.ts';
import { readScript } from '#core/scene/scene-script.ts';
import { withArrowKey } from '#core/scene/with-arrow-key.ts';
import { keepEnclosed } from '#engine/enclosed.ts';
import { ask, askFile, followJob, problemFrom, RequestProblem } from '#engine/server-requests.ts';
import { freePort } from './free-port.ts';
import { inFolder, writeWhole } from './write-whole.ts';

export interface RenderOptions {
  run: string[];
  out: string;
  size: { width: number; height: number };
  steps?: { from: number; to: number; every: number };
  /** So many pictures over one cycle of what swings, sweeps or travels, at each step. */
  cycle?: number;
  passes: number;
  /** Of the files, by its id; PNG where none is named. */
  as?: string;
  /** Whether pictures come taken apart, each in a zip. */
  layers?: boolean;
  transparent?: boolean;
  /** Sentences of lines: added to the scene, or in place of the lines the run opens with. */
  say?: string[];
  /** Put on after all that. */
  look?: Look;
}

/** Renders a scene of a run into files, a line for each; returns the exit code. */
export async function renderScene(scenePath: string, options: RenderOptions): Promise<number> {
  const folder = await mkdtemp(join(tmpdir(), 'dresser-'));
  let server: ChildProcess | null = null;
  try {
    const isOfBodies = await writesBodies(options.as);
    if (isOfBodies && options.layers) {
      throw {
        reason: `"${options.as}" holds bodies, which are not taken apart into layers`,
        where: '--layers',
        remedy: 'Leave --layers away, or name a format of pictures after --as.',
      };
    }
    const text = scenePath === 'default' ? null : await readFile(scenePath, 'utf8');
    // A scene as JSON is read before the run is, so that a damaged one costs no time.
    const given = text?.trimStart().startsWith('{') ? readGiven(scenePath, text) : null;
    await inFolder(options.out, () => mkdir(options.out, { recursive: true }));
    const port = await freePort();
    const address = `http://127.0.0.1:${port}`;
    server = await startServer(port, folder, options.run);
    const { scene, ...imported } = await importFiles(address, options.run);
    const run = withOfferedQuantities(imported.description);
    for (const { enclosure, base64 } of given?.enclosed ?? [])
      await keepEnclosed(enclosure.name, Buffer.from(base64, 'base64'), address);
    let shown = given?.scene ?? scene;
    if (text !== null && !given) shown = readWords(text, scenePath, run);
    if (options.say)
      shown = withArrowKey(
        readWords(options.say.join('\n'), '--say', run, text === null ? undefined : shown),
        null,
      );
    if (options.look) {
      const worn = withLook(shown, options.look, lookSettingOf(run));
      for (const what of worn.unmatched) console.error(`note: of the look, ${what}`);
      shown = worn.scene;
    }
    await renderSteps(address, imported, shown, isOfBodies, options);
    return 0;
  } catch (error) {
    const problem = error instanceof RequestProblem ? problemFrom(error) : problemOf('render', error);
    const { reason, where, remedy } = problem;
    console.error(`${reason}\n  where: ${where}\n  what to do: ${remedy}`);
    return 1;
  } finally {
    server?.kill();
    await rm(folder, { recursive: true, force: true, maxRetries: 5 });
  }
}

/** Whether a format is of scenes as bodies. Their writers are large: nothing else waits for them. */
async function writesBodies(format: string | undefined): Promise<boolean> {
  if (format === undefined) return false;
  const { sceneWriters } = await import('#core/formats/surfaces/scene-writers.ts');
  return sceneWriters.some(({ id }) => id === format);
}

function readWords(text: string, where: string, run: RunDescription, before?: Scene): Scene {
  try {
    return readScript(text, run, before);
  } catch (error) {
    throw {
      reason: (error as Error).message,
      where,
      remedy: 'Write it as docs/guide.md shows, for example "Section of everything at z = 0.4 m".',
    };
  }
}

function readGiven(path: string, text: string): SceneFile {
  try {
    return readSceneFile(text);
  } catch (error) {
    throw {
      reason: (error as Error).message,
      where: path,
      remedy: 'Give a scene that Dresser saved, or the word "default".',
    };
  }
}

async function startServer(port: number, data: string, files: string[]): Promise<ChildProcess> {
  const home = process.env.DRESSER_HOME ?? process.cwd();
  const entry = join(home, 'dist', 'server.mjs');
  if (!existsSync(entry)) {
    throw {
      reason: 'the site is not built yet',
      where: entry,
      remedy: 'Run "npm run build" once in the Dresser folder.',
    };
  }
  const folders = [...new Set(files.map((f) => dirname(resolve(f))))].join(
    process.platform === 'win32' ? ';' : ':',
  );
  const server = spawn(process.execPath, [entry], {
    env: {
      ...process.env,
      HOST: '127.0.0.1',
      PORT: String(port),
      DRESSER_DATA: data,
      DRESSER_FOLDERS: folders,
      DRESSER_HOME: home,
    },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  for (let i = 0; i < 300; i++) {
    if (server.exitCode !== null) break;
    const up = await ask(`http://127.0.0.1:${port}/api/folders`).then(
      () => true,
      () => false,
    );
    if (up) return server;
    await new Promise((r) => setTimeout(r, 100));
  }
  server.kill();
  throw {
    reason: 'the rendering server did not start',
    where: `port ${port}`,
    remedy: 'Look at the lines above; free memory or disk and try again.',
  };
}

async function importFiles(
  address: string,
  files: string[],
): Promise<{ run: string; scene: Scene; description: RunDescription }> {
  const { id } = await ask<{ id: string }>(`${address}/api/intake`, { method: 'POST' });
  for (const file of files)
    await ask(`${address}/api/intake/${id}/server-path`, { method: 'POST', json: { path: resolve(file) } });
  const preview = await ask<{ job: string }>(`${address}/api/intake/${id}/preview`, { method: 'POST' });
  const seen = await followJob<{ previews: unknown[]; problems: FileProblem[] }>(
    preview.job,
    undefined,
    undefined,
    address,
  );
  if (seen.previews.length === 0) {
    throw (
      seen.problems[0] ?? {
        reason: 'the files hold no run',
        where: files.map((f) => basename(f)).join(', '),
        remedy: 'Give result files.',
      }
    );
  }
  const { job } = await ask<{ job: string }>(`${address}/api/intake/${id}/import`, {
    method: 'POST',
    json: { plan: 0, choices: {} },
  });
  const made = await followJob<{ run: string; scene: string }>(job, undefined, undefined, address);
  const [run, scene] = await Promise.all([
    ask<{ description: RunDescription }>(`${address}/api/runs/${made.run}`),
    ask<{ document: Scene }>(`${address}/api/scenes/${made.scene}`),
  ]);
  return { run: made.run, scene: scene.document, description: run.description };
}

async function renderSteps(
  address: string,
  { run, description }: { run: string; description: RunDescription },
  scene: Scene,
  isOfBodies: boolean,
  options: RenderOptions,
): Promise<void> {
  const last = description.steps.length - 1;
  const steps = options.steps
    ? stepRange(options.steps.from, Math.min(options.steps.to, last), options.steps.every)
    : [Math.min(scene.step, last)];
  if (steps.length === 0) {
    throw {
      reason: 'no step is in the range',
      where: '--steps',
      remedy: `The run has the steps 1 to ${last + 1}.`,
    };
  }
  const pictures = steps.flatMap((step) =>
    phasesOf(scene, options.cycle).map((phase, nth) => ({ step, phase, nth })),
  );
  const { job } = await ask<{ job: string }>(`${address}/api/runs/${run}/pictures`, {
    method: 'POST',
    json: {
      scene,
      pictures,
      ...options.size,
      transparent: options.transparent ?? false,
      passes: options.passes,
      format: options.as,
      layers: options.layers,
    },
  });
  // Each picture is written as soon as it is there, in order.
  let written = 0;
  let writing = Promise.resolve();
  const write = async (n: number): Promise<void> => {
    const { step, phase, nth } = pictures[n];
    const place = phase === null ? '' : `-${String(nth + 1).padStart(3, '0')}`;
    const made = await askFile(`${address}/api/jobs/${job}/pictures/${n}`);
    const name = `${safe(scene.name)}-${String(step + 1).padStart(4, '0')}${place}${extname(made.name)}`;
    const file = join(options.out, name);
    await writeWhole(file, Readable.fromWeb(made.bytes as WebStream));
    const at = phase === null ? '' : ` phase ${Number(phase.toFixed(3))}`;
    const { width, height } = options.size;
    const size = isOfBodies ? '' : ` ${width}x${height}`;
    console.log(`${file} step ${step + 1} ${said(description.steps[step])}${at}${size}`);
  };
  const take = (done: number): void => {
    const there = Math.round(done * pictures.length);
    for (; written < there; written++) {
      const n = written;
      writing = writing.then(() => write(n));
    }
    // It is waited for at the end; until then nobody listens.
    writing.catch(() => undefined);
  };
  const made = await followJob<{ mismatches: string[] }>(job, ({ done }) => take(done), undefined, address);
  take(1);
  await writing;
  for (const mismatch of made.mismatches) console.error(`note: ${mismatch}`);
}

/**
 * Phases of so many pictures over a cycle; the one of the scene where none are asked for.
 *
 * @throws what is lacking where nothing of the scene changes in a cycle
 */
function phasesOf(scene: Scene, count: number | undefined): (number | null)[] {
  if (count === undefined) return [null];
  const { moves, closed } = playsInCycle(scene);
  if (!moves)
    throw {
      reason: 'nothing of the scene changes over a cycle',
      where: '--cycle',
      remedy:
        'Show a quantity that swings, a sweep, or marks that travel along lines; docs/cycle.md has sentences.',
    };
  return cyclePhases(count, closed);
}

/** `t 2` for a time, `mode 8, 8059 Hz` for what is none. */
const said = (step: RunStep): string =>
  step.kind === 'time'
    ? `t ${step.time}`
    : sayStep(step, null, { style: 'decimals', decimals: 3, unit: null });

const safe = (name: string): string => name.replace(/[^\p{L}\p{N}._-]+/gu, '-');

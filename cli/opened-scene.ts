import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, dirname, join, resolve } from 'node:path';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { type FileProblem, problemOf } from '#core/model/read-error.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Scene } from '#core/scene/document.ts';
import type { Look } from '#core/scene/looks/look.ts';
import { lookSettingOf, withLook } from '#core/scene/looks/wear-look.ts';
import { readSceneFile, type SceneFile } from '#core/scene/scene-file.ts';
import { readScript } from '#core/scene/scene-script.ts';
import { withArrowKey } from '#core/scene/with-arrow-key.ts';
import { keepEnclosed } from '#engine/enclosed.ts';
import { ask, followJob, problemFrom, RequestProblem } from '#engine/server-requests.ts';
import { freePort } from './free-port.ts';
import { choicesOfUnits, type StatedUnit } from './stated-units.ts';

/** What a scene is opened with. */
export interface OpenOptions {
  /** The result files of the run. */
  run: string[];
  /** Units of time, length and quantities, where the files do not state them. */
  units?: StatedUnit[];
  /** Sentences of lines: added to the scene, or in place of the lines the run opens with. */
  say?: string[];
  /** Put on after all that. */
  look?: Look;
}

/** A scene on its run, with a server of its own that draws it. */
export interface OpenedScene {
  address: string;
  /** Id of the run. */
  run: string;
  description: RunDescription;
  scene: Scene;
}

/**
 * Opens a scene on a run, works with it, and leaves nothing behind; what goes wrong is said with reason, place and remedy.
 *
 * @param check is asked before anything is read, and throws what cannot be
 * @returns the exit code
 */
export async function withOpenedScene(
  scenePath: string,
  options: OpenOptions,
  check: () => Promise<void>,
  work: (opened: OpenedScene) => Promise<void>,
): Promise<number> {
  const folder = await mkdtemp(join(tmpdir(), 'dresser-'));
  let server: ChildProcess | null = null;
  try {
    await check();
    const text = scenePath === 'default' ? null : await readFile(scenePath, 'utf8');
    // A scene as JSON is read before the run is, so that a damaged one costs no time.
    const given = text?.trimStart().startsWith('{') ? readGiven(scenePath, text) : null;
    const port = await freePort();
    const address = `http://127.0.0.1:${port}`;
    server = await startServer(port, folder, options.run);
    const { scene, ...imported } = await importFiles(address, options);
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
    await work({ address, ...imported, scene: shown });
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

/** Of a run that is about to be brought in, what it holds. */
interface PreviewedFields {
  report: { fields: { name: string }[] } | null;
  fieldKeys: string[];
}

const fieldsOf = ({ report, fieldKeys }: PreviewedFields): { key: string; name: string }[] =>
  (report?.fields ?? []).map(({ name }, i) => ({ key: fieldKeys[i], name }));

async function importFiles(
  address: string,
  { run: files, units = [] }: OpenOptions,
): Promise<{ run: string; scene: Scene; description: RunDescription }> {
  const { id } = await ask<{ id: string }>(`${address}/api/intake`, { method: 'POST' });
  for (const file of files)
    await ask(`${address}/api/intake/${id}/server-path`, { method: 'POST', json: { path: resolve(file) } });
  const preview = await ask<{ job: string }>(`${address}/api/intake/${id}/preview`, { method: 'POST' });
  const seen = await followJob<{ previews: PreviewedFields[]; problems: FileProblem[] }>(
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
    json: { plan: 0, choices: choicesOfUnits(units, fieldsOf(seen.previews[0])) },
  });
  const made = await followJob<{ run: string; scene: string }>(job, undefined, undefined, address);
  const [run, scene] = await Promise.all([
    ask<{ description: RunDescription }>(`${address}/api/runs/${made.run}`),
    ask<{ document: Scene }>(`${address}/api/scenes/${made.scene}`),
  ]);
  return { run: made.run, scene: scene.document, description: run.description };
}

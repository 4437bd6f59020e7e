import { mkdir } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { Readable } from 'node:stream';
import type { ReadableStream as WebStream } from 'node:stream/web';
import type { RunStep } from '#core/model/run.ts';
import { cyclePhases } from '#core/motion/cycle-pictures.ts';
import { sayStep } from '#core/motion/step-text.ts';
import type { Scene } from '#core/scene/document.ts';
import { playsInCycle } from '#core/scene/plays-in-cycle.ts';
import { ask, askFile, followJob } from '#engine/server-requests.ts';
import type { PicturesMade } from '#web/server/render-pictures.ts';
import {
  askedSteps,
  type OpenedScene,
  type OpenOptions,
  type StepsAsked,
  withOpenedScene,
} from './opened-scene.ts';
import { noteFindings } from './tell-findings.ts';
import { inFolder, writeWhole } from './write-whole.ts';

export interface RenderOptions extends OpenOptions {
  out: string;
  size: { width: number; height: number };
  steps?: StepsAsked;
  /** So many pictures over one cycle of what swings, sweeps or travels, at each step. */
  cycle?: number;
  passes: number;
  /** Of the files, by its id; PNG where none is named. */
  as?: string;
  /** Whether pictures come taken apart, each in a zip. */
  layers?: boolean;
  transparent?: boolean;
}

/** Renders a scene of a run into files, a line for each; returns the exit code. */
export async function renderScene(scenePath: string, options: RenderOptions): Promise<number> {
  let isOfBodies = false;
  const check = async (): Promise<void> => {
    isOfBodies = await writesBodies(options.as);
    if (isOfBodies && options.layers) {
      throw {
        reason: `"${options.as}" holds bodies, which are not taken apart into layers`,
        where: '--layers',
        remedy: 'Leave --layers away, or name a format of pictures after --as.',
      };
    }
    await inFolder(options.out, () => mkdir(options.out, { recursive: true }));
  };
  return withOpenedScene(scenePath, options, check, (opened) => renderSteps(opened, isOfBodies, options));
}

/** Whether a format is of scenes as bodies. Their writers are large: nothing else waits for them. */
async function writesBodies(format: string | undefined): Promise<boolean> {
  if (format === undefined) return false;
  const { sceneWriters } = await import('#core/formats/surfaces/scene-writers.ts');
  return sceneWriters.some(({ id }) => id === format);
}

async function renderSteps(
  { address, run, description, scene }: OpenedScene,
  isOfBodies: boolean,
  options: RenderOptions,
): Promise<void> {
  const steps = askedSteps(options.steps, { description, scene });
  // Without steps it is the picture the scene shows, be it between two of them.
  const onward = options.steps ? 0 : scene.onward;
  const pictures = steps.flatMap((step) =>
    phasesOf(scene, options.cycle).map((phase, nth) => ({ step, onward, phase, nth })),
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
  const made = await followJob<PicturesMade>(job, ({ done }) => take(done), undefined, address);
  take(1);
  await writing;
  for (const mismatch of made.mismatches) console.error(`note: ${mismatch}`);
  noteFindings(pictures.map(({ step }, n) => ({ of: `step ${step + 1}`, findings: made.findings[n] ?? [] })));
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

import { LRUCache } from 'lru-cache';
import { type SceneWriter, sceneWriters } from '#core/formats/surfaces/scene-writers.ts';
import type { RunDescription } from '#core/model/run.ts';
import { exposedScenes } from '#core/motion/exposure.ts';
import { sceneOfPicture } from '#core/motion/picture-at.ts';
import { sceneToCheck } from '#core/preflight/checked-scene.ts';
import { preflight } from '#core/preflight/registry.ts';
import type { Finding } from '#core/preflight/rule.ts';
import type { SceneFacts } from '#core/report/facts.ts';
import { sceneMismatches } from '#core/scene/apply-scene.ts';
import { readScene, type Scene } from '#core/scene/document.ts';
import { endsOfScales, type ScaleEnds } from '#core/scene/scale-ends.ts';
import { shownScales } from '#core/scene/shown-scales.ts';
import { needsSpread } from '#core/scene/spread-of-scale.ts';
import type { SceneSource } from '#engine/scene-source.ts';
import { ask } from '#engine/server-requests.ts';
import { writeBodies } from '#stage/bodies-out/write-bodies.ts';
import { offeredFilms } from '#stage/films/registry.ts';
import { offeredWriters, pictureWriters } from '#stage/pictures/registry.ts';
import type { PictureOptions } from '#stage/pictures/render-picture.ts';
import type { PictureWriter } from '#stage/pictures/writer.ts';
import { type PictureSize, Stage } from '#stage/stage.ts';
import { collectBodies, leftOutBy } from '#web/desks/give-out/collect-bodies.ts';
import { developApart, developScene } from '#web/desks/give-out/darkroom.ts';
import { zipOfLayers } from '#web/desks/give-out/layers-zip.ts';
import { aboutPicture } from '#web/desks/give-out/picture-about.ts';
import { dataAddress } from '#web/desks/shared/data-address.ts';
import { geometryPool, pooledSource } from '#web/desks/stage/geometry-pool.ts';
import { encodeFilm } from './encode-film.ts';
import { factsOfScene } from './facts-of-scene.ts';
import { livingOfScene } from './living-of-scene.ts';
import type {
  EndsOrder,
  FactsOrder,
  LivingOrder,
  RenderAnswer,
  RenderOrder,
  RenderWindow,
} from './render-order.ts';

const stage = new Stage(document.querySelector<HTMLCanvasElement>('#stage')!);
const pool = geometryPool();
/** Of the runs drawn last: a batch goes through thousands of them. */
const sources = new LRUCache<string, Promise<SceneSource>>({ max: 4 });
let made: Blob[] = [];

/** @throws Error naming the formats there are */
async function writerOf(format: string): Promise<PictureWriter | SceneWriter> {
  const offered = [...(await offeredWriters()), ...sceneWriters];
  const found = offered.find(({ id }) => id === format);
  if (!found)
    throw new Error(
      `Pictures are not written as "${format}" here, but as ${offered.map((w) => w.id).join(', ')}`,
    );
  return found;
}

/** @throws Error naming the formats there are */
async function pictureWriter(format: string): Promise<PictureWriter> {
  const writer = await writerOf(format);
  if (!('hasLines' in writer)) return writer;
  throw new Error(`"${format}" holds bodies, and no picture. Name a format of pictures`);
}

interface Made {
  blob: Blob;
  ending: string;
  leftOut: string[];
  /** The same picture in other formats. */
  also: { blob: Blob; ending: string }[];
  findings: Finding[];
}

async function asBodies(
  writer: SceneWriter,
  source: SceneSource,
  scene: Scene,
  order: RenderOrder,
): Promise<Made> {
  const aspect = order.width / order.height;
  const found = await collectBodies(source, scene, {
    steps: [scene.step],
    aspect,
    exact: true,
    legend: true,
    pace: 1,
  });
  const bytes = await writeBodies(found.scene, writer.id, false, new AbortController().signal);
  const ending = writer.ending.slice(1);
  return { blob: new Blob([bytes]), ending, leftOut: leftOutBy(writer, found), also: [], findings: [] };
}

async function asPicture(
  writer: PictureWriter,
  source: SceneSource,
  scene: Scene,
  exposed: readonly Scene[],
  order: RenderOrder,
): Promise<Made> {
  const { passes, layers } = order;
  let findings: Finding[] = [];
  const options: PictureOptions = {
    ...order,
    transparent: order.transparent && writer.opacity,
    ...(order.film === undefined && {
      seen: (known) => {
        findings = preflight(sceneToCheck(scene, known.run, scene.step, known), scene.checks);
      },
    }),
  };
  const about = aboutPicture(scene, source.run, order, `${passes} passes`);
  if (layers) {
    const apart = await developApart(stage, source, scene, scene.step, options);
    return { blob: await zipOfLayers(apart, writer, about), ending: 'zip', leftOut: [], also: [], findings };
  }
  const others = await Promise.all((order.also ?? []).map(pictureWriter));
  const picture = await developScene(stage, source, scene, scene.step, options, exposed);
  const also = [];
  for (const other of others) also.push({ blob: await other.write(picture, about), ending: other.ending });
  const blob = await writer.write(picture, about);
  return { blob, ending: writer.ending, leftOut: [], also, findings };
}

function sourceOf(run: string): Promise<SceneSource> {
  let known = sources.get(run);
  if (!known) {
    known = ask<{ description: RunDescription }>(`/api/runs/${run}`).then((r) =>
      pooledSource(r.description, pool, run),
    );
    // What could not be read may be there the next time.
    known.catch(() => sources.delete(run));
    sources.set(run, known);
  }
  return known;
}

/** Where scales begin and end; shapes are made only where that depends on what is shown. */
async function ends({ run, scene: given, step }: EndsOrder): Promise<ScaleEnds> {
  const source = await sourceOf(run);
  const scene = sceneOfPicture(readScene(given), source.run, { step });
  const used = shownScales(scene);
  if (used.some((one) => one.range.kind !== 'fixed' && needsSpread(one, source.run))) {
    const frame = await source.frame(scene, step, 'ends');
    return endsOfScales(scene, frame.run, frame.parts);
  }
  return endsOfScales(scene, await source.withRanges(scene), []);
}

/** A scene as it is on show in a report: at its own step, or at a time of its film. */
async function shownScene({ run, scene, film }: LivingOrder): Promise<{ source: SceneSource; scene: Scene }> {
  const source = await sourceOf(run);
  const kept = readScene(scene);
  const at = film === null ? { step: kept.step, onward: kept.onward } : { film };
  return { source, scene: sceneOfPicture(kept, source.run, at) };
}

/** What a report is to know of a scene: its numbers, its charts and the words for it. */
async function facts({ files, ...order }: FactsOrder): Promise<SceneFacts> {
  const { source, scene } = await shownScene(order);
  return factsOfScene(source, scene, order.run, files);
}

/** A scene for readers who turn it; its bytes are taken as those of a picture. */
async function living(order: LivingOrder): Promise<{ bytes: number }> {
  const { source, scene } = await shownScene(order);
  const found = await livingOfScene(source, scene, order.film === null);
  made = found ? [found] : [];
  return { bytes: found?.size ?? 0 };
}

/** Called by the command line: one file of one step. */
async function render(order: RenderOrder): Promise<RenderAnswer> {
  const source = await sourceOf(order.run);
  const { step, onward, phase, film } = order;
  const at = film === undefined ? { step, onward, phase } : { film };
  const kept = readScene(order.scene);
  const scene = sceneOfPicture(kept, source.run, at);
  const exposed = film === undefined ? [] : exposedScenes(kept, source.run, film, order.passes);
  const writer = await writerOf(order.format ?? pictureWriters[0].id);
  const { blob, ending, leftOut, also, findings } =
    'hasLines' in writer
      ? await asBodies(writer, source, scene, order)
      : await asPicture(writer, source, scene, exposed, order);
  made = [blob, ...also.map((a) => a.blob)];
  const mismatches = [...sceneMismatches(scene, source.run), ...leftOut.map((what) => `left out: ${what}`)];
  const others = also.map((a) => ({ bytes: a.blob.size, ending: a.ending }));
  return { bytes: blob.size, ending, also: others, mismatches, findings };
}

const films = async (size: PictureSize): Promise<string[]> => (await offeredFilms(size)).map(({ id }) => id);

const take = async (of: number, from: number, to: number): Promise<string> =>
  (await dataAddress(made[of].slice(from, to))).split(',')[1] ?? '';

Object.assign(window, {
  dresserEnds: ends,
  dresserFacts: facts,
  dresserLiving: living,
  dresserRender: render,
  dresserTake: take,
  dresserFilm: encodeFilm,
  dresserFilms: films,
} satisfies RenderWindow);

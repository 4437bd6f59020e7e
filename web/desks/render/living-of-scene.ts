import { ArrayShelf, packArrays } from '#core/formats/bytes/packed-arrays.ts';
import { sayNumber } from '#core/language/sentence.ts';
import type { Bounds } from '#core/model/mesh.ts';
import { runBounds } from '#core/model/run.ts';
import { subtract, type Vector } from '#core/model/vectors.ts';
import { sayStep } from '#core/motion/step-text.ts';
import { understood } from '#core/ops/chain/understood.ts';
import { axisOf, movingRange } from '#core/ops/kernels/planes.ts';
import {
  type LivingBody,
  type LivingFigure,
  type LivingMoment,
  livingBody,
  momentsInOrder,
  spreadOver,
} from '#core/report/living-figure.ts';
import { backdropOf } from '#core/scene/backdrops/registry.ts';
import { lensShift } from '#core/scene/camera.ts';
import { OPENING_ASPECT } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { rigOf } from '#core/scene/light-rigs/registry.ts';
import { saidInPicture } from '#core/scene/said-in-picture.ts';
import type { SceneSource } from '#engine/scene-source.ts';
import { pngOfBitmap } from '#stage/bodies-out/png-of.ts';
import { SceneBodies } from '#stage/bodies-out/scene-bodies.ts';
import { bringBeside } from '#stage/brought.ts';

/** A figure has no more steps, and no more places of its section. */
const MOST_STEPS = 24;
const PLACES = 9;
/** Bytes before they are packed: of a figure of several moments, and of a single one that is still taken. */
const WORTH = 32 * 2 ** 20;
const MOST = 48 * 2 ** 20;

/** A plane of a scene that can be moved, and where it is put for that. */
interface MovablePlane {
  offsets: number[];
  /** Index of where it lies in the picture. */
  shown: number;
  says(offset: number): string;
  moved(offset: number): Scene;
}

/**
 * A scene as a figure that can be turned, packed for a page: as its picture shows it, and then at other steps and with its
 * section elsewhere as far as all of it stays small enough.
 *
 * @param moves whether it is shown at other steps too
 * @returns null where what its picture shows is too large for a page
 * @throws Error naming what the scene shows beside its run and is missing
 */
export async function livingOfScene(source: SceneSource, scene: Scene, moves: boolean): Promise<Blob | null> {
  const { missing } = await bringBeside(scene);
  if (missing.length > 0) throw new Error(missing.join(' '));
  const { run } = source;
  const collected = new SceneBodies(scene, {
    exact: true,
    aspect: scene.picture.aspect ?? OPENING_ASPECT,
    pace: 1,
    pack: pngOfBitmap,
  });
  const bodies: LivingBody[] = [];
  const shelf = new ArrayShelf();
  const taken: LivingMoment[] = [];
  const plane = movablePlane(scene, runBounds(run), run.lengthUnit);
  const sayOf = (step: number): string => sayStep(run.steps[step], run.timeUnit, scene.stamp);
  const take = async (moment: LivingMoment): Promise<void> => {
    const { step, place } = moment;
    const at = place === null ? scene : plane!.moved(plane!.offsets[place]);
    await collected.add(await source.frame(at, step, 'living'), sayOf(step), true);
    for (const body of collected.soFar.bodies.slice(bodies.length)) {
      const living = livingBody(body, collected.soFar);
      bodies.push(living);
      for (const part of [living, living.values]) {
        for (const array of Object.values(part ?? {}))
          if (ArrayBuffer.isView(array)) shelf.put(array as never);
      }
    }
    taken.push(moment);
  };

  const picture = { step: scene.step, place: plane && plane.shown };
  await take(picture);
  if (shelf.bytes > MOST) return null;
  const steps = moves ? spreadOver(run.steps.length, MOST_STEPS, scene.step) : [scene.step];
  const wanted = momentsInOrder(steps, plane ? [...plane.offsets.keys()] : [], picture);
  // What does not change from one to the next is there once: the second tells how much each of them takes.
  for (let [i, each] = [0, 0]; i < wanted.length && shelf.bytes + each <= WORTH; i++) {
    const before = shelf.bytes;
    await take(wanted[i]);
    each = shelf.bytes - before;
  }

  const stepsTaken = inOrder(taken.map((m) => m.step));
  const placesTaken = plane ? inOrder(taken.map((m) => m.place!)) : [];
  const backdrop = backdropOf(scene.backdrop);
  const figure: LivingFigure = {
    scene: { ...collected.finish(), bodies },
    steps: stepsTaken.map(sayOf),
    places: placesTaken.map((p) => plane!.says(plane!.offsets[p])),
    moments: taken.map(({ step, place }) => ({
      step: stepsTaken.indexOf(step),
      place: place === null ? null : placesTaken.indexOf(place),
    })),
    shown: 0,
    target: subtract(scene.camera.target, run.origin),
    shift: lensShift(scene.camera),
    origin: run.origin,
    lengthUnit: run.lengthUnit,
    shaded: rigOf(scene.light).lights.length > 0,
    top: backdrop.top,
    foot: backdrop.foot,
    ink: backdrop.ink,
    stated: saidInPicture(scene, run),
    notes: [
      ...collected.notes,
      ...(scene.annotations.some((a) => a.visible) ? ['words and drawings on its picture'] : []),
    ],
  };
  const deflated = new Blob([packArrays(figure)]).stream().pipeThrough(new CompressionStream('deflate'));
  return new Response(deflated).blob();
}

const inOrder = (given: readonly number[]): number[] => [...new Set(given)].sort((a, b) => a - b);

/** The first plane of a scene that its handle moves, at places spread over the run; its own is among them. */
function movablePlane(scene: Scene, bounds: Bounds, unit: string | null): MovablePlane | null {
  for (const layer of scene.layers) {
    if (!layer.visible || layer.opacity === 0) continue;
    for (const [n, step] of layer.chain.entries()) {
      const known = step.off ? null : understood(step);
      if (!known || known.options.locked) continue;
      const handle = known.operation.handles?.(known.options).find((h) => h.kind === 'plane');
      if (handle?.kind !== 'plane') continue;
      const normal = known.options[handle.normal] as Vector;
      const own = known.options[handle.offset] as number;
      const [low, high] = movingRange(bounds, normal, handle, known.options);
      if (!(high > low)) continue;
      // In the middles of so many slices: at the very ends there is nothing to be seen.
      const even = Array.from({ length: PLACES }, (_, i) => low + ((i + 0.5) / PLACES) * (high - low));
      const nearest = even.reduce((a, b) => (Math.abs(b - own) < Math.abs(a - own) ? b : a));
      const offsets = even.map((o) => (o === nearest ? own : o)).sort((a, b) => a - b);
      const axis = axisOf(normal);
      return {
        offsets,
        shown: offsets.indexOf(own),
        says(offset) {
          const distance = `${sayNumber(offset)}${unit ? ` ${unit}` : ''}`;
          return axis >= 0
            ? `${'xyz'[axis]} = ${distance}`
            : `${distance} along (${normal.map((v) => sayNumber(v, 3)).join(', ')})`;
        },
        moved: (offset) => ({
          ...scene,
          layers: scene.layers.map((l) =>
            l !== layer
              ? l
              : {
                  ...l,
                  chain: l.chain.map((s, i) =>
                    i === n ? { ...s, options: { ...known.options, [handle.offset]: offset } } : s,
                  ),
                },
          ),
        }),
      };
    }
  }
  return null;
}

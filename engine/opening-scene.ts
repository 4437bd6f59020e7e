import { sensibleField } from '#core/fields/default-quantity.ts';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { marksOfKind } from '#core/model/mark.ts';
import { quantityKey, quantityStatistics } from '#core/model/quantity.ts';
import type { RunDescription } from '#core/model/run.ts';
import { add } from '#core/model/vectors.ts';
import { cameraAxes, freeRoom } from '#core/scene/camera.ts';
import { defaultScene, OPENING_ASPECT } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { type Body, bestDirection, frameBodies } from '#core/scene/view-choice.ts';
import { answerQuestion } from './answer-question.ts';
import type { ArraySource } from './array-source.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { measureShares } from './run-ranges.ts';
import { type Frame, SceneSource } from './scene-source.ts';

/** More values than this are not looked through before a run opens. */
const MOST_VALUES = 1e8;
/** Runs with more cells than this open to the view of their box. */
const MOST_CELLS = 3e6;

/**
 * The scene a run opens with, framed by what is really drawn, on a scale that few extreme values do not spoil; and the
 * run with what was found out about it on the way.
 */
export async function openingScene(
  given: RunDescription,
  arrays: ArraySource,
  progress: (done: number) => void = () => undefined,
): Promise<{ run: RunDescription; scene: Scene }> {
  const run = await withShares(given, arrays, (done) => progress(0.5 * done));
  const scene = defaultScene(run);
  const cells = run.parts.reduce((n, p) => n + Math.max(0, ...p.meshes.map((m) => m.cellCount)), 0);
  if (cells > MOST_CELLS) return { run, scene };
  const maker = new GeometryMaker(arrays);
  const frame = await new SceneSource(run, (request) => maker.make(request), {
    askRange: (question) => answerQuestion(run, question, arrays),
  }).frame(scene, scene.step, 'first');
  progress(1);
  return { run, scene: { ...scene, camera: framed(scene, frame) } };
}

/** The run with the quantiles of what it will be coloured by. */
async function withShares(
  run: RunDescription,
  arrays: ArraySource,
  progress: (done: number) => void,
): Promise<RunDescription> {
  const chosen = sensibleField(withOfferedQuantities(run));
  const stats = chosen && quantityStatistics(chosen.field, chosen.component, null);
  if (!chosen || !stats || stats.count > MOST_VALUES) return run;
  const { field, component } = chosen;
  const shares = await measureShares(run, field.key, component, arrays, progress);
  return { ...run, shares: { ...run.shares, [quantityKey(field.key, component)]: shares } };
}

/** The camera of a scene, moved so that what is drawn fills the picture and is seen from a good side. */
export function framed(scene: Scene, { run, parts }: Frame): Scene['camera'] {
  const bodies = parts.flatMap(({ layer: id, shape }): Body[] => {
    const layer = scene.layers.find((l) => l.id === id)!;
    const weight = layer.colour.kind === 'field' ? 1 : layer.sides === 'inside' ? 0.15 : 0.35;
    const { sides } = layer;
    return [
      ...marksOfKind(shape.marks, 'surface').map((m) => ({ ...m, weight, sides })),
      ...marksOfKind(shape.marks, 'line').map((m) => ({ ...m, triangles: none, weight, sides })),
      ...marksOfKind(shape.marks, 'sphere').map((m) => ({ ...m, triangles: none, weight, sides })),
      ...marksOfKind(shape.marks, 'dot').map((m) => ({ ...m, triangles: none, weight, sides })),
    ];
  });
  if (bodies.length === 0) return scene.camera;
  const { camera } = scene;
  const flat = run.dimension < 3;
  const direction = flat ? cameraAxes(camera).back : bestDirection(bodies);
  const room = freeRoom(scene.scales, OPENING_ASPECT);
  const found = frameBodies(bodies, direction, flat ? camera.up : [0, 0, 1], OPENING_ASPECT, room, camera);
  return { ...found, position: add(found.position, run.origin), target: add(found.target, run.origin) };
}

const none = new Uint32Array(0);

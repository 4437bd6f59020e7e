import type { SceneToWrite } from '#core/formats/surfaces/scene-to-write.ts';
import type { SceneWriter } from '#core/formats/surfaces/scene-writers.ts';
import { sayStep } from '#core/motion/step-text.ts';
import type { Scene } from '#core/scene/document.ts';
import type { SceneSource } from '#engine/scene-source.ts';
import { legendPlane } from '#stage/bodies-out/legend-plane.ts';
import { pngOfBitmap } from '#stage/bodies-out/png-of.ts';
import { SceneBodies } from '#stage/bodies-out/scene-bodies.ts';
import { bringBeside } from '#stage/brought.ts';

export interface BodiesWanted {
  steps: readonly number[];
  /** Width of the picture by its height: where the legends of a view are depends on it. */
  aspect: number;
  /** Whether colours of values are to be as the legend has them, whatever the light. */
  exact: boolean;
  /** Whether the legends come along, where the camera sees them. */
  legend: boolean;
  /** Seconds that a step is shown. */
  pace: number;
  progress?(done: number, what: string): void;
  signal?: AbortSignal;
}

export interface BodiesFound {
  scene: SceneToWrite;
  triangles: number;
  /** What cannot be given out as bodies. */
  notes: string[];
}

/**
 * What a scene shows as bodies, at some steps of its run.
 *
 * @throws Error naming what the scene shows beside its run and is missing
 */
export async function collectBodies(
  source: SceneSource,
  scene: Scene,
  { steps, aspect, exact, legend, pace, progress, signal }: BodiesWanted,
): Promise<BodiesFound> {
  const { run } = source;
  const { missing } = await bringBeside(scene);
  if (missing.length > 0) throw new Error(missing.join(' '));
  const bodies = new SceneBodies(scene, { exact, aspect, pace, pack: pngOfBitmap });
  for (const [n, step] of steps.entries()) {
    signal?.throwIfAborted();
    const frame = await source.frame(scene, step, 'export');
    await bodies.add(frame, sayStep(run.steps[step], run.timeUnit, scene.stamp), steps.length > 1);
    if (n === steps.length - 1 && legend) {
      const plane = await legendPlane(scene, frame, aspect);
      if (plane) bodies.addPlane('legend', plane.picture, plane.corners);
    }
    progress?.((n + 1) / steps.length, `Step ${n + 1} of ${steps.length}`);
  }
  const found = bodies.finish();
  const triangles = found.bodies
    .filter((b) => b.kind === 'triangles')
    .reduce((sum, b) => sum + b.elements.length / 3, 0);
  return { scene: found, triangles, notes: [...bodies.notes] };
}

/** What of it a format has no place for. */
export const leftOutBy = (format: SceneWriter, { scene, notes }: BodiesFound): string[] =>
  !format.hasLines && scene.bodies.some((b) => b.kind !== 'triangles')
    ? [...notes, 'lines and points']
    : notes;

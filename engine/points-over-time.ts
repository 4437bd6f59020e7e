import { type PointsAtStep, pointsOfMarks } from '#core/measure/points-over-time.ts';
import type { Scene } from '#core/scene/document.ts';
import type { SceneSource } from './scene-source.ts';

/**
 * The points of a layer counted at every step of the run, with what they are coloured by.
 *
 * @param progress told the share of the steps that are done
 * @throws what `signal` was aborted with
 */
export async function pointsOverTime(
  source: SceneSource,
  scene: Scene,
  layer: string,
  progress: (done: number) => void,
  signal: AbortSignal,
): Promise<PointsAtStep[]> {
  // Others stay in the scene, for a line may take over what one of them makes.
  const alone: Scene = {
    ...scene,
    annotations: [],
    layers: scene.layers.map((l) => ({ ...l, visible: l.id === layer })),
  };
  const { steps } = source.run;
  const rows: PointsAtStep[] = [];
  for (const step of steps.keys()) {
    signal.throwIfAborted();
    const { parts } = await source.frame({ ...alone, step }, step, 'over time');
    const found = pointsOfMarks(
      parts.flatMap((p) => p.shape.marks),
      parts.flatMap((p) => p.values),
    );
    rows.push({ step, ...found });
    progress((step + 1) / steps.length);
  }
  return rows;
}

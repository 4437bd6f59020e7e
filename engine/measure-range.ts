import { meshMeasure } from '#core/fields/mesh-quality.ts';
import type { MeasuredRange, RunDescription } from '#core/model/run.ts';
import { type FieldStatistics, fieldStatistics, joinFieldStatistics } from '#core/model/statistics.ts';
import type { ArraySource } from './array-source.ts';
import { meshKey } from './run-builder.ts';
import { readStoredMesh } from './stored-mesh.ts';

/**
 * The range of a measure of meshes over a whole run, of each step and of all together: it depends on the run alone,
 * never on what was looked at. Every mesh is measured once, however many steps it serves.
 *
 * @param key of the measure
 * @param progress is told how far it is, 0..1
 */
export async function measureRange(
  run: RunDescription,
  key: string,
  arrays: ArraySource,
  progress: (done: number) => void = () => undefined,
): Promise<MeasuredRange> {
  const known = new Map<string, FieldStatistics>();
  const meshes = run.parts.flatMap((part) => part.meshes);
  for (const [i, stored] of meshes.entries()) {
    const id = meshKey(stored);
    if (!known.has(id))
      known.set(id, fieldStatistics(meshMeasure(await readStoredMesh(stored, arrays), key), 1));
    progress((i + 1) / meshes.length);
  }
  const perStep = run.steps.map((_, step) =>
    joined(
      run.parts.flatMap(({ meshes: own, steps }) => {
        const at = steps[step];
        return at ? [known.get(meshKey(own[at.mesh]))!] : [];
      }),
    ),
  );
  return { perStep, overall: joined(perStep.filter((s) => s !== null)) };
}

const joined = (list: FieldStatistics[]): FieldStatistics | null =>
  list.length > 0 ? list.reduce(joinFieldStatistics) : null;

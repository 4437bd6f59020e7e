import type { RunDescription } from '../../model/run.ts';
import type { Scene } from '../document.ts';
import { annotationKind } from './registry.ts';
import type { MeasuredNumber } from './template-words.ts';

/** What the dimension lines of a scene measure, for other texts: `distance 1`, `angle 2`, counted kind by kind. */
export function measuredOnPicture(scene: Pick<Scene, 'annotations'>, run: RunDescription): MeasuredNumber[] {
  const counts: Record<string, number> = {};
  return scene.annotations.flatMap((annotation) => {
    const kind = annotationKind(annotation.kind);
    const value = kind.here?.(annotation, run).value;
    // What hangs on the model tells a quantity of the run, which has a name of its own.
    if (!value || 'on' in annotation) return [];
    counts[kind.id] = (counts[kind.id] ?? 0) + 1;
    return [{ name: `${kind.id} ${counts[kind.id]}`, unit: value.unit, read: value.read }];
  });
}

import { annotationKind } from './annotations/registry.ts';
import { arrowStepOf } from './arrow-step.ts';
import type { Scene } from './document.ts';

const drawsArrows = (scene: Scene): boolean => scene.layers.some((l) => arrowStepOf(l, scene) !== null);

/**
 * A scene with a key for its arrows where these are new: a length says nothing without one. It can be taken away as any
 * words can.
 *
 * @param before as it was; null for nothing
 */
export function withArrowKey(scene: Scene, before: Scene | null): Scene {
  const had =
    scene.annotations.some((a) => a.kind === 'arrow-key') || (before !== null && drawsArrows(before));
  if (had || !drawsArrows(scene)) return scene;
  const { plain } = annotationKind('arrow-key');
  const key = { ...plain, id: 'arrow-key', kind: 'arrow-key' as const, visible: true };
  return { ...scene, annotations: [...scene.annotations, key] };
}

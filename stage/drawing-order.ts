import type { RawShaderMaterial } from 'three';
import type { Drawn } from './marks/painter.ts';

/**
 * What is opaque comes first, then what lies around it where there is still room, then what is seen through; each in
 * its order.
 */
export function inDrawingOrder(world: Drawn[], around: Drawn[]): Drawn[] {
  const sorted = world.sort((a, b) => a.object.renderOrder - b.object.renderOrder);
  return [...sorted.filter((d) => !isSeenThrough(d)), ...around, ...sorted.filter(isSeenThrough)];
}

export const isSeenThrough = ({ object }: Drawn): boolean =>
  (object.material as RawShaderMaterial).transparent;

/** Whether it is drawn layer by layer; see `SeeThrough`. */
export const isLayered = (drawn: Drawn): boolean =>
  isSeenThrough(drawn) && !drawn.through && Boolean(drawn.unlit);

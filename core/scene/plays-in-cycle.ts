import { followsCycle } from '../fields/quantity-sources.ts';
import { operationById } from '../ops/registry.ts';
import type { Layer, Scene } from './document.ts';
import { activeSteps } from './layer-chain.ts';

/** What of a scene plays while the step stands. */
export interface Playing {
  /** A quantity is shown at the phase of the scene. */
  swings: boolean;
  /** Something moves with the cycle, be it a quantity or an operation. */
  moves: boolean;
  /** The end of the cycle leads to its beginning without a seam. */
  closed: boolean;
}

/** Whether a line shows or reads a quantity at the phase of the scene. */
function swings(layer: Layer, scene: Scene): boolean {
  const { colour, edges } = layer;
  const shown = [
    ...(colour.kind === 'field' ? [colour.field] : []),
    ...(edges.shown && edges.by ? [edges.by.field] : []),
    ...activeSteps(layer, scene).flatMap(({ op, options }) =>
      (operationById(op).needs?.(options as never) ?? []).map((n) => n.field),
    ),
  ];
  return shown.some(followsCycle);
}

export function playsInCycle(scene: Scene): Playing {
  const layers = scene.layers.filter((l) => l.visible && l.opacity > 0);
  const swinging = layers.some((layer) => swings(layer, scene));
  const moving = layers.flatMap((layer) =>
    activeSteps(layer, scene).flatMap(
      ({ op, options }) => operationById(op).traits?.playsInCycle?.(options as never) ?? [],
    ),
  );
  return { swings: swinging, moves: swinging || moving.length > 0, closed: !moving.includes('open') };
}

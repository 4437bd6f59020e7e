import { joinBounds } from '../model/mesh.ts';
import { partBounds, type RunDescription, type RunPart } from '../model/run.ts';
import { operationById } from '../ops/registry.ts';
import type { ChainStep, Layer, Scene } from './document.ts';
import { reachesAround } from './enclosed-parts.ts';
import { activeSteps, wholeChain } from './layer-chain.ts';

/** Opacity of a body that is seen only as the outline of what lies within. */
export const GLASS = 0.14;
/** A body with less opacity lets one see what is within already. */
const OPAQUE = 0.5;

/**
 * The layers whose opaque bodies would hide a new layer that lies within them.
 *
 * @returns their ids
 */
export function bodiesHiding(layer: Layer, scene: Scene, run: RunDescription): string[] {
  if (run.dimension < 3 || !liesWithin(layer, scene)) return [];
  const inner = partsOf(layer, scene, run);
  if (inner.length === 0) return [];
  const box = inner.map(partBounds).reduce(joinBounds);
  return scene.layers
    .filter((other) => other.visible && other.opacity > OPAQUE && other.sides === 'both')
    .filter((other) => drawsBodies(other, scene))
    .filter((other) =>
      partsOf(other, scene, run).some((part) => inner.includes(part) || reachesAround(partBounds(part), box)),
    )
    .map((other) => other.id);
}

const operationsOf = (layer: Layer, scene: Scene) =>
  activeSteps(layer, scene).map((step) => operationById(step.op));

const liesWithin = (layer: Layer, scene: Scene): boolean =>
  operationsOf(layer, scene).some((operation) => operation.traits?.within);

/** Whether a layer shows whole bodies by their outer faces. */
const drawsBodies = (layer: Layer, scene: Scene): boolean =>
  operationsOf(layer, scene).every(
    ({ traits, gives }) => traits?.plain || (gives(3) === 3 && !traits?.within),
  );

function partsOf(layer: Layer, scene: Scene, run: RunDescription): RunPart[] {
  const { parts } = wholeChain(layer, scene);
  return run.parts.filter((p) => parts === null || parts.includes(p.name));
}

/** The steps that move the bodies a new layer is put into, so that it moves with them. */
export function displacementOf(layer: Layer, scene: Scene, run: RunDescription): Omit<ChainStep, 'id'>[] {
  const parts = partsOf(layer, scene, run);
  for (const other of scene.layers) {
    if (!other.visible || !partsOf(other, scene, run).some((p) => parts.includes(p))) continue;
    const moving = activeSteps(other, scene).filter((step) => operationById(step.op).traits?.displaces);
    if (moving.length > 0) return moving.map(({ id: _, ...step }) => step);
  }
  return [];
}

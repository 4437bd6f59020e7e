import type { ChainStep } from '../ops/chain/chain.ts';
import { operationById } from '../ops/registry.ts';
import type { Layer, Scene } from './document.ts';
import { activeSteps } from './layer-chain.ts';

/** The step of a line that draws arrows; null where none does. */
export const arrowStepOf = (layer: Layer, scene: Scene): ChainStep | null =>
  activeSteps(layer, scene).find((s) => operationById(s.op).traits?.drawsArrows) ?? null;

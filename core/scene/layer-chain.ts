import type { RunDescription } from '../model/run.ts';
import type { SetRule } from '../model/set-rule.ts';
import { understoodSteps } from '../ops/chain/understood.ts';
import type { ChainStep, Layer, Scene } from './document.ts';

/** What a layer really shows: its own source and chain, or those of the layer it follows with its own behind them. */
export interface WholeChain {
  parts: string[] | null;
  set: string | null;
  chain: ChainStep[];
  /** Why it has no source; its settings are kept. */
  missing: string | null;
}

/** Follows a layer to its source. A source that is gone, or that leads back to the layer, is said and shows nothing. */
export function wholeChain(layer: Layer, scene: Scene, seen: readonly string[] = []): WholeChain {
  const { parts, set, chain } = layer;
  if (layer.from === null) return { parts, set, chain, missing: null };
  if (seen.includes(layer.id)) return { parts: [], set: null, chain, missing: 'This line follows itself.' };
  const source = scene.layers.find((l) => l.id === layer.from);
  if (!source)
    return {
      parts: [],
      set: null,
      chain,
      missing: 'The line it follows is gone. Choose another source; its settings are kept.',
    };
  const before = wholeChain(source, scene, [...seen, layer.id]);
  return { ...before, chain: [...before.chain, ...chain] };
}

/** The steps a layer goes through: those that are understood and switched on. */
export const activeSteps = (layer: Layer, scene: Scene): ChainStep[] =>
  understoodSteps(wholeChain(layer, scene).chain).filter((step) => !step.off);

/** The rule of a set by its name: one made for the scene, or one of the files; null when there is none. */
export function ruleOfSet(name: string, scene: Scene, run: RunDescription): SetRule | null {
  const own = scene.sets.find((s) => s.name === name);
  if (own) return own.rule;
  return run.sets.some((s) => s.name === name) ? { kind: 'group', name } : null;
}

/** The step a layer shows while the scene shows `step`. */
export function stepOfLayer({ time }: Layer, step: number, steps: number): number {
  const wanted = time.kind === 'fixed' ? time.step : time.kind === 'later' ? step + time.by : step;
  return Math.max(0, Math.min(steps - 1, wanted));
}

/** How far on a layer is from its step to the next, from 0 to below 1, while the scene is on its way between two. */
export const onwardOfLayer = (
  { time }: Layer,
  { onward }: Pick<Scene, 'onward'>,
  step: number,
  steps: number,
): number => (time.kind === 'fixed' || step + 1 >= steps ? 0 : onward);

/** How lines are called where others follow them. */
export function layerLabel(layer: Layer, scene: Scene): string {
  return layer.name ? `“${layer.name}”` : `line ${scene.layers.indexOf(layer) + 1}`;
}

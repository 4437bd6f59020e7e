import type { RunDescription } from '#core/model/run.ts';
import { unitChange } from '#core/model/units.ts';
import type { Scale } from '#core/scene/document.ts';
import { settleScale, unitsOfScale } from '#core/scene/settle-scale.ts';
import { spreadOfScale } from '#core/scene/spread-of-scale.ts';
import { useDesk, useRun, useScene } from '../desk-store.ts';

/** Numbers of a scale as they are shown and typed. */
export interface ShownUnit {
  unit: string | null;
  /** As the run states it. */
  stored: string | null;
  shown(value: number): number;
  back(shown: number): number;
  /** A difference of two values. */
  shownStep(step: number): number;
  backStep(step: number): number;
}

const round = (v: number): number => Number(v.toPrecision(12));

export const useShownUnit = (scale: Scale): ShownUnit => shownUnit(scale, useRun());

function shownUnit(scale: Scale, run: RunDescription): ShownUnit {
  const { stored, shown } = unitsOfScale(scale, run);
  const change = (stored && shown && unitChange(stored, shown)) || { factor: 1, shift: 0 };
  const same = change.factor === 1 && change.shift === 0;
  return {
    unit: shown,
    stored,
    shown: (v) => (same ? v : round(v * change.factor + change.shift)),
    back: (v) => (same ? v : round((v - change.shift) / change.factor)),
    shownStep: (v) => (same ? v : round(v * change.factor)),
    backStep: (v) => (same ? v : round(v / change.factor)),
  };
}

/** How the numbers of a scale are shown, and its range; null without a scale. */
export function useScaleNumbers(
  scale: Scale | undefined,
): { number: ShownUnit; range: [number, number] } | null {
  const run = useRun();
  const scene = useScene();
  const spreads = useDesk((s) => s.spreads);
  if (!scale) return null;
  const { low, high } = settleScale(scale, run, scene.step, spreadOfScale(scale, scene, spreads));
  return { number: shownUnit(scale, run), range: [low, high] };
}

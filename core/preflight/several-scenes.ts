import { parseQuantity } from '../model/quantity.ts';
import { fieldByKey, type RunDescription } from '../model/run.ts';
import type { Scene } from '../scene/document.ts';
import { unitsOfScale } from '../scene/settle-scale.ts';
import type { ShownSpread } from '../scene/spread-of-scale.ts';
import { asFigure } from './as-figure.ts';
import { scalesOnShow, sceneToCheck } from './checked-scene.ts';
import { preflight } from './registry.ts';
import type { CheckedFigure, Finding } from './rule.ts';

/** A scene that is shown beside others. */
export interface SceneBesideOthers {
  id: string;
  name: string;
  scene: Scene;
  run: RunDescription;
  step: number;
  /** How values are spread over what is shown; null where that is not known. */
  spreads: readonly ShownSpread[] | null;
}

const NOTHING_KNOWN = { readings: {}, curves: {}, picture: null };

/** What should be known of scenes that are shown together, as far as their documents tell. */
export function findingsOfSeveral(shown: readonly SceneBesideOthers[]): Finding[] {
  const figures = shown.map(
    ({ id, name, scene, run, step, spreads }): CheckedFigure => ({
      id,
      name,
      stale: false,
      scales: scalesOnShow(scene, run, step, spreads ?? [])
        // Where it ends is not known.
        .filter(({ scale }) => spreads !== null || scale.range.kind !== 'shown')
        .map(({ scale, settled }) => ({
          name: scale.name,
          // Of other runs the same quantity has another key at times, but seldom another name.
          quantity: fieldByKey(run, parseQuantity(scale.quantity).field)?.name ?? scale.name,
          unit: unitsOfScale(scale, run).shown,
          low: settled.shownNumber(settled.low),
          high: settled.shownNumber(settled.high),
        })),
    }),
  );
  return [
    ...preflight({ figures }, { waived: [] }),
    ...shown.flatMap(({ id, name, scene, run, step, spreads }) =>
      asFigure(
        preflight(sceneToCheck(scene, run, step, { ...NOTHING_KNOWN, spreads: spreads ?? [] }), scene.checks),
        { id, name },
      ),
    ),
  ];
}

import type { RunDescription } from '../../model/run.ts';
import type { Scene } from '../document.ts';
import { settleScale } from '../settle-scale.ts';
import { shownScales } from '../shown-scales.ts';
import { type ShownSpread, spreadOfScale } from '../spread-of-scale.ts';
import { noLogarithm } from './no-logarithm.ts';
import { nothingToTell } from './nothing-to-tell.ts';
import type { HonestyRule, Remark } from './rule.ts';
import { sameMap } from './same-map.ts';
import { saturated } from './saturated.ts';
import { unorderedMap } from './unordered-map.ts';
import { veiledValues } from './veiled-values.ts';

/** Every rule, in the order in which remarks are made. A new one is a file beside this and a line here. */
export const honestyRules: readonly HonestyRule[] = [
  saturated,
  unorderedMap,
  sameMap,
  noLogarithm,
  nothingToTell,
  veiledValues,
];

/**
 * What should be known about a scene as it is on show.
 *
 * @param spreads how values are spread over what is shown, as far as it is known
 */
export function remarksOn(
  scene: Scene,
  run: RunDescription,
  step: number,
  spreads: readonly ShownSpread[],
): Remark[] {
  const scales = shownScales(scene).map((scale) => {
    const spread = spreadOfScale(scale, scene, spreads);
    return { scale, spread, settled: settleScale(scale, run, step, spread) };
  });
  return honestyRules.flatMap((rule) =>
    rule.remarks({ scene, run, scales }).map((remark) => ({ ...remark, rule: rule.id })),
  );
}

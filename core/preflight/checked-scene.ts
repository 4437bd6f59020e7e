import type { RunDescription } from '../model/run.ts';
import type { Curves } from '../scene/charts/chart-drawn.ts';
import type { Scene } from '../scene/document.ts';
import type { Readings } from '../scene/reading.ts';
import { settleScale } from '../scene/settle-scale.ts';
import { shownScales } from '../scene/shown-scales.ts';
import { type ShownSpread, spreadOfScale } from '../scene/spread-of-scale.ts';
import type { PictureSeen } from './picture-seen.ts';
import type { CheckedScene, ShownScale, Subjects } from './rule.ts';
import { textsOfScene } from './texts-of-scene.ts';

/** The scales that something on show uses, as they are on show. */
export const scalesOnShow = (
  scene: Scene,
  run: RunDescription,
  step: number,
  spreads: readonly ShownSpread[],
): ShownScale[] =>
  shownScales(scene).map((scale) => {
    const spread = spreadOfScale(scale, scene, spreads);
    return { scale, spread, settled: settleScale(scale, run, step, spread) };
  });

/** What is known of a scene beside its document. */
export interface KnownOfScene {
  spreads: readonly ShownSpread[];
  readings: Readings;
  curves: Curves;
  picture: PictureSeen | null;
}

/** A scene at a step for the preflight, with all that can be read in it. */
export function sceneToCheck(
  scene: Scene,
  run: RunDescription,
  step: number,
  { spreads, readings, curves, picture }: KnownOfScene,
): Pick<Subjects, 'scene' | 'texts'> {
  const scales = scalesOnShow(scene, run, step, spreads);
  const checked: CheckedScene = { scene, run, step, scales, readings, curves, picture };
  return { scene: checked, texts: textsOfScene(scene, picture) };
}

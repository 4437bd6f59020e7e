import type { RunDescription } from '../model/run.ts';
import { unitChange } from '../model/units.ts';
import type { Scene } from './document.ts';
import { type ScaleEnds, withEnds, withoutEnds } from './scale-ends.ts';
import { unitsOfScale } from './settle-scale.ts';

/** What becomes of where a scale begins and ends on another run: it stays, or follows the values there. */
export type ScaleFate = 'kept' | 'refitted';

/** What is usual: ends that were set stay, and those that followed the values go on to follow them. */
export const usualFate = (scale: Scene['scales'][number]): ScaleFate =>
  scale.range.kind === 'fixed' ? 'kept' : 'refitted';

/**
 * A scene that came to another run, with its scales kept or refitted.
 *
 * @param scene as it is on the other run
 * @param before where its scales began and ended, in the units of the run it comes from
 * @param fates by the ids of scales
 */
export function withScaleFates(
  scene: Scene,
  before: { scene: Scene; run: RunDescription; ends: ScaleEnds },
  run: RunDescription,
  fates: Readonly<Record<string, ScaleFate>>,
): Scene {
  const ends: Record<string, readonly [number, number]> = {};
  for (const scale of scene.scales) {
    const old = before.scene.scales.find((s) => s.id === scale.id);
    const own = Object.hasOwn(before.ends, scale.id) ? before.ends[scale.id] : null;
    if (fates[scale.id] !== 'kept' || !old || !own) continue;
    const [from, to] = [unitsOfScale(old, before.run).stored, unitsOfScale(scale, run).stored];
    const change = from !== null && to !== null && from !== to ? unitChange(from, to) : null;
    ends[scale.id] = change
      ? [own[0] * change.factor + change.shift, own[1] * change.factor + change.shift]
      : own;
  }
  const refitted = new Set(Object.keys(fates).filter((id) => fates[id] === 'refitted'));
  return withEnds(withoutEnds(scene, refitted), ends);
}

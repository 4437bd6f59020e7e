import { parseQuantity } from '../model/quantity.ts';
import { fieldByKey, type RunDescription } from '../model/run.ts';
import type { Scene } from './document.ts';
import { settleScale } from './settle-scale.ts';
import { shownScales } from './shown-scales.ts';
import { type ShownSpread, spreadOfScale } from './spread-of-scale.ts';

/** Where colour scales of a scene begin and end, by their ids, in the units of their quantities as stored. */
export type ScaleEnds = Readonly<Record<string, readonly [number, number]>>;

/**
 * Where the scales in use begin and end; those of quantities that are nowhere to be had are left out.
 *
 * @param shown how values are spread over what is shown, where that is known
 */
export function endsOfScales(scene: Scene, run: RunDescription, shown: readonly ShownSpread[]): ScaleEnds {
  const ends: Record<string, [number, number]> = {};
  for (const scale of shownScales(scene)) {
    const spread = spreadOfScale(scale, scene, shown);
    const isKnown = fieldByKey(run, parseQuantity(scale.quantity).field) !== null;
    if (!isKnown && (spread === null || spread.weight === 0)) continue;
    const { low, high } = settleScale(scale, run, scene.step, spread);
    ends[scale.id] = [low, high];
  }
  return ends;
}

/** The least ends that reach over both. */
export function joinEnds(a: ScaleEnds, b: ScaleEnds): ScaleEnds {
  const joined: Record<string, readonly [number, number]> = { ...a };
  for (const [id, [low, high]] of Object.entries(b)) {
    const own = a[id];
    joined[id] = own ? [Math.min(own[0], low), Math.max(own[1], high)] : [low, high];
  }
  return joined;
}

/** A scene whose scales begin and end where they are told to; others stay as they are. */
export const withEnds = (scene: Scene, ends: ScaleEnds): Scene => ({
  ...scene,
  scales: scene.scales.map((scale) => {
    const own = Object.hasOwn(ends, scale.id) ? ends[scale.id] : null;
    return own ? { ...scale, range: { kind: 'fixed', low: own[0], high: own[1] } } : scale;
  }),
});

/** A scene whose scales follow the values again, where they were held at ends of their own. */
export const withoutEnds = (scene: Scene, ids: ReadonlySet<string>): Scene => ({
  ...scene,
  scales: scene.scales.map((scale) =>
    ids.has(scale.id) && scale.range.kind === 'fixed' ? { ...scale, range: { kind: 'all-steps' } } : scale,
  ),
});

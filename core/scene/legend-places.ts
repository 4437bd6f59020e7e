import type { Scale, Scene } from './document.ts';
import { shownScales } from './shown-scales.ts';

/** Middles of legends across the picture, in the order in which they are taken. */
const PLACES = [0.925, 0.075, 0.785, 0.215, 0.645, 0.355];

/** Where legends stand that nobody has moved, as a fraction from the top. */
const HEIGHT = 0.5;

/** How near the middles of two may come, as a share of the picture. */
const APART = 0.11;

type WithLegend = Pick<Scale, 'legend'>;

/** Where the next legend stands: at the first place that no other one takes. */
export function freeLegendPlace(others: readonly WithLegend[]): number {
  const taken = others
    .map(({ legend }) => legend)
    .filter((l) => l.visible && l.upright && Math.abs(l.y - HEIGHT) < 0.45);
  return PLACES.find((x) => taken.every((l) => Math.abs(l.x - x) > APART)) ?? PLACES[0];
}

/** Whether a legend stands where it was put by itself. */
export const isUnmoved = ({ legend: { upright, x, y } }: WithLegend): boolean =>
  upright && y === HEIGHT && PLACES.includes(x);

/**
 * A scene whose legends stand in free space, when other ones are shown than before: those that nobody moved are set one
 * after the other, beside those that somebody did.
 */
export function withLegendsSet(scene: Scene, before: Scene): Scene {
  const shown = shownScales(scene).filter((s) => s.legend.visible);
  const same = shownScales(before).filter((s) => s.legend.visible);
  if (shown.map((s) => s.id).join() === same.map((s) => s.id).join()) return scene;
  const set: Scale[] = shown.filter((s) => !isUnmoved(s));
  for (const scale of shown.filter(isUnmoved))
    set.push({ ...scale, legend: { ...scale.legend, x: freeLegendPlace(set) } });
  const moved = new Map(set.map((s) => [s.id, s]));
  if (shown.every((s) => moved.get(s.id)!.legend.x === s.legend.x)) return scene;
  return { ...scene, scales: scene.scales.map((s) => moved.get(s.id) ?? s) };
}

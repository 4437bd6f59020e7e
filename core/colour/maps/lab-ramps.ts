import { clipped, type Lab, labToRgb, type Rgb } from '../cielab.ts';
import { colourDifference } from '../perceived.ts';
import { MAP_COLOURS } from './colour-map.ts';

/**
 * A colour ramp through anchor colours in CIE L*a*b* whose lightness is a straight line. Anchors must rise in
 * lightness; a and b follow a smooth curve between them (Catmull-Rom tangents).
 */
export function straightLightnessRamp(anchors: Lab[], samples: number = MAP_COLOURS): Rgb[] {
  const [from, to] = [anchors[0][0], anchors[anchors.length - 1][0]];
  return Array.from({ length: samples }, (_, i) => {
    const lightness = from + ((to - from) * i) / (samples - 1);
    return clipped(labToRgb([lightness, curve(anchors, lightness, 1), curve(anchors, lightness, 2)]));
  });
}

/** How much finer ramps are measured than they are kept. */
const FINE = 8;

/**
 * The colours of finely sampled ramps at places between which all steps look the same size (CIEDE2000), in the mean of
 * all ramps: the same places for each, so that what is equally light stays so.
 */
function evenSteps(ramps: readonly (readonly Rgb[])[], samples: number = MAP_COLOURS): Rgb[][] {
  const count = ramps[0].length;
  const way = [0];
  for (let i = 1; i < count; i++)
    way.push(ramps.reduce((sum, fine) => sum + colourDifference(fine[i - 1], fine[i]), way[i - 1]));
  const whole = way[count - 1];
  let k = 0;
  const places = Array.from({ length: samples }, (_, i) => {
    const wanted = (whole * i) / (samples - 1);
    while (k < count - 2 && way[k + 1] < wanted) k++;
    return k + Math.min(1, (wanted - way[k]) / (way[k + 1] - way[k] || 1));
  });
  return ramps.map((fine) =>
    places.map((at) => {
      const i = Math.min(Math.floor(at), count - 2);
      return fine[i].map((c, j) => c + (at - i) * (fine[i + 1][j] - c)) as Rgb;
    }),
  );
}

/** A ramp that rises in lightness and whose steps all look the same size. */
export const evenRamp = (anchors: Lab[]): Rgb[] =>
  evenSteps([straightLightnessRamp(anchors, FINE * MAP_COLOURS)])[0];

/** Two ramps that meet in the middle: `low` and `high` both rise towards their shared lightest colour. */
export function twoSidedRamp(low: Lab[], high: Lab[]): Rgb[] {
  const fine = [low, high].map((side) => straightLightnessRamp(side, FINE * MAP_COLOURS));
  const [below, above] = evenSteps(fine, MAP_COLOURS / 2);
  return [...below, ...above.reverse()];
}

/**
 * A closed ring of colours whose steps all look the same size; the first and the last are neighbours. It goes through
 * its anchors on a smooth curve (Catmull-Rom).
 */
export function evenRing(anchors: Lab[]): Rgb[] {
  const n = anchors.length;
  const count = FINE * MAP_COLOURS;
  const fine = Array.from({ length: count + 1 }, (_, i) => {
    const at = (i / count) * n;
    const k = Math.floor(at) % n;
    const t = at - Math.floor(at);
    const [p0, p1, p2, p3] = [-1, 0, 1, 2].map((d) => anchors[(k + d + n) % n]);
    const lab = p1.map((v, c) => {
      const m1 = (p2[c] - p0[c]) / 2;
      const m2 = (p3[c] - v) / 2;
      return hermite(t, v, p2[c], m1, m2);
    }) as Lab;
    return clipped(labToRgb(lab));
  });
  // The last colour is one step before the first, not the first again.
  return evenSteps([fine], MAP_COLOURS + 1)[0].slice(0, MAP_COLOURS);
}

/** Ramps one after the other, each with its share of the map. */
export function joinedRamps(parts: readonly { share: number; colours: readonly Rgb[] }[]): Rgb[] {
  const whole = parts.reduce((sum, p) => sum + p.share, 0);
  let before = 0;
  const ends = parts.map((p) => (before += p.share / whole));
  return Array.from({ length: MAP_COLOURS }, (_, i) => {
    const at = (i + 0.5) / MAP_COLOURS;
    const k = ends.findIndex((end) => at < end);
    const from = k === 0 ? 0 : ends[k - 1];
    const { colours } = parts[k];
    return colours[
      Math.min(colours.length - 1, Math.floor(((at - from) / (ends[k] - from)) * colours.length))
    ];
  });
}

const hermite = (t: number, a: number, b: number, ma: number, mb: number): number =>
  (2 * t ** 3 - 3 * t * t + 1) * a +
  (t ** 3 - 2 * t * t + t) * ma +
  (3 * t * t - 2 * t ** 3) * b +
  (t ** 3 - t * t) * mb;

function curve(anchors: Lab[], lightness: number, channel: 1 | 2): number {
  let k = 0;
  while (k < anchors.length - 2 && lightness > anchors[k + 1][0]) k++;
  const a = anchors[k];
  const b = anchors[k + 1];
  const width = b[0] - a[0];
  const slope = (i: number): number => {
    const before = anchors[Math.max(0, i - 1)];
    const behind = anchors[Math.min(anchors.length - 1, i + 1)];
    return ((behind[channel] - before[channel]) / (behind[0] - before[0])) * width;
  };
  return hermite((lightness - a[0]) / width, a[channel], b[channel], slope(k), slope(k + 1));
}

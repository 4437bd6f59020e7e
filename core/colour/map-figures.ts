import { lightness, type Rgb } from './cielab.ts';
import { seenBy, type Vision } from './colour-vision.ts';
import type { MapGroup } from './maps/colour-map.ts';
import { colourDifference } from './perceived.ts';

/** Steps in which a map is measured: about as many as an eye tells apart along it. */
const STEPS = 32;

export interface MapFigures {
  /** L* at `STEPS` + 1 evenly spaced places. */
  lightness: number[];
  /** Largest deviation of a step from the mean of all, as a share of it (CIEDE2000). */
  unevenness: number;
  /** Whether lightness tells low from high: along the whole map, or to both sides of its middle. */
  ordered: boolean;
}

const sampled = (colours: readonly Rgb[]): Rgb[] =>
  Array.from({ length: STEPS + 1 }, (_, i) => {
    const at = (i / STEPS) * (colours.length - 1);
    const k = Math.min(Math.floor(at), colours.length - 2);
    return colours[k].map((c, j) => c + (at - k) * (colours[k + 1][j] - c)) as Rgb;
  });

/** How a map does to the eye. */
export function mapFigures(colours: readonly Rgb[], group: MapGroup): MapFigures {
  const taken = sampled(colours);
  const steps = taken.slice(1).map((c, i) => colourDifference(c, taken[i]));
  const mean = steps.reduce((a, b) => a + b, 0) / steps.length;
  const light = taken.map(lightness);
  return {
    lightness: light,
    unevenness: mean > 0 ? Math.max(...steps.map((s) => Math.abs(s / mean - 1))) : 0,
    ordered: isOrdered(light, group),
  };
}

/** A fall that nobody sees, in L*. */
const SLACK = 1;

const rises = (light: readonly number[]): boolean => {
  let top = light[0];
  for (const l of light) {
    if (l < top - SLACK) return false;
    top = Math.max(top, l);
  }
  return light[light.length - 1] > light[0] + SLACK;
};

function isOrdered(light: number[], group: MapGroup): boolean {
  const oneWay = (some: number[]): boolean => rises(some) || rises([...some].reverse());
  if (oneWay(light)) return true;
  if (group !== 'diverging') return false;
  const half = Math.floor(light.length / 2);
  return oneWay(light.slice(0, half + 1)) && oneWay(light.slice(half));
}

/** Some colours as another eye sees them. */
export const seenAll = (colours: readonly Rgb[], vision: Vision): Rgb[] =>
  colours.map((c) => seenBy(c, vision));

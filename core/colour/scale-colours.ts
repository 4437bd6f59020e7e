import type { Rgb } from './cielab.ts';
import { colourMapById } from './maps.ts';

/** How values become colours, once the range is settled. The shader, the legend and every export read this. */
export interface ScaleColours {
  map: string;
  reversed: boolean;
  /** Number of equal bands, or null for a continuous scale. */
  bands: number | null;
  low: number;
  high: number;
}

/** Shown where a field has no value. */
export const MISSING: Rgb = [0.6, 0.58, 0.56];

/** Position of a value on the scale, 0..1, after clamping and banding. A scale of no width is met in the middle. */
export function scalePosition(scale: ScaleColours, value: number): number {
  const width = scale.high - scale.low;
  const t = width > 0 ? Math.min(1, Math.max(0, (value - scale.low) / width)) : 0.5;
  if (scale.bands === null) return t;
  if (scale.bands === 1) return 0.5;
  return Math.min(Math.floor(t * scale.bands), scale.bands - 1) / (scale.bands - 1);
}

/** The table of a scale, low value first, already reversed where asked. */
export function scaleTable(scale: Pick<ScaleColours, 'map' | 'reversed'>): Rgb[] {
  const { colours } = colourMapById(scale.map);
  return scale.reversed ? [...colours].reverse() : colours;
}

/** sRGB colour of a value, with straight lines between the entries of the table. */
export function colourOf(scale: ScaleColours, value: number): Rgb {
  if (Number.isNaN(value)) return MISSING;
  const table = scaleTable(scale);
  const at = scalePosition(scale, value) * (table.length - 1);
  const i = Math.min(Math.floor(at), table.length - 2);
  const f = at - i;
  return table[i].map((c, k) => c + f * (table[i + 1][k] - c)) as Rgb;
}

export const cssColour = (c: Rgb): string => `rgb(${c.map((v) => Math.round(v * 255)).join(' ')})`;

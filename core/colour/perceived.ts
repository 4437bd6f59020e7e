import {
  type Color,
  differenceCiede2000,
  interpolate,
  modeLab65,
  modeLrgb,
  modeOklab,
  modeRgb,
  useMode,
} from 'culori/fn';
import { clipped, type Rgb } from './cielab.ts';

const toRgb = useMode(modeRgb);
useMode(modeLrgb);
useMode(modeLab65);
useMode(modeOklab);

const ciede2000 = differenceCiede2000();
const ofLibrary = ([r, g, b]: Rgb): Color => ({ mode: 'rgb', r, g, b });

/** How different two colours look (CIEDE2000, ISO/CIE 11664-6). */
export const colourDifference = (a: Rgb, b: Rgb): number => ciede2000(ofLibrary(a), ofLibrary(b));

/** Spaces in which colours between stops are found: two made for the eye, and that of the screen. */
export const mixingSpaces = ['oklab', 'lab', 'screen'] as const;
export type MixingSpace = (typeof mixingSpaces)[number];

const modes = { oklab: 'oklab', lab: 'lab65', screen: 'rgb' } as const;

/** A colour at a place, 0..1. */
export interface ColourStop {
  at: number;
  colour: Rgb;
}

/**
 * So many evenly spaced colours through stops, mixed in a space; before the first and behind the last stop they go on
 * as these.
 *
 * @param stops at least one, in order
 */
export function colourRamp(stops: readonly ColourStop[], space: MixingSpace, samples: number): Rgb[] {
  if (stops.length === 1) return Array.from({ length: samples }, () => stops[0].colour);
  const mix = interpolate(
    stops.map(({ at, colour }): [Color, number] => [ofLibrary(colour), at]),
    modes[space],
  );
  return Array.from({ length: samples }, (_, i) => {
    const at = Math.min(stops[stops.length - 1].at, Math.max(stops[0].at, i / (samples - 1)));
    const { r, g, b } = toRgb(mix(at))!;
    return clipped([r, g, b]);
  });
}

import {
  interpolateCividis,
  interpolateInferno,
  interpolateMagma,
  interpolatePlasma,
  interpolateTurbo,
  interpolateViridis,
} from 'd3-scale-chromatic';
import type { Rgb } from './cielab.ts';
import { straightLightnessRamp, twoSidedRamp } from './lab-ramps.ts';

export type MapKind = 'one-way' | 'two-sided' | 'spectrum';

export interface ColourMap {
  id: string;
  name: string;
  kind: MapKind;
  /** What it is good for, in a few words. */
  note: string;
  /** 256 sRGB colours from low to high. */
  colours: Rgb[];
}

function published(interpolate: (t: number) => string): Rgb[] {
  return Array.from({ length: 256 }, (_, i) => {
    const text = interpolate(i / 255);
    if (text.startsWith('#')) {
      return [1, 3, 5].map((at) => Number.parseInt(text.slice(at, at + 2), 16) / 255) as Rgb;
    }
    return text
      .match(/\d+/g)!
      .slice(0, 3)
      .map((v) => Number(v) / 255) as Rgb;
  });
}

/** Every colour map. A new one is a line here; the order is the order of the chooser. */
export const colourMaps: readonly ColourMap[] = [
  {
    id: 'heat',
    name: 'Heat',
    kind: 'one-way',
    note: 'embers to cream; temperature',
    colours: straightLightnessRamp([
      [18, 26, 6],
      [34, 50, 30],
      [52, 58, 54],
      [70, 34, 66],
      [86, 6, 48],
      [96, -1, 14],
    ]),
  },
  {
    id: 'steam',
    name: 'Steam',
    kind: 'one-way',
    note: 'deep water to vapour; speed, moisture',
    colours: straightLightnessRamp([
      [18, 14, -38],
      [36, 2, -40],
      [56, -14, -30],
      [76, -20, -12],
      [95, -4, 4],
    ]),
  },
  {
    id: 'crust',
    name: 'Crust',
    kind: 'one-way',
    note: 'rye to flour; loads, thickness',
    colours: straightLightnessRamp([
      [16, 8, 8],
      [36, 20, 30],
      [58, 18, 46],
      [78, 6, 38],
      [95, 0, 12],
    ]),
  },
  {
    id: 'herb',
    name: 'Herb',
    kind: 'one-way',
    note: 'dark leaf to pale; a second scale beside Heat',
    colours: straightLightnessRamp([
      [18, -6, -14],
      [38, -26, 0],
      [60, -36, 26],
      [80, -26, 44],
      [95, -8, 22],
    ]),
  },
  {
    id: 'viridis',
    name: 'Viridis',
    kind: 'one-way',
    note: 'published; safe for colour blindness',
    colours: published(interpolateViridis),
  },
  {
    id: 'cividis',
    name: 'Cividis',
    kind: 'one-way',
    note: 'published; same to nearly every eye',
    colours: published(interpolateCividis),
  },
  {
    id: 'inferno',
    name: 'Inferno',
    kind: 'one-way',
    note: 'published; black to pale yellow',
    colours: published(interpolateInferno),
  },
  {
    id: 'magma',
    name: 'Magma',
    kind: 'one-way',
    note: 'published; black to pale rose',
    colours: published(interpolateMagma),
  },
  {
    id: 'plasma',
    name: 'Plasma',
    kind: 'one-way',
    note: 'published; strong colours throughout',
    colours: published(interpolatePlasma),
  },
  {
    id: 'frost-fire',
    name: 'Frost and fire',
    kind: 'two-sided',
    note: 'below and above a middle',
    colours: twoSidedRamp(
      [
        [28, 6, -44],
        [52, -8, -36],
        [76, -10, -16],
        [95, 0, 2],
      ],
      [
        [28, 46, 28],
        [52, 50, 40],
        [76, 20, 24],
        [95, 0, 2],
      ],
    ),
  },
  {
    id: 'moss-plum',
    name: 'Moss and plum',
    kind: 'two-sided',
    note: 'below and above a middle, quieter',
    colours: twoSidedRamp(
      [
        [30, -26, 14],
        [54, -28, 22],
        [78, -14, 14],
        [95, 0, 2],
      ],
      [
        [30, 36, -26],
        [54, 34, -26],
        [78, 14, -12],
        [95, 0, 2],
      ],
    ),
  },
  {
    id: 'turbo',
    name: 'Turbo',
    kind: 'spectrum',
    note: 'published; every colour, uneven lightness',
    colours: published(interpolateTurbo),
  },
];

/** The named map, or the first one when a scene names a map this version does not have. */
export function colourMapById(id: string): ColourMap {
  return colourMaps.find((m) => m.id === id) ?? colourMaps[0];
}

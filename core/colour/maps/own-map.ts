import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { hexToRgb, type Rgb } from '../cielab.ts';
import { colourRamp, type MixingSpace, mixingSpaces } from '../perceived.ts';
import { MAP_COLOURS } from './colour-map.ts';
import { colourMapById } from './registry.ts';

/** A colour map made by hand or read from a file; it lives in the scale that uses it. */
export interface OwnMap {
  name: string;
  /** In what space colours between stops are mixed; `none` gives each stop its own stretch of one colour. */
  space: MixingSpace | 'none';
  /** Places 0..1 in order, colours as `#rrggbb`. */
  stops: { at: number; colour: string }[];
}

export const MOST_STOPS = 256;

export const ownMapSchema: z.ZodType<OwnMap> = z.object({
  name: z.string().min(1).max(100),
  space: z.enum([...mixingSpaces, 'none']),
  stops: z
    .array(z.object({ at: boundedNumber().min(0).max(1), colour: z.string().regex(/^#[0-9a-f]{6}$/i) }))
    .min(1)
    .max(MOST_STOPS),
});

/** A map of this version by its id, or one of the scale's own. */
export type MapOfScale = string | OwnMap;

export const nameOfMap = (map: MapOfScale): string =>
  typeof map === 'string' ? colourMapById(map).name : map.name;

/** Whether its colours stand for themselves and are never mixed. */
export const isStepped = (map: MapOfScale): boolean =>
  typeof map === 'string' ? colourMapById(map).group === 'categorical' : map.space === 'none';

const made = new Map<string, readonly Rgb[]>();
const KEPT = 32;

/** Its colours from low to high: evenly spaced ones, or those that stand for themselves. */
export function coloursOfMap(map: MapOfScale): readonly Rgb[] {
  if (typeof map === 'string') return colourMapById(map).colours;
  const key = JSON.stringify(map);
  let colours = made.get(key);
  if (!colours) {
    const stops = [...map.stops]
      .sort((a, b) => a.at - b.at)
      .map(({ at, colour }) => ({ at, colour: hexToRgb(colour) }));
    colours = map.space === 'none' ? stops.map((s) => s.colour) : colourRamp(stops, map.space, MAP_COLOURS);
    if (made.size >= KEPT) made.clear();
    made.set(key, colours);
  }
  return colours;
}

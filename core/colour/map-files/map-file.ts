import { type Rgb, rgbToHex } from '../cielab.ts';
import { MOST_STOPS, type OwnMap } from '../maps/own-map.ts';

/** A way to write colour maps into a file and to read them. */
export interface MapFormat {
  id: string;
  name: string;
  /** Ending of its files, with the dot. */
  ending: string;
  type: string;
  /** Whether a text seems to be of this kind. */
  detects(text: string): boolean;
  /**
   * @param name for maps that have none in the file
   * @throws Error with reason, place and remedy
   */
  read(text: string, name: string): OwnMap[];
  write(map: OwnMap): string;
}

/** A colour at a place that may be in any unit. */
export interface Placed {
  at: number;
  colour: Rgb;
}

/**
 * Stops of a map from colours at places: the places are stretched to 0..1, and where there are more than a map may have,
 * every so many are taken.
 *
 * @throws Error where there is nothing to make a map of
 */
export function mapOfPlaced(name: string, placed: readonly Placed[], space: OwnMap['space']): OwnMap {
  if (placed.length < 2)
    throw new Error(
      `“${name}” has ${placed.length === 1 ? 'one colour' : 'no colours'}; a map has at least two.`,
    );
  const sorted = placed.map((p, i) => ({ ...p, i })).sort((a, b) => a.at - b.at || a.i - b.i);
  const [from, to] = [sorted[0].at, sorted[sorted.length - 1].at];
  const every = Math.ceil(sorted.length / MOST_STOPS);
  const last = sorted.length - 1;
  const taken = sorted.filter((_, i) => i % every === 0 || i === last).slice(-MOST_STOPS);
  return {
    name: name.slice(0, 100),
    space,
    stops: taken.map(({ at, colour }, i) => ({
      at: to > from ? Number(((at - from) / (to - from)).toPrecision(9)) : i / (taken.length - 1),
      colour: rgbToHex(colour),
    })),
  };
}

/** Channels as 0..1: where any is above 1 they were written as 0..255. */
export function asRgb(channels: readonly number[], of255: boolean): Rgb {
  return channels.slice(0, 3).map((v) => (of255 ? v / 255 : v)) as Rgb;
}

/** Colours of a map at its stops, as three numbers of 0..255. */
export const channels255 = (hex: string): number[] =>
  [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));

/** A place that is wrong, counted as editors count. */
export const wrongLine = (line: number, what: string): Error =>
  new Error(`Line ${line}: ${what} Give a position and red, green and blue, or just these three.`);

import { type Bands, bandEdges, MOST_BANDS } from '../model/levels.ts';
import { fromLinear, toLinear } from '../model/srgb.ts';
import { hexToRgb, type Rgb } from './cielab.ts';
import { coloursOfMap, isStepped, type MapOfScale } from './maps/own-map.ts';
import { LINEAR, type Spacing, spaced, unspaced } from './spacing.ts';
import { logTicks, roundTicks, symlogTicks } from './ticks.ts';

/** A value that stands for something by name. */
export interface Category {
  value: number;
  name: string;
  /** `#rrggbb`; null takes the next one of the map. */
  colour: string | null;
}

/** Which colours of a map a scale takes, and how. */
export interface MapUse {
  map: MapOfScale;
  reversed: boolean;
  /** The part of the map that is used, as places in it; the whole where it is absent. */
  crop?: readonly [number, number];
  /** How far its colours are turned around, as a share of the map: for maps that close. */
  rotate?: number;
}

/** How values become colours, once the range is settled. */
export interface ScaleColours extends MapUse {
  /** How it is parted into bands, or null for a continuous scale. */
  bands: Bands | null;
  low: number;
  high: number;
  /** Evenly spaced quantiles of all values, for bands of equal shares; null or absent where they are not known. */
  shares?: readonly number[] | null;
  spacing?: Spacing;
  /** `#rrggbb` of what lies below or above the range; null or absent for the colour of its end. */
  below?: string | null;
  above?: string | null;
  /** What is shown at all; null or absent has no limit. */
  shownFrom?: number | null;
  shownTo?: number | null;
  /** `#rrggbb` where a field has no value, `hidden`, or absent for the usual one. */
  missing?: string;
  /** How opaque along the scale: places 0..1 with opacities, in order; null or absent is opaque. */
  opacity?: readonly (readonly [number, number])[] | null;
  /** Values that stand for something; they take the place of range and bands. */
  categories?: readonly Category[] | null;
  /** How stored numbers become those that are shown; null or absent where they are shown as stored. */
  unit?: { factor: number; shift: number } | null;
}

/** Shown where a field has no value. */
export const MISSING: Rgb = [0.6, 0.58, 0.56];

/** Entries of the table the card looks colours up in: so many that lines between them are straight to the eye. */
export const TABLE_SIZE = 1024;

const AS_STORED = { factor: 1, shift: 0 };

const compiled = new Map<string, CompiledScale>();
const KEPT = 128;

/**
 * A scale made ready for all who use it: shader, legend, levels and every export read this and nothing else, so that
 * colours on the model are those of the legend.
 */
export class CompiledScale {
  /**
   * Where bands begin and end, from the low end to the high one, at most `MOST_BANDS` of them; of a continuous scale
   * only its ends.
   */
  readonly edges: readonly number[];
  private readonly bandColours: readonly Rgb[] | null;
  private readonly from: number;
  private readonly width: number;
  private made: Float32Array | null = null;

  private constructor(readonly colours: ScaleColours) {
    const { bands, low, high, shares = null, categories } = colours;
    const { map } = colours;
    this.from = spaced(low, this.spacing);
    this.width = spaced(high, this.spacing) - this.from;
    if (categories && categories.length > 0) this.edges = edgesBetween(categories);
    else if (bands || isStepped(map)) {
      const parts = bands ?? { kind: 'count', count: coloursOfMap(map).length, low: null, high: null };
      const edges = this.edgesOf(parts, shares);
      this.edges = edges.length > MOST_BANDS + 1 ? [...edges.slice(0, MOST_BANDS), high] : edges;
    } else this.edges = [low, high];
    this.bandColours = this.bandCount > 0 ? this.coloursOfBands() : null;
  }

  private edgesOf(bands: Bands, shares: readonly number[] | null): number[] {
    const { low, high } = this.colours;
    if (bands.kind === 'count' && this.spacing.kind !== 'linear')
      return Array.from({ length: bands.count + 1 }, (_, i) =>
        i === 0 ? low : i === bands.count ? high : this.value(i / bands.count),
      );
    // A step is one of the numbers that are shown: its multiples are round there.
    if (bands.kind === 'every') {
      const step = bands.step * Math.abs(this.unit.factor);
      const [a, b] = [this.shownNumber(low), this.shownNumber(high)];
      const edges = bandEdges({ ...bands, step }, { low: a, high: b, shares: null });
      return edges.map((v, i) => (i === 0 ? low : i === edges.length - 1 ? high : this.storedNumber(v)));
    }
    return bandEdges(bands, { low, high, shares });
  }

  private get unit(): { factor: number; shift: number } {
    return this.colours.unit ?? AS_STORED;
  }

  /** A stored number in the unit numbers are shown in. */
  shownNumber(value: number): number {
    const { factor, shift } = this.unit;
    return factor === 1 && shift === 0 ? value : Number((value * factor + shift).toPrecision(12));
  }

  /** The way back. */
  storedNumber(shown: number): number {
    const { factor, shift } = this.unit;
    return factor === 1 && shift === 0 ? shown : Number(((shown - shift) / factor).toPrecision(12));
  }

  static of(colours: ScaleColours): CompiledScale {
    const { shares, ...rest } = colours;
    const key = JSON.stringify([rest, colours.bands?.kind === 'share' ? shares : null]);
    let made = compiled.get(key);
    if (!made) {
      if (compiled.size >= KEPT) compiled.clear();
      compiled.set(key, (made = new CompiledScale({ ...colours })));
    }
    return made;
  }

  get low(): number {
    return this.categories ? this.edges[0] : this.colours.low;
  }

  get high(): number {
    return this.categories ? this.edges[this.edges.length - 1] : this.colours.high;
  }

  get spacing(): Spacing {
    return this.colours.spacing ?? LINEAR;
  }

  get categories(): readonly Category[] | null {
    const { categories } = this.colours;
    return categories && categories.length > 0 ? categories : null;
  }

  /** Position of a value along the scale, 0..1, before banding. A scale of no width is met in the middle. */
  fraction(value: number): number {
    if (this.categories) {
      const band = this.bandOf(value);
      const width = this.edges[band + 1] - this.edges[band];
      const within = width > 0 ? (value - this.edges[band]) / width : 0.5;
      return (band + Math.min(1, Math.max(0, within))) / this.bandCount;
    }
    const at = (spaced(value, this.spacing) - this.from) / this.width;
    return this.width > 0 ? Math.min(1, Math.max(0, at)) : 0.5;
  }

  /** Where in the map the colour of a value is, 0..1: the same for all values of a band. */
  position(value: number): number {
    const { bandCount } = this;
    if (bandCount === 0) return this.fraction(value);
    return bandCount === 1 ? 0.5 : this.bandOf(value) / (bandCount - 1);
  }

  /** How many bands it has; 0 for a continuous scale. */
  get bandCount(): number {
    const { bands, map } = this.colours;
    return bands === null && !this.categories && !isStepped(map) ? 0 : this.edges.length - 1;
  }

  /** The band a value lies in, the lowest or highest for what lies beyond. */
  bandOf(value: number): number {
    let band = 0;
    while (band < this.bandCount - 1 && value >= this.edges[band + 1]) band++;
    return band;
  }

  /** The value at a position along the scale: the way back from `fraction`. */
  value(fraction: number): number {
    if (this.categories) {
      const at = Math.min(this.bandCount - 1, Math.floor(fraction * this.bandCount));
      const t = fraction * this.bandCount - at;
      return this.edges[at] + t * (this.edges[at + 1] - this.edges[at]);
    }
    if (this.spacing.kind === 'linear') return this.low + fraction * (this.high - this.low);
    return unspaced(this.from + fraction * this.width, this.spacing);
  }

  /** The values a legend names: edges of bands, or round numbers within the range. */
  ticks(wanted = 5): number[] {
    if (this.categories) return this.categories.map((c) => c.value);
    if (this.bandCount === 0) return this.tidyTicks(wanted);
    const every = Math.ceil(this.bandCount / 8);
    return this.edges.filter((_, i) => i % every === 0);
  }

  /** Numbers within the range that are round as they are shown, whatever the bands. */
  tidyTicks(wanted = 5): number[] {
    const { spacing, unit } = this;
    const [low, high] = [this.shownNumber(this.low), this.shownNumber(this.high)];
    const ticks =
      spacing.kind === 'log'
        ? logTicks(low, high, wanted)
        : spacing.kind === 'symlog'
          ? symlogTicks(low, high, spacing.linear * unit.factor, wanted)
          : roundTicks(low, high, wanted);
    return ticks.map((v) => this.storedNumber(v));
  }

  /** The levels that part its colours: inner edges of bands, or the ticks of its legend between its ends. */
  get levels(): number[] {
    const all = this.bandCount === 0 ? this.ticks() : this.edges;
    return all.filter((v) => v > this.low && v < this.high);
  }

  /** Whether something of this value is not shown at all. */
  hides(value: number): boolean {
    const { shownFrom = null, shownTo = null } = this.colours;
    if (!this.knows(value)) return this.colours.missing === 'hidden';
    return (shownFrom !== null && value < shownFrom) || (shownTo !== null && value > shownTo);
  }

  /** Whether a value has a place on the scale. */
  knows(value: number): boolean {
    return !Number.isNaN(value) && (this.spacing.kind !== 'log' || value > 0);
  }

  /** Whether some values may be hidden. */
  get mayHide(): boolean {
    const { shownFrom = null, shownTo = null, missing } = this.colours;
    return shownFrom !== null || shownTo !== null || missing === 'hidden';
  }

  /** Whether some of it is seen through. */
  get isSeenThrough(): boolean {
    return this.colours.opacity?.some(([, opacity]) => opacity < 1) ?? false;
  }

  /** sRGB colour of a value, straight in linear light between the entries of the table. */
  colour(value: number): Rgb {
    const { below, above, missing } = this.colours;
    if (!this.knows(value)) return missing && missing !== 'hidden' ? hexToRgb(missing) : MISSING;
    if (below && value < this.low) return hexToRgb(below);
    if (above && value > this.high) return hexToRgb(above);
    if (this.bandColours) return this.bandColours[this.bandOf(value)];
    // As the card does it, so that legend and model agree to the last digit.
    const entries = ramp(this.colours);
    const at = this.fraction(value) * (TABLE_SIZE - 1);
    const i = Math.min(Math.floor(at), TABLE_SIZE - 2);
    const [a, b] = [entries[i], entries[i + 1]];
    return a.map((c, k) => fromLinear(toLinear(c) + (at - i) * (toLinear(b[k]) - toLinear(c)))) as Rgb;
  }

  /** How opaque a value is, 0..1, where it is shown. */
  opacityOf(value: number): number {
    const { opacity } = this.colours;
    return opacity ? onCurve(opacity, this.fraction(value)) : 1;
  }

  /**
   * What the card looks colours up in, `TABLE_SIZE` entries of four numbers in three rows: linear red, green, blue
   * and opacity for evenly spaced positions, low end first, or for each band its own; in red of the second row the edges
   * of the bands, in red of the third the levels.
   */
  get table(): Float32Array {
    this.made ??= this.makeTable();
    return this.made;
  }

  private makeTable(): Float32Array {
    const table = new Float32Array(12 * TABLE_SIZE);
    const entries = this.bandColours ?? ramp(this.colours);
    for (const [i, colour] of entries.entries()) {
      const at = this.bandColours ? this.value((i + 0.5) / entries.length) : this.value(i / (TABLE_SIZE - 1));
      table.set([...colour.map(toLinear), this.opacityOf(at)], 4 * i);
    }
    for (const [i, edge] of this.edges.entries()) table[4 * (TABLE_SIZE + i)] = edge;
    for (const [i, level] of this.levels.entries()) table[4 * (2 * TABLE_SIZE + i)] = level;
    return table;
  }

  private coloursOfBands(): Rgb[] {
    const n = this.bandCount;
    const { map, reversed } = this.colours;
    const own = isStepped(map) ? coloursOfMap(map) : null;
    return Array.from({ length: n }, (_, i) => {
      const category = this.categories?.[i].colour;
      if (category) return hexToRgb(category);
      // Colours that stand for themselves are taken in turn, not stretched.
      if (own) return own[(reversed ? own.length * n - 1 - i : i) % own.length];
      return mapColour(this.colours, n === 1 ? 0.5 : i / (n - 1));
    });
  }
}

/** Half way between neighbours, and as far beyond the outer ones. */
function edgesBetween(categories: readonly Category[]): number[] {
  const values = categories.map((c) => c.value);
  if (values.length === 1) return [values[0] - 0.5, values[0] + 0.5];
  const inner = values.slice(1).map((v, i) => (v + values[i]) / 2);
  const last = values.length - 1;
  return [2 * values[0] - inner[0], ...inner, 2 * values[last] - inner[last - 1]];
}

/** sRGB colour of a map at a position, 0..1. */
export function mapColour({ map, reversed, crop, rotate = 0 }: MapUse, position: number): Rgb {
  const colours = coloursOfMap(map);
  const [from, to] = crop ?? [0, 1];
  let place = from + (reversed ? 1 - position : position) * (to - from);
  // Turned around, the last colour runs into the first.
  if (rotate !== 0) place = (place + rotate) % 1;
  if (place < 0) place += 1;
  const at = place * (colours.length - 1);
  const i = Math.min(Math.floor(at), colours.length - 2);
  if (i < 0) return colours[0];
  const f = at - i;
  return colours[i].map((c, k) => c + f * (colours[i + 1][k] - c)) as Rgb;
}

const ramps = new Map<string, Rgb[]>();

/** The colours of a map at `TABLE_SIZE` evenly spaced positions. */
function ramp({ map, reversed, crop, rotate }: MapUse): Rgb[] {
  const key = JSON.stringify([map, reversed, crop, rotate]);
  let made = ramps.get(key);
  if (!made) {
    if (ramps.size >= KEPT) ramps.clear();
    made = Array.from({ length: TABLE_SIZE }, (_, i) =>
      mapColour({ map, reversed, crop, rotate }, i / (TABLE_SIZE - 1)),
    );
    ramps.set(key, made);
  }
  return made;
}

/** Straight between the points of a curve, level before the first and behind the last. */
export function onCurve(curve: readonly (readonly [number, number])[], at: number): number {
  const next = curve.findIndex(([place]) => place >= at);
  if (next === 0) return curve[0][1];
  if (next < 0) return curve[curve.length - 1][1];
  const [[a, from], [b, to]] = [curve[next - 1], curve[next]];
  return from + ((at - a) / (b - a || 1)) * (to - from);
}

export const cssColour = (c: Rgb): string => `rgb(${c.map((v) => Math.round(v * 255)).join(' ')})`;

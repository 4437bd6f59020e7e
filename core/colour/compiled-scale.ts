import { scaleLinear } from 'd3-scale';
import { type Bands, bandEdges } from '../model/levels.ts';
import { type Rgb, toLinear } from './cielab.ts';
import { colourMapById } from './maps.ts';

/** How values become colours, once the range is settled. */
export interface ScaleColours {
  map: string;
  reversed: boolean;
  /** How it is parted into bands, or null for a continuous scale. */
  bands: Bands | null;
  low: number;
  high: number;
  /** Evenly spaced quantiles of all values, for bands of equal shares; null or absent where they are not known. */
  shares?: readonly number[] | null;
}

/** Most bands a scale may have. */
export const MOST_BANDS = 64;

/** Shown where a field has no value. */
export const MISSING: Rgb = [0.6, 0.58, 0.56];

/** Entries of the table the card looks colours up in: so many that lines between them are straight to the eye. */
export const TABLE_SIZE = 1024;

const compiled = new Map<string, CompiledScale>();
const KEPT = 64;

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

  private constructor(readonly colours: ScaleColours) {
    const { bands, low, high, shares = null } = colours;
    const edges = bands ? bandEdges(bands, { low, high, shares }) : [low, high];
    this.edges = edges.length > MOST_BANDS + 1 ? [...edges.slice(0, MOST_BANDS), high] : edges;
  }

  static of(colours: ScaleColours): CompiledScale {
    const { map, reversed, bands, low, high, shares } = colours;
    const key = JSON.stringify([map, reversed, bands, low, high, bands?.kind === 'share' ? shares : null]);
    let made = compiled.get(key);
    if (!made) {
      if (compiled.size >= KEPT) compiled.clear();
      compiled.set(key, (made = new CompiledScale({ ...colours })));
    }
    return made;
  }

  get low(): number {
    return this.colours.low;
  }

  get high(): number {
    return this.colours.high;
  }

  /** Position of a value along the scale, 0..1, before banding. A scale of no width is met in the middle. */
  fraction(value: number): number {
    const width = this.high - this.low;
    return width > 0 ? Math.min(1, Math.max(0, (value - this.low) / width)) : 0.5;
  }

  /** Where in the map the colour of a value is, 0..1: the same for all values of a band. */
  position(value: number): number {
    const { bandCount } = this;
    if (bandCount === 0) return this.fraction(value);
    if (bandCount === 1) return 0.5;
    let band = 0;
    while (band < bandCount - 1 && value >= this.edges[band + 1]) band++;
    return band / (bandCount - 1);
  }

  /** How many bands it has; 0 for a continuous scale. */
  get bandCount(): number {
    return this.colours.bands === null ? 0 : this.edges.length - 1;
  }

  /** The value at a position along the scale: the way back from `fraction`. */
  value(fraction: number): number {
    return this.low + fraction * (this.high - this.low);
  }

  /** The values a legend names: edges of bands, or round numbers within the range. */
  ticks(wanted = 5): number[] {
    if (this.bandCount === 0) return roundTicks(this.low, this.high, wanted);
    const every = Math.ceil(this.bandCount / 8);
    return this.edges.filter((_, i) => i % every === 0);
  }

  /** The levels that part its colours: inner edges of bands, or the ticks of its legend between its ends. */
  get levels(): number[] {
    const all = this.bandCount === 0 ? this.ticks() : this.edges;
    return all.filter((v) => v > this.low && v < this.high);
  }

  /** sRGB colour of a value, with straight lines between the entries of its map. */
  colour(value: number): Rgb {
    return Number.isNaN(value) ? MISSING : mapColour(this.colours, this.position(value));
  }

  /** Linear red, green, blue and 1 for evenly spaced positions of the map, low end first: `TABLE_SIZE` entries. */
  get table(): Float32Array {
    return tableOf(this.colours.map, this.colours.reversed);
  }
}

/** sRGB colour of a map at a position, 0..1. */
export function mapColour({ map, reversed }: Pick<ScaleColours, 'map' | 'reversed'>, position: number): Rgb {
  const { colours } = colourMapById(map);
  const at = (reversed ? 1 - position : position) * (colours.length - 1);
  const i = Math.min(Math.floor(at), colours.length - 2);
  const f = at - i;
  return colours[i].map((c, k) => c + f * (colours[i + 1][k] - c)) as Rgb;
}

const tables = new Map<string, Float32Array>();

function tableOf(map: string, reversed: boolean): Float32Array {
  const key = `${map}/${reversed}`;
  let table = tables.get(key);
  if (!table) {
    table = new Float32Array(4 * TABLE_SIZE);
    for (let i = 0; i < TABLE_SIZE; i++)
      table.set([...mapColour({ map, reversed }, i / (TABLE_SIZE - 1)).map(toLinear), 1], 4 * i);
    tables.set(key, table);
  }
  return table;
}

/**
 * Round numbers between `low` and `high`: steps of 1, 2 or 5 times a power of ten, about `wanted` of them. Common
 * practice, no source; by d3-scale.
 */
export function roundTicks(low: number, high: number, wanted = 5): number[] {
  if (!(high > low) || !Number.isFinite(high - low)) return Number.isFinite(low) ? [low] : [];
  return scaleLinear([low, high], [0, 1]).ticks(Math.max(1, wanted));
}

export const cssColour = (c: Rgb): string => `rgb(${c.map((v) => Math.round(v * 255)).join(' ')})`;

/**
 * The only piece of shader that knows scales: `scaleColour(value)` gives the linear colour of a value. Its uniforms
 * are `uTable` (a texture of `table`), `uLow`, `uHigh`, `uBands` (0 for a continuous scale) and `uEdges` (where one band
 * ends and the next begins).
 */
export const scaleShader = /* glsl */ `
uniform sampler2D uTable;
uniform float uLow;
uniform float uHigh;
uniform int uBands;
uniform float uEdges[${MOST_BANDS}];

/** Position along the scale, 0..1. */
float scaleFraction(float value) {
  float width = uHigh - uLow;
  return width > 0.0 ? clamp((value - uLow) / width, 0.0, 1.0) : 0.5;
}

vec3 scaleColour(float value) {
  float t = scaleFraction(value);
  if (uBands > 1) {
    // The edges are sorted: the band is found by halving, in six steps for 64 of them.
    int band = 0;
    for (int stride = ${MOST_BANDS / 2}; stride > 0; stride /= 2)
      if (band + stride < uBands && value >= uEdges[band + stride]) band += stride;
    t = float(band) / float(uBands - 1);
  } else if (uBands == 1) t = 0.5;
  float at = t * ${TABLE_SIZE - 1}.0;
  float i = min(floor(at), ${TABLE_SIZE - 2}.0);
  vec3 a = texelFetch(uTable, ivec2(int(i), 0), 0).rgb;
  vec3 b = texelFetch(uTable, ivec2(int(i) + 1, 0), 0).rgb;
  return mix(a, b, at - i);
}
`;

import { rgbToHex } from '../../colour/cielab.ts';
import type { Category } from '../../colour/compiled-scale.ts';
import { MISSING } from '../../colour/compiled-scale.ts';
import { type MapOfScale, ownMapSchema } from '../../colour/maps/own-map.ts';
import { type NumberStyle, numberStyleSchema, PLAIN_NUMBERS } from '../../colour/number-style.ts';
import { LINEAR, type Spacing, spacingSchema } from '../../colour/spacing.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { type Bands, bandsSchema } from '../../model/levels.ts';
import { parseQuantity } from '../../model/quantity.ts';
import { z } from '../../model/schema.ts';
import { colourSchema } from './colour-code.ts';
import type { Declaration } from './declaration.ts';
import { type Legend, legend } from './legend.ts';
import { scalePhrase } from './scale-phrases.ts';

/**
 * Where a scale begins and ends: at the extremes of all steps, of this one, or of what the lines that use it show; at two
 * values; or so that a share of all values lies within and as many below as above.
 */
export type ScaleRange =
  | { kind: 'all-steps' }
  | { kind: 'this-step' }
  | { kind: 'shown' }
  | { kind: 'middle'; share: number }
  | { kind: 'fixed'; low: number; high: number };

/** How much of the values a scale covers that leaves out the few extreme ones. */
export const USUAL_MIDDLE = 0.98;

/** A value from or to which something is shown; `range` is the end of the colours. */
export type ShownEnd = number | 'range' | null;

/** Lines where the bands of a scale meet, or at its ticks. */
export interface LevelLines {
  shown: boolean;
  colour: string;
  /** As a multiple of a thin line. */
  width: number;
}

/** How a quantity becomes colours, for every layer that uses it. Numbers are in the unit of the quantity as stored. */
export interface Scale {
  id: string;
  name: string;
  /** Field key and component the scale was made for. */
  quantity: string;
  map: MapOfScale;
  reversed: boolean;
  /** The part of the map that is used. */
  crop: [number, number];
  /** How far the colours are turned around, as a share of the map. */
  rotate: number;
  spacing: Spacing;
  /** How it is parted into bands; null runs smoothly. */
  bands: Bands | null;
  range: ScaleRange;
  /** The value in the middle, to both sides of which the range reaches equally far. */
  symmetric: number | null;
  /** Ends rounded outwards to round numbers. */
  tidy: boolean;
  /** Colours of what lies below and above the range; null for those of its ends. */
  below: string | null;
  above: string | null;
  /** What is shown at all, whatever the range of colours. */
  shownFrom: ShownEnd;
  shownTo: ShownEnd;
  /** Colour where there is no value, or `hidden`. */
  missing: string;
  lines: LevelLines;
  /** How opaque along the scale: places with opacities; null is opaque. */
  opacity: [number, number][] | null;
  /** Values that stand for something by name. */
  categories: Category[] | null;
  /** Unit its numbers are shown in; null for that of the quantity. */
  unit: string | null;
  numbers: NumberStyle;
  legend: Legend;
}

/** As it usually is. */
export const USUAL_MISSING = rgbToHex(MISSING);
export const PLAIN_LINES: LevelLines = { shown: false, colour: '#26241f', width: 1 };

/** Most values that can have names. */
export const MOST_CATEGORIES = 128;

const plain: Scale = {
  id: 'scale',
  name: 'scale',
  quantity: '',
  map: 'viridis',
  reversed: false,
  crop: [0, 1],
  rotate: 0,
  spacing: LINEAR,
  bands: null,
  range: { kind: 'all-steps' },
  symmetric: null,
  tidy: false,
  below: null,
  above: null,
  shownFrom: null,
  shownTo: null,
  missing: USUAL_MISSING,
  lines: PLAIN_LINES,
  opacity: null,
  categories: null,
  unit: null,
  numbers: PLAIN_NUMBERS,
  legend: legend.plain,
};

const shownEnd = z.union([boundedNumber(), z.literal('range')]).nullable();
const share = boundedNumber().min(0).max(1);

export const scale: Declaration<Scale> = {
  id: 'scales',
  name: 'the colour scale',
  version: 2,
  migrations: {
    1: (old) => {
      const { crop, rotate, spacing, symmetric, tidy, below, above, shownFrom, shownTo } = plain;
      const { missing, lines, opacity, categories, unit, numbers } = plain;
      const added = { crop, rotate, spacing, symmetric, tidy, below, above, shownFrom, shownTo };
      return { ...added, missing, lines, opacity, categories, unit, numbers, ...old };
    },
  },
  schema: z.object({
    id: z.string().min(1).max(200),
    name: z.string().max(300),
    quantity: z.string(),
    map: z.union([z.string(), ownMapSchema]),
    reversed: z.boolean(),
    crop: z.tuple([share, share]),
    rotate: share,
    spacing: spacingSchema,
    bands: bandsSchema.nullable(),
    range: z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('all-steps') }),
      z.object({ kind: z.literal('this-step') }),
      z.object({ kind: z.literal('shown') }),
      z.object({ kind: z.literal('middle'), share: boundedNumber().min(0.1).max(1) }),
      z.object({ kind: z.literal('fixed'), low: boundedNumber(), high: boundedNumber() }),
    ]),
    symmetric: boundedNumber().nullable(),
    tidy: z.boolean(),
    below: colourSchema.nullable(),
    above: colourSchema.nullable(),
    shownFrom: shownEnd,
    shownTo: shownEnd,
    missing: z.union([colourSchema, z.literal('hidden')]),
    lines: z.object({
      shown: z.boolean(),
      colour: colourSchema,
      width: boundedNumber().min(0.1).max(20),
    }),
    opacity: z
      .array(z.tuple([share, share]))
      .min(1)
      .max(32)
      .nullable(),
    categories: z
      .array(z.object({ value: boundedNumber(), name: z.string().max(100), colour: colourSchema.nullable() }))
      .max(MOST_CATEGORIES)
      .nullable(),
    unit: z.string().max(40).nullable(),
    numbers: numberStyleSchema,
    legend: legend.schema,
  }),
  plain,
  opening: 'Scale of ',
  phrase: scalePhrase(plain),
  needs: ({ quantity: key }) => (key === '' ? [] : [parseQuantity(key).field]),
  controls: [
    { kind: 'range', key: 'range', label: 'Range' },
    { kind: 'spacing', key: 'spacing', label: 'Spacing' },
    {
      kind: 'levels',
      key: 'bands',
      label: 'Bands',
      of: 'bands',
      when: ({ categories }) => categories === null,
    },
    { kind: 'level lines', key: 'lines', label: 'Lines at levels' },
    { kind: 'beyond', key: 'below', label: 'Below and above' },
    { kind: 'unit', key: 'unit', label: 'Numbers' },
    { kind: 'categories', key: 'categories', label: 'Names' },
    { kind: 'map', key: 'map', label: 'Colours' },
    { kind: 'scale opacity', key: 'opacity', label: 'Opacity along the scale' },
  ],
};

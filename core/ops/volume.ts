import { ownName } from '../fields/quantity-sources.ts';
import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import type { Mesh } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';
import { emptyResult } from './chain/results.ts';
import { gridSize, type Resampled, resample, resamplingError } from './kernels/resample.ts';

export interface VolumeOptions {
  /** Points of the grid along the longest side; a regular grid keeps its own. */
  resolution: number;
  /** Opacity over the colour scale: both from 0 to 1, places rising. */
  curve: [at: number, opacity: number][];
  /** Whether it takes its light from the lights, with shadows in itself, instead of glowing. */
  lit: boolean;
  /** Whether it throws a shadow. */
  casts: boolean;
  /** What the layer is coloured by; settled when it runs. */
  field: string;
  component: number | 'magnitude';
}

const p = phrasesOf<VolumeOptions>();

/** A body as a cloud: every place glows in the colour of its value, as dense as the curve says. */
export const volume: Operation<VolumeOptions> = {
  id: 'volume',
  name: 'Volume',
  purpose: 'a body as a cloud, by an opacity curve',
  opening: 'Volume of ',
  joining: ', as a volume',
  schema: z.object({
    resolution: wholeNumber().min(8).max(256).default(64),
    curve: z
      .array(z.tuple([boundedNumber().min(0).max(1), boundedNumber().min(0).max(1)]))
      .min(2)
      .default([
        [0, 0],
        [0.4, 0.02],
        [1, 0.6],
      ]),
    lit: z.boolean().default(false),
    casts: z.boolean().default(true),
    field: z.string().default(''),
    component: z.union([wholeNumber(), z.literal('magnitude')]).default(0),
  }),
  defaults: ({ preferred }) => ({
    resolution: 64,
    curve: [
      [0, 0],
      [0.4, 0.02],
      [1, 0.6],
    ],
    lit: false,
    casts: true,
    field: preferred?.field ?? '',
    component: preferred?.component ?? 0,
  }),
  phrase: p.row(
    p.text(' on a grid of '),
    p.number('resolution'),
    {
      // A reader sees the curve where it is drawn.
      say: ({ curve }, s) => [
        { text: ' with opacity ' },
        {
          text: s.exact
            ? curve.map(([at, o]) => `${round(100 * o)} % at ${round(100 * at)} %`).join(', ')
            : `up to ${round(100 * Math.max(...curve.map(([, o]) => o)))} %`,
          control: { kind: 'option', step: '', key: 'curve' },
        },
      ],
      read(r, into) {
        if (!r.words('with opacity')) return false;
        const curve: [number, number][] = [];
        do {
          const opacity = r.number('%');
          if (opacity === undefined || !r.words('at')) return false;
          const at = r.number('%');
          if (at === undefined) return false;
          curve.push([at / 100, opacity / 100]);
        } while (/^\s*,\s*[\d.]/.test(r.text.slice(r.at)) && r.words(','));
        into.curve = curve;
        return true;
      },
    },
    p.suffixes(
      { usual: { lit: false }, phrase: p.row(p.text('lit'), p.fixed('lit', true)) },
      { usual: { casts: true }, phrase: p.row(p.text('without a shadow'), p.fixed('casts', false)) },
    ),
  ),
  everyday: /^(?:a |the )?(?:cloud|volume rendering)\b/i,
  controls: [
    { kind: 'curve', key: 'curve', label: 'Opacity' },
    { kind: 'tick', key: 'lit', label: 'Takes the light of the scene' },
    { kind: 'tick', key: 'casts', label: 'Throws a shadow' },
    { kind: 'number', key: 'resolution', label: 'Grid', whole: true, range: () => [16, 160] },
  ],
  traits: { within: true },
  scope: 'part',
  reads: 'step',
  gives: () => 2,
  fits: ({ dimension, quantities }) => dimension === 3 && quantities.length > 0,
  needs: ({ field }) => [{ field }],
  settle: (o, { preferred }) => ({
    ...o,
    field: preferred?.field ?? o.field,
    component: preferred?.component ?? o.component,
  }),
  run(input, { resolution, curve, lit, casts, field, component }) {
    const values = input.scalar({ field }, component);
    if (!values) return emptyResult({ lacking: ownName(field) });
    if (input.dimension < 3) return emptyResult({ lacking: 'cells with a volume' });
    const { grid, error, low, high } = resampled(input.mesh, values, gridSize(input.mesh, resolution));
    const histogram = new Uint32Array(64);
    for (const v of grid.values)
      if (Number.isFinite(v)) histogram[Math.min(63, Math.floor((64 * (v - low)) / (high - low || 1)))]++;
    const cells = grid.size.reduce((n, s) => n * (s - 1), 1);
    return {
      ...emptyResult({ error: { ...error, cells } }),
      grid: { ...grid, curve, lit, casts, histogram, low, high },
    };
  },
};

interface Made {
  /** Of the mesh it was made from; the same values may lie on a deformed one. */
  points: Float32Array;
  size: string;
  grid: Resampled;
  error: { worst: number; mean: number };
  low: number;
  high: number;
}

/** The last grid of each field: while the curve is dragged, nothing is resampled. */
const made = new WeakMap<object, Made>();

function resampled(mesh: Mesh, values: ArrayLike<number>, size: [number, number, number]): Made {
  const known = made.get(values as object);
  if (known?.size === size.join() && known.points === mesh.points) return known;
  const grid = resample(mesh, values, size);
  let low = Infinity;
  let high = -Infinity;
  for (const v of grid.values) {
    if (v < low) low = v;
    if (v > high) high = v;
  }
  const result = {
    points: mesh.points,
    size: size.join(),
    grid,
    error: resamplingError(mesh, values, grid),
    low,
    high,
  };
  made.set(values as object, result);
  return result;
}

const round = (v: number): number => Number(v.toPrecision(10));

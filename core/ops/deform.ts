import { cellsToPoints } from '../fields/averages.ts';
import { type Phrase, phrasesOf } from '../language/phrase.ts';
import { words } from '../language/sentence.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { type Bounds, boundsDiagonal } from '../model/mesh.ts';
import type { Quantity } from '../model/quantity.ts';
import { replay } from '../model/recipe.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';

export interface DeformOptions {
  field: string;
  component: 'magnitude';
  mode: 'true' | 'automatic' | 'factor';
  factor: number;
  /** Displacement of this step instead of the one on show; null for that. */
  step: number | null;
}

const p = phrasesOf<DeformOptions>();

/** Share of the size of the model that an automatic factor makes of the largest displacement. Common practice, no source. */
const AUTOMATIC_SHARE = 0.08;

/** More digits of a factor than these tell nobody anything, but flicker where it grows. */
const SAID_DIGITS = 4;

/** A displacement up to this share of the size is never made smaller. */
const LARGEST_SHARE = 0.5;

/** The automatic factor: a round number (1, 2 or 5 times a power of ten) that makes the largest displacement plain to see. */
export function automaticFactor(largest: number, diagonal: number): number {
  if (!(largest > 0) || !(diagonal > 0)) return 1;
  const wanted = (AUTOMATIC_SHARE * diagonal) / largest;
  // What is plain to see as it is stays true; what would leave the picture is made smaller.
  if (wanted < 1 && largest < LARGEST_SHARE * diagonal) return 1;
  const power = 10 ** Math.floor(Math.log10(wanted));
  const lead = wanted / power;
  return Number(((lead >= 5 ? 5 : lead >= 2 ? 2 : 1) * power).toPrecision(1));
}

function factorFor(
  { field }: Partial<DeformOptions>,
  quantities: readonly Quantity[],
  bounds: Bounds,
): number {
  const high = quantities.find((q) => q.field === field && q.component === 'magnitude')?.high ?? 0;
  return automaticFactor(high, boundsDiagonal(bounds));
}

/** ` of 120`: what the automatic factor comes to. Read, it says nothing new. */
const whichFactor: Phrase<DeformOptions> = {
  say: (o, { quantities, bounds }) => (bounds ? [words(` of ${factorFor(o, quantities, bounds)}`)] : []),
  read(reader) {
    reader.first([() => (reader.words('of') ? reader.number(null) : undefined)]);
    return true;
  },
};

/** Moves every point by a displacement times a factor. */
export const deform: Operation<DeformOptions> = {
  id: 'deform',
  name: 'Deformed shape',
  purpose: 'points moved by a displacement',
  opening: 'Deformed shape of ',
  joining: ', deformed',
  schema: z.object({
    field: z.string(),
    component: z.literal('magnitude').default('magnitude'),
    mode: z.enum(['true', 'automatic', 'factor']).default('automatic'),
    factor: boundedNumber().default(1),
    step: wholeNumber().min(0).nullable().default(null),
  }),
  defaults: ({ displacement, bounds }) => ({
    field: displacement?.field ?? '',
    component: 'magnitude',
    mode: 'automatic',
    factor: automaticFactor(displacement?.high ?? 0, boundsDiagonal(bounds)),
    step: null,
  }),
  phrase: p.row(
    p.text(' by '),
    p.vectorQuantity('field', 'component'),
    p.oneOf(
      p.row(p.text(' at '), p.choice('mode', [{ text: 'true scale', value: 'true' }])),
      p.row(
        p.text(' times '),
        p.choice('mode', [{ text: 'an automatic factor', value: 'automatic' }]),
        whichFactor,
      ),
      p.row(p.fixed('mode', 'factor'), p.text(' times '), p.number('factor')),
    ),
    p.unless('step', null, p.text(' of step '), p.number('step')),
  ),
  everyday: /^(?:a |the )?(?:deformed|displaced) (?:shape|mesh|body)?/i,
  controls: [
    { kind: 'quantity', key: 'field', component: 'component', label: 'By', called: 'vector', vectors: true },
    {
      kind: 'choice',
      key: 'mode',
      label: 'Scale',
      choices: [
        { value: 'automatic', label: 'automatic' },
        { value: 'true', label: 'true' },
        { value: 'factor', label: 'factor' },
      ],
    },
    {
      kind: 'number',
      key: 'factor',
      label: 'Factor',
      when: (o) => o.mode === 'factor',
      asks: { mode: 'factor' },
      range: (_, { displacement, bounds }) => [
        0,
        5 * automaticFactor(displacement?.high ?? 0, boundsDiagonal(bounds)),
      ],
    },
    { kind: 'step', key: 'step', label: 'Of', called: 'step' },
  ],
  traits: {
    displaces: true,
    saidInPicture: ({ factor }) =>
      factor === 1 ? null : `displacement × ${Number(factor.toPrecision(SAID_DIGITS))}`,
  },
  scope: 'part',
  reads: 'step',
  gives: (dimension) => dimension,
  fits: ({ quantities }) => quantities.some((q) => q.component === 'magnitude'),
  needs: ({ field, step }) => [{ field, step }],
  settle(o, s) {
    if (o.mode === 'true') return { ...o, factor: 1 };
    if (o.mode === 'factor') return o;
    return { ...o, factor: factorFor(o, s.quantities, s.bounds) };
  },
  run(input, options) {
    return { mesh: { ...input.mesh, points: moved(input, options) }, recipe: null };
  },
  // Which faces are outside does not depend on where the points are.
  outer(input, options) {
    const outer = input.outer();
    return [outer.derive({ mesh: { ...outer.mesh, points: moved(outer, options) }, recipe: null })];
  },
};

function moved(input: Parameters<Operation<DeformOptions>['run']>[0], o: DeformOptions): Float32Array {
  const field = input.field({ field: o.field, step: o.step });
  const { points } = input.mesh;
  if (!field) return points;
  const at = (k: number): Float32Array => {
    const own = Float32Array.from({ length: field.data.length / field.components }, (_, i) =>
      k < field.components ? field.data[i * field.components + k] : 0,
    );
    return field.location === 'cell' ? replay(cellsToPoints(input.mesh), own, 1, 0) : own;
  };
  const out = points.slice();
  for (let k = 0; k < Math.min(3, field.components); k++) {
    const by = at(k);
    for (let i = 0; i < by.length; i++) if (Number.isFinite(by[i])) out[3 * i + k] += o.factor * by[i];
  }
  return out;
}

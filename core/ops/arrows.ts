import { ownName } from '../fields/quantity-sources.ts';
import { fieldUnit, phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { boundsDiagonal } from '../model/mesh.ts';
import { replayAll } from '../model/recipe.ts';
import { z } from '../model/schema.ts';
import type { ArrowScale, Operation, OperationResult, OperationSetting } from './chain/operation.ts';
import { emptyResult } from './chain/results.ts';
import { type ArrowPlaces, placedArrows } from './kernels/arrow-places.ts';
import { usualVector } from './tracing/usual-vector.ts';

export const arrowForms = ['solid', 'flat', 'line', 'comet'] as const;

export interface ArrowOptions {
  field: string;
  component: 'magnitude';
  at: 'evenly' | 'points' | 'cells' | 'grid';
  /** How many, spread evenly or about as many on a grid. */
  count: number;
  /** The whole vector, or its part along the surface it stands on. */
  part: 'whole' | 'along';
  /** How the length follows the size of the vector. */
  length: 'linear' | 'root' | 'log' | 'equal';
  /**
   * What the longest, or one of them all, is as long as: so much of the height of the picture, so much of the model, or as
   * many units of length as the vector has units.
   */
  measured: 'picture' | 'model' | 'factor';
  /** By `measured`: a share of the height, a length, or a factor; null for one that suits how near they stand. */
  size: number | null;
  /** Vectors of this size and above are drawn as long as this one; null for none. */
  longest: number | null;
  /** Vectors smaller, or larger, than these are not drawn. */
  from: number | null;
  to: number | null;
  form: (typeof arrowForms)[number];
  /** Largest size of the vector over the whole run; settled when it runs. */
  full: number;
}

const p = phrasesOf<ArrowOptions>();
const USUAL_COUNT = 800;
/** Three decades are told apart by a logarithm. */
const LOG_REACH = 1e3;

const plain: Omit<ArrowOptions, 'field'> = {
  component: 'magnitude',
  at: 'evenly',
  count: USUAL_COUNT,
  part: 'whole',
  length: 'linear',
  measured: 'model',
  size: null,
  longest: null,
  from: null,
  to: null,
  form: 'solid',
  full: 1,
};

/** A vector at many places: how it points, and how large it is. */
export const arrows: Operation<ArrowOptions> = {
  id: 'arrows',
  name: 'Arrows',
  purpose: 'directions and sizes at many places',
  opening: 'Arrows of ',
  joining: ', its arrows',
  schema: z.object({
    field: z.string(),
    component: z.literal('magnitude').default('magnitude'),
    at: z.enum(['evenly', 'points', 'cells', 'grid']).default('evenly'),
    count: wholeNumber().min(1).max(500_000).default(USUAL_COUNT),
    part: z.enum(['whole', 'along']).default('whole'),
    length: z.enum(['linear', 'root', 'log', 'equal']).default('linear'),
    measured: z.enum(['picture', 'model', 'factor']).default('model'),
    size: boundedNumber().positive().nullable().default(null),
    longest: boundedNumber().positive().nullable().default(null),
    from: boundedNumber().min(0).nullable().default(null),
    to: boundedNumber().min(0).nullable().default(null),
    form: z.enum(arrowForms).default('solid'),
    full: boundedNumber().default(1),
  }),
  defaults: (setting) => ({ ...plain, field: usualVector(setting)?.field ?? '' }),
  phrase: p.row(
    p.maybe(p.text(' by '), p.vectorQuantity('field', 'component')),
    p.oneOf(
      p.row(p.text(' at its points'), p.fixed('at', 'points')),
      p.row(p.text(' at its cells'), p.fixed('at', 'cells')),
      p.row(p.text(' on a grid of '), p.number('count'), p.fixed('at', 'grid')),
      p.row(p.text(', '), p.number('count'), p.text(' evenly spread'), p.fixed('at', 'evenly')),
      p.maybe(p.text(' evenly spread'), p.fixed('at', 'evenly')),
    ),
    p.suffixes(
      { usual: { part: 'whole' }, phrase: p.row(p.text('along the surface'), p.fixed('part', 'along')) },
      {
        usual: { length: 'linear' },
        phrase: p.choice('length', [
          { text: 'as long as the root', value: 'root' },
          { text: 'as long as the logarithm', value: 'log' },
          { text: 'all of one length', value: 'equal' },
        ]),
      },
      {
        usual: { measured: 'model', size: null },
        phrase: p.oneOf(
          p.row(
            p.text('the longest '),
            p.share('size'),
            p.text(' of the picture'),
            p.fixed('measured', 'picture'),
          ),
          p.row(p.text('the longest '), p.number('size', 'length'), p.fixed('measured', 'model')),
          p.row(p.fixed('measured', 'factor'), p.text('times '), p.number('size')),
        ),
      },
      {
        usual: { longest: null },
        phrase: p.row(p.text('no longer than for '), p.number('longest', fieldUnit)),
      },
      { usual: { from: null }, phrase: p.row(p.text('none below '), p.number('from', fieldUnit)) },
      { usual: { to: null }, phrase: p.row(p.text('none above '), p.number('to', fieldUnit)) },
      {
        usual: { form: 'solid' },
        phrase: p.choice('form', [
          { text: 'flat', value: 'flat' },
          { text: 'drawn with lines', value: 'line' },
          { text: 'as lines', value: 'line' },
          { text: 'as comets', value: 'comet' },
        ]),
      },
    ),
  ),
  lead: p.row(p.text('arrows of '), p.vectorQuantity('field', 'component')),
  everyday: /^(?:a |the |some )?(?:vectors?|vector (?:plot|arrows?))\b/i,
  controls: [
    { kind: 'quantity', key: 'field', component: 'component', label: 'Of', vectors: true },
    {
      kind: 'choice',
      key: 'at',
      label: 'Where',
      called: 'spread',
      choices: [
        { value: 'evenly', label: 'evenly spread' },
        { value: 'grid', label: 'on a grid' },
        { value: 'points', label: 'at points' },
        { value: 'cells', label: 'at cells' },
      ],
    },
    {
      kind: 'number',
      key: 'count',
      label: 'How many',
      whole: true,
      when: ({ at }) => at === 'evenly' || at === 'grid',
      range: () => [10, 5000],
    },
    {
      kind: 'choice',
      key: 'part',
      label: 'Show',
      choices: [
        { value: 'whole', label: 'the whole vector' },
        { value: 'along', label: 'along the surface' },
      ],
    },
    {
      kind: 'choice',
      key: 'length',
      label: 'Length',
      choices: [
        { value: 'linear', label: 'by size' },
        { value: 'root', label: 'by its root' },
        { value: 'log', label: 'by its logarithm' },
        { value: 'equal', label: 'all equal' },
      ],
    },
    {
      kind: 'choice',
      key: 'measured',
      label: 'Measured',
      choices: [
        { value: 'model', label: 'in the model' },
        { value: 'picture', label: 'on the picture' },
        { value: 'factor', label: 'by a factor' },
      ],
      also: () => ({ size: null }),
    },
    {
      kind: 'number',
      key: 'size',
      label: 'Longest',
      unit: 'length',
      none: 'as fits',
      when: ({ measured }) => measured === 'model',
      range: (_, { bounds }) => [0, boundsDiagonal(bounds) / 5],
    },
    {
      kind: 'number',
      key: 'size',
      label: 'Longest',
      unit: 'percent',
      none: 'as fits',
      when: ({ measured }) => measured === 'picture',
      range: () => [0, 20],
    },
    {
      kind: 'number',
      key: 'size',
      label: 'Factor',
      none: 'as fits',
      when: ({ measured }) => measured === 'factor',
    },
    {
      kind: 'number',
      key: 'longest',
      label: 'Longest for',
      called: 'value of the longest',
      unit: 'field',
      none: 'the largest',
    },
    { kind: 'number', key: 'from', label: 'None below', unit: 'field', none: 'no limit' },
    { kind: 'number', key: 'to', label: 'None above', unit: 'field', none: 'no limit' },
    {
      kind: 'choice',
      key: 'form',
      label: 'Form',
      choices: [
        { value: 'solid', label: 'solid' },
        { value: 'flat', label: 'flat' },
        { value: 'line', label: 'lines' },
        { value: 'comet', label: 'comets' },
      ],
    },
  ],
  traits: {
    within: true,
    showsValues: true,
    colouredBy: ({ field }) => field,
    drawsArrows: arrowScale,
  },
  scope: 'part',
  reads: 'step',
  gives: () => 0,
  fits: (setting) => usualVector(setting) !== null,
  needs: ({ field }) => [{ field }],
  settle(o, setting) {
    const found = setting.quantities.find((q) => q.field === o.field && q.component === 'magnitude');
    const full = found && found.high > 0 ? found.high : o.full;
    return { ...o, full, size: o.size ?? usualSize({ ...o, full }, found?.mean ?? full, setting) };
  },
  run(input, options) {
    const field = input.field({ field: options.field });
    if (!field) return emptyResult({ lacking: ownName(options.field) });
    if (field.components < 2)
      return emptyResult({ lacking: `directions: ${ownName(options.field)} is one number` });
    const placed = placedArrows(input, options);
    if ('lacking' in placed) return emptyResult(placed);
    const { recipe } = placed;
    const { components, data } = field;
    const gather = field.location === 'point' ? recipe.points : recipe.cells;
    const vectors = inSpace(replayAll(gather, data, components, field.axial), components);
    if (options.part === 'along') alongFaces(vectors, placed);
    if (vectors.every((v) => !v))
      return emptyResult({ lacking: `directions: ${ownName(options.field)} is zero there, or has no value` });
    return drawnArrows(placed, vectors, options);
  },
};

/** Three numbers a vector. */
function inSpace(values: Float32Array, components: number): Float32Array {
  if (components === 3) return values;
  const n = values.length / components;
  const out = new Float32Array(3 * n);
  for (let i = 0; i < n; i++)
    for (let k = 0; k < Math.min(3, components); k++) out[3 * i + k] = values[i * components + k];
  return out;
}

/** Takes away what points across the faces arrows stand on. */
function alongFaces(vectors: Float32Array, { normals }: ArrowPlaces): void {
  if (!normals) return;
  for (let i = 0; i < vectors.length; i += 3) {
    const squared = normals[i] ** 2 + normals[i + 1] ** 2 + normals[i + 2] ** 2;
    if (squared === 0) continue;
    let across = 0;
    for (let k = 0; k < 3; k++) across += (vectors[i + k] * normals[i + k]) / squared;
    for (let k = 0; k < 3; k++) vectors[i + k] -= across * normals[i + k];
  }
}

/** How long arrows are, by options that are settled. */
export function arrowScale(o: ArrowOptions): ArrowScale {
  const full = o.longest ?? (o.full > 0 ? o.full : 1);
  const size = o.size ?? 1;
  const share = (value: number): number => {
    const part = Math.min(value, full) / full;
    switch (o.length) {
      case 'linear':
        // What is above the largest of the run, as values at other places can be, is as much longer.
        return o.longest === null ? value / full : part;
      case 'root':
        return Math.sqrt(part);
      case 'log':
        return Math.max(0, Math.log(part * LOG_REACH) / Math.log(LOG_REACH));
      case 'equal':
        return value > 0 ? 1 : 0;
    }
  };
  return {
    full,
    onPicture: o.measured === 'picture',
    lengthOf: (value) =>
      o.measured === 'factor' ? size * Math.min(value, o.longest ?? Infinity) : size * share(value),
  };
}

/** On the picture, as a share of its height. Common practice, no source. */
const USUAL_ON_PICTURE = 0.06;
/** The longest, where few vectors are far larger than the others: shares of the picture and of the body. */
const LONGEST = { picture: 0.2, body: 1 / 6 };
/** Vectors are told apart by their arrows up to so many times the mean. Common practice, no source. */
const PLAIN_UP_TO = 3;

/**
 * How much longer the longest is than the way between arrows: where a few vectors are far larger than most, as beside a
 * fan, it is the others that must be seen.
 *
 * @param mean of the sizes of vectors over the whole run
 */
function reachOfLongest({ length, longest, full }: ArrowOptions, mean: number): number {
  if (!(mean > 0)) return 1;
  const reach = Math.max(1, (longest ?? full) / (PLAIN_UP_TO * mean));
  return length === 'linear' ? reach : length === 'root' ? Math.sqrt(reach) : 1;
}

/** A length by which most arrows stand clear of each other: shorter, the more there are. */
function usualSize(o: ArrowOptions, mean: number, { bounds }: OperationSetting): number {
  const reach = reachOfLongest(o, mean);
  if (o.measured === 'picture')
    return Number(Math.min(LONGEST.picture, USUAL_ON_PICTURE * reach).toPrecision(3));
  const diagonal = boundsDiagonal(bounds) || 1;
  const many = o.at === 'evenly' || o.at === 'grid' ? o.count : USUAL_COUNT;
  const clear = Math.min(diagonal / 12, Math.max(diagonal / 80, (0.9 * diagonal) / Math.sqrt(many)));
  const length = Math.min(LONGEST.body * diagonal, clear * reach);
  return Number((o.measured === 'factor' ? length / (o.longest ?? o.full) : length).toPrecision(3));
}

function drawnArrows(placed: ArrowPlaces, vectors: Float32Array, o: ArrowOptions): OperationResult {
  const { lengthOf, onPicture } = arrowScale(o);
  const n = vectors.length / 3;
  const kept: number[] = [];
  for (let i = 0; i < n; i++) {
    const size = Math.hypot(vectors[3 * i], vectors[3 * i + 1], vectors[3 * i + 2]);
    const shown = size > 0 && (o.from === null || size >= o.from) && (o.to === null || size <= o.to);
    const length = shown ? lengthOf(size) : 0;
    if (!(length > 0)) continue;
    for (let k = 0; k < 3; k++) vectors[3 * i + k] *= length / size;
    kept.push(i);
  }
  const drawn = new Float32Array(3 * kept.length);
  for (const [i, from] of kept.entries())
    for (let k = 0; k < 3; k++) drawn[3 * i + k] = vectors[3 * from + k];
  return {
    ...placed.only(kept),
    arrows: { vectors: drawn, form: o.form, onPicture },
    report: n > kept.length ? { kept: kept.length, of: n, what: 'arrows' } : {},
  };
}

import { ownName } from '../fields/quantity-sources.ts';
import { ALONG_LINE } from '../fields/sources/along-line.ts';
import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { boundsDiagonal, boundsOf } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import type { Vector } from '../model/vectors.ts';
import type { Operation, OperationInput, OperationReport } from './chain/operation.ts';
import { emptyResult } from './chain/results.ts';
import { MeshFlow } from './tracing/flow.ts';
import { LineMaker } from './tracing/line-maker.ts';
import { placedSeeds } from './tracing/place-seeds.ts';
import {
  besideSeeds,
  lackingSeeds,
  type SeedOptions,
  sayWhereFrom,
  seedControls,
  seedHandles,
  seedSchema,
  seedSuffixes,
  usualSeeds,
} from './tracing/seed-options.ts';
import { type LineEnd, LineTracer, type TraceLimits } from './tracing/trace-line.ts';
import { usualVector } from './tracing/usual-vector.ts';

export interface StreamlineOptions extends SeedOptions {
  field: string;
  component: 'magnitude';
  direction: 'both' | 'forward' | 'backward';
  /** A line is no longer than this, in each direction; null for three times the size of the body. */
  length: number | null;
  /** Nor longer on its way than this, in the unit of time of the velocity; null for any time. */
  time: number | null;
  /** Steps of the integration in each direction. */
  steps: number;
  /** Largest error of a step, as a part of the diagonal of the body. */
  tolerance: number;
}

const p = phrasesOf<StreamlineOptions>();

/** Sizes of the body that a line may go each way when nothing is said: through a bent body to its end, and twice round in one that turns. */
const USUAL_LENGTH = 3;
const USUAL_STEPS = 4000;
const USUAL_TOLERANCE = 1e-6;

const timeUnit = (_: unknown, s: { timeUnit?: string | null }): string | null => s.timeUnit ?? null;

/** Lines that follow a flow as it is at one step. */
export const streamlines: Operation<StreamlineOptions> = {
  id: 'streamlines',
  name: 'Streamlines',
  purpose: 'lines that follow the flow',
  opening: 'Streamlines of ',
  joining: ', its streamlines',
  schema: z.object({
    field: z.string(),
    component: z.literal('magnitude').default('magnitude'),
    ...seedSchema,
    direction: z.enum(['both', 'forward', 'backward']).default('both'),
    length: boundedNumber().positive().nullable().default(null),
    time: boundedNumber().positive().nullable().default(null),
    steps: wholeNumber().min(1).max(1_000_000).default(USUAL_STEPS),
    tolerance: boundedNumber().min(1e-12).max(0.1).default(USUAL_TOLERANCE),
  }),
  defaults: (setting) => ({
    field: usualVector(setting)?.field ?? '',
    component: 'magnitude',
    ...usualSeeds(setting),
    direction: 'both',
    length: null,
    time: null,
    steps: USUAL_STEPS,
    tolerance: USUAL_TOLERANCE,
  }),
  phrase: p.row(
    p.maybe(p.text(' by '), p.vectorQuantity('field', 'component')),
    p.maybe(sayWhereFrom<StreamlineOptions>()),
    p.suffixes(
      ...seedSuffixes<StreamlineOptions>(),
      {
        usual: { direction: 'both' },
        phrase: p.oneOf(
          p.row(p.choice('direction', [{ text: 'forward', value: 'forward' }])),
          p.row(p.choice('direction', [{ text: 'backward', value: 'backward' }])),
          p.row(p.choice('direction', [{ text: 'both ways', value: 'both' }])),
        ),
      },
      {
        usual: { length: null },
        phrase: p.row(p.text('at most '), p.number('length', 'length'), p.text(' long')),
      },
      {
        usual: { time: null },
        phrase: p.row(p.text('for at most '), p.number('time', timeUnit)),
      },
      {
        usual: { steps: USUAL_STEPS },
        phrase: p.row(p.text('at most '), p.number('steps'), p.text(' steps')),
      },
      {
        usual: { tolerance: USUAL_TOLERANCE },
        phrase: p.row(p.text('to '), p.share('tolerance'), p.text(' of its size')),
      },
    ),
  ),
  lead: p.row(p.text('streamlines of '), p.vectorQuantity('field', 'component')),
  everyday: /^(?:a |the |some )?(?:stream ?lines?|flow lines?|stream ?traces?|field lines?)\b/i,
  controls: [
    { kind: 'quantity', key: 'field', component: 'component', label: 'Of', vectors: true },
    ...seedControls<StreamlineOptions>(),
    {
      kind: 'choice',
      key: 'direction',
      label: 'Go',
      choices: [
        { value: 'both', label: 'both ways' },
        { value: 'forward', label: 'forward' },
        { value: 'backward', label: 'backward' },
      ],
    },
    {
      kind: 'number',
      key: 'length',
      label: 'Longest',
      unit: 'length',
      none: 'as long as they are',
      range: (_, { bounds }) => [0, 5 * boundsDiagonal(bounds)],
    },
    { kind: 'number', key: 'time', label: 'At most for', called: 'longest time', none: 'any time' },
    { kind: 'number', key: 'steps', label: 'Steps', whole: true, range: () => [10, 20_000] },
    { kind: 'number', key: 'tolerance', label: 'Largest error' },
  ],
  handles: (o) => seedHandles<StreamlineOptions>(o),
  traits: {
    within: true,
    showsValues: true,
    colouredBy: ({ field }) => field,
    follows: true,
    makes: Object.values(ALONG_LINE),
  },
  scope: 'layer',
  reads: 'step',
  gives: () => 1,
  fits: (setting) => setting.dimension >= 2 && usualVector(setting) !== null,
  needs: ({ field }) => [{ field }],
  beside: besideSeeds,
  run(input, options) {
    const traced = tracedLines(input, options);
    return 'lacking' in traced ? emptyResult(traced) : { ...traced.result(), report: reportOf(traced) };
  },
};

/** The lines, or what they lack. */
export function tracedLines(input: OperationInput, o: StreamlineOptions): LineMaker | { lacking: string } {
  const field = input.field({ field: o.field });
  if (!field) return { lacking: ownName(o.field) };
  if (field.components < 2) return { lacking: `directions: ${ownName(o.field)} is one number` };
  if (input.dimension < 2) return { lacking: 'cells to go through: they are points or lines' };
  const flow = new MeshFlow(input.mesh, input.blocks(), field);
  const seeds = placedSeeds(input, o, flow.whole);
  if (!seeds) return { lacking: lackingSeeds(o) };
  const diagonal = boundsDiagonal(boundsOf(input.mesh.points));
  return linesFrom(flow, seeds, o.direction, {
    tolerance: o.tolerance * diagonal,
    length: o.length ?? USUAL_LENGTH * diagonal,
    time: o.time ?? Infinity,
    steps: o.steps,
  });
}

/** The lines that follow a flow from places. */
export function linesFrom(
  flow: MeshFlow,
  seeds: readonly Vector[],
  direction: StreamlineOptions['direction'],
  limits: TraceLimits,
): LineMaker {
  const tracer = new LineTracer(flow, limits);
  const lines = new LineMaker(flow);
  for (const place of seeds) {
    const half = (sense: 1 | -1): [LineMaker['strand'], LineEnd] => {
      const { strand } = lines;
      flow.finder.leave();
      return [strand, tracer.trace({ place, time: 0, sense }, lines.onto(strand))];
    };
    lines.add(place, direction === 'forward' ? null : half(-1), direction === 'backward' ? null : half(1));
  }
  return lines;
}

/** How many seeds lie where nothing flows, and why lines end. */
export function reportOf({ fates }: LineMaker): OperationReport {
  const ends: Partial<Record<LineEnd, number>> = {};
  // A seed where nothing flows ends before it goes either way.
  for (const { ahead, back, points } of fates)
    for (const end of points === 0 ? ['outside' as const] : [ahead, back])
      if (end) ends[end] = (ends[end] ?? 0) + 1;
  return { lines: { count: fates.filter((f) => f.points > 1).length, seeds: fates.length, ends } };
}

import { ALONG_LINE } from '../fields/sources/along-line.ts';
import { type PhraseSetting, phrasesOf } from '../language/phrase.ts';
import { boundedNumber } from '../model/bounded-number.ts';
import { boundsDiagonal } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import type { Operation, OperationSetting, OptionControl } from './chain/operation.ts';
import { emptyResult, followedBy } from './chain/results.ts';
import { measuredRun, PlacesOnLines, piecesAlong } from './kernels/cut-along.ts';
import { lineRuns } from './kernels/line-runs.ts';
import { roundOutline, sweptLines } from './kernels/swept-lines.ts';

export interface TravellingOptions {
  form: 'dashes' | 'beads' | 'comets';
  /** What `every` and `size` are measured in: along the line, or in the time the flow takes. */
  by: 'length' | 'time';
  /** From the beginning of one to the beginning of the next. */
  every: number;
  /** Of a dash or a comet with its tail. */
  size: number;
  /** Of beads, and of the heads of comets, in the unit of length of the run. */
  radius: number;
  /** How far they are on the way to the next, from 0 to 1; settled by the cycle of the scene. */
  on: number;
}

const p = phrasesOf<TravellingOptions>();
const along = ({ by }: Partial<TravellingOptions>, s: PhraseSetting): string | null =>
  by === 'time' ? (s.timeUnit ?? null) : s.lengthUnit;

/** The controls of lengths along the line, in the unit that they are measured in. */
const measured = (
  by: TravellingOptions['by'],
  unit: 'length' | undefined,
  most: (s: OperationSetting, o: TravellingOptions) => number,
): OptionControl<TravellingOptions>[] => [
  {
    kind: 'number',
    key: 'every',
    label: 'One every',
    unit,
    when: (o) => o.by === by,
    range: (o, s) => [0, most(s, o)],
  },
  {
    kind: 'number',
    key: 'size',
    label: 'Long',
    unit,
    when: (o) => o.by === by && o.form !== 'beads',
    range: ({ every }) => [0, every],
  },
];

/** Flat sides of a comet. */
const SIDES = 8;
/** Parts of the diagonal of the body: so many are told apart and seen. Common practice, no source. */
const USUAL = { every: 0.06, size: 0.02, radius: 0.004 };

/**
 * What travels along lines: dashes, beads, or comets that grow towards their heads. In one cycle of the scene each comes to
 * where the next one was, so that it plays round without a seam. By time they are as far apart as the flow takes: where it
 * is fast they are long and far apart, and a cycle that takes as long as `every` shows them in real time.
 */
export const travelling: Operation<TravellingOptions> = {
  id: 'travelling',
  name: 'Travelling marks',
  purpose: 'dashes, beads or comets that run along lines',
  opening: 'Travelling marks of ',
  joining: ', travelling',
  schema: z.object({
    form: z.enum(['dashes', 'beads', 'comets']).default('dashes'),
    by: z.enum(['length', 'time']).default('length'),
    every: boundedNumber().positive(),
    size: boundedNumber().min(0),
    radius: boundedNumber().positive(),
    on: boundedNumber().min(0).max(1).default(0),
  }),
  defaults({ bounds }) {
    const diagonal = boundsDiagonal(bounds) || 1;
    const share = (of: number): number => Number((of * diagonal).toPrecision(2));
    return {
      form: 'comets',
      by: 'length',
      every: share(USUAL.every),
      size: share(USUAL.size),
      radius: share(USUAL.radius),
      on: 0,
    };
  },
  phrase: p.row(
    p.text(' as '),
    p.oneOf(
      p.row(
        p.choice('form', [{ text: 'beads', value: 'beads' }]),
        p.maybe(p.text(' of radius '), p.number('radius', 'length')),
      ),
      p.row(
        p.choice('form', [{ text: 'comets', value: 'comets' }]),
        p.maybe(p.text(' of radius '), p.number('radius', 'length')),
      ),
      p.choice('form', [{ text: 'dashes', value: 'dashes' }]),
    ),
    p.oneOf(p.row(p.text(' by time'), p.fixed('by', 'time')), p.fixed('by', 'length')),
    p.maybe(
      p.text(' every '),
      p.number('every', along),
      p.maybe(p.text(' and '), p.number('size', along), p.text(' long')),
    ),
  ),
  everyday: /^(?:a |the |some )?(?:pulses|running dashes|travelling (?:dashes|beads|comets))\b/i,
  controls: [
    {
      kind: 'choice',
      key: 'form',
      label: 'As',
      called: 'form',
      choices: ['dashes', 'beads', 'comets'].map((value) => ({ value, label: value })),
    },
    {
      kind: 'choice',
      key: 'by',
      label: 'Measured by',
      called: 'measure',
      choices: [
        { value: 'length', label: 'length' },
        { value: 'time', label: 'time of the flow' },
      ],
    },
    ...measured('length', 'length', ({ bounds }) => boundsDiagonal(bounds) / 4),
    ...measured('time', undefined, (_, o) => 10 * o.every),
    {
      kind: 'number',
      key: 'radius',
      label: 'Radius',
      unit: 'length',
      when: ({ form }) => form !== 'dashes',
      range: (_, { bounds }) => [boundsDiagonal(bounds) / 5000, boundsDiagonal(bounds) / 50],
    },
  ],
  traits: { within: true, showsValues: true, ofLines: true, playsInCycle: () => 'closed' },
  scope: 'part',
  reads: 'step',
  gives: (_, options) => (options ? { dashes: 1, beads: 0, comets: 2 }[options.form] : 1),
  settle: (o, { cycle }) => ({ ...o, on: cycle % 1 }),
  run(input, { form, by, every, size, radius, on }) {
    const { mesh, dimension } = input;
    if (dimension !== 1)
      return emptyResult({ lacking: 'lines: put a step that makes lines before what travels on them' });
    const time = input.scalar({ field: ALONG_LINE.time }, 0);
    if (by === 'time' && !time)
      return emptyResult({ lacking: 'travel time on these lines: let them travel by length' });
    const places = new PlacesOnLines(mesh);
    for (const run of lineRuns(mesh)) {
      const line = measuredRun(run, mesh, time, by);
      const span = form === 'beads' ? 0 : size;
      if (line.points.length < 2) continue;
      for (const piece of piecesAlong(line, { every, size: span, offset: on * every })) {
        if (form === 'beads') places.point(line, piece.from);
        else if (piece.to > piece.from) places.piece(line, piece, size);
      }
    }
    if (form === 'beads')
      return { ...places.result('points'), spheres: { radius, radii: null, onPicture: false } };
    const dashes = places.result('lines');
    if (form === 'dashes') return dashes;
    return followedBy(
      dashes,
      sweptLines(dashes.mesh, roundOutline(radius, SIDES), true, null, places.share.toArray()),
    );
  },
};

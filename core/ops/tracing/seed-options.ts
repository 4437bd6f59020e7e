import { AXES, type Phrase, type PhraseSetting, phrasesOf, type Suffix } from '../../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../../model/bounded-number.ts';
import { boundsCentre, boundsDiagonal, boundsSize } from '../../model/mesh.ts';
import { z } from '../../model/schema.ts';
import type { Vector } from '../../model/vectors.ts';
import type { Beside, Handle, OperationSetting, OptionControl } from '../chain/operation.ts';
import { middlePlane, normalSchema, vectorSchema } from '../kernels/planes.ts';

/** Where lines begin. */
export const seedKinds = ['line', 'points', 'circle', 'grid', 'surface', 'volume', 'part', 'set'] as const;

/** Options of what begins at places, in the coordinates of the files; which of them count depends on `seeds`. */
export interface SeedOptions {
  seeds: (typeof seedKinds)[number];
  /** How many, but for places that are listed. */
  count: number;
  /** Ends of a line. */
  from: Vector;
  to: Vector;
  places: Vector[];
  /** Of a circle. */
  centre: Vector;
  radius: number;
  /** Across a circle or a grid. */
  normal: Vector;
  /** Of a grid along its normal. */
  offset: number;
  /** Whose surface, or points, they begin on. */
  part: string;
  /** The part set over whose surface, or points, they are spread. */
  set: string;
  /** How far they are moved off where they would be: along `liftAlong`, of surfaces into what is flowed through. */
  lift: number;
  liftAlong: Vector;
}

export const seedSchema = {
  seeds: z.enum(seedKinds).default('line'),
  count: wholeNumber().min(1).max(100_000).default(40),
  from: vectorSchema.default([0, 0, 0]),
  to: vectorSchema.default([1, 0, 0]),
  places: z
    .array(z.tuple([boundedNumber(), boundedNumber(), boundedNumber()]))
    .min(1)
    .max(100_000)
    .default([[0, 0, 0]]),
  centre: vectorSchema.default([0, 0, 0]),
  radius: boundedNumber().min(0).default(1),
  normal: normalSchema.default([0, 0, 1]),
  offset: boundedNumber().default(0),
  part: z.string().default(''),
  set: z.string().default(''),
  lift: boundedNumber().default(0),
  liftAlong: normalSchema.default([0, 0, 1]),
};

const tidy = (v: number): number => Number(v.toPrecision(3));

/** All through the body, which finds the flow wherever it is; a line goes across it in its middle. */
export function usualSeeds({ bounds, dimension }: OperationSetting): SeedOptions {
  const size = boundsSize(bounds);
  const centre = boundsCentre(bounds).map(tidy) as Vector;
  const order = [0, 1, 2].sort((a, b) => size[b] - size[a]);
  const along = order[size[order[1]] > 1e-3 * size[order[0]] ? 1 : 0];
  const end = (share: number): Vector =>
    centre.map((v, k) => (k === along ? tidy(bounds[2 * k] + share * size[k]) : v)) as Vector;
  const diagonal = boundsDiagonal(bounds);
  return {
    seeds: 'volume',
    count: 40,
    from: end(0.08),
    to: end(0.92),
    places: [centre],
    centre,
    radius: tidy(Math.min(...size.filter((s) => s > 1e-3 * diagonal), diagonal) / 4),
    ...middlePlane(bounds, dimension),
    part: '',
    set: '',
    lift: 0,
    liftAlong: [0, 0, 1],
  };
}

/** What else of the run seeds are placed on. */
export const besideSeeds = ({ seeds, part, set }: SeedOptions): Beside[] =>
  seeds === 'part' ? [{ kind: 'part', name: part }] : seeds === 'set' ? [{ kind: 'set', name: set }] : [];

/** What is lacking where that is not there. */
export const lackingSeeds = (o: SeedOptions): string =>
  besideSeeds(o)
    .map(({ kind, name }) => `${{ part: 'part', set: 'cells in part set' }[kind]} “${name}” to begin on`)
    .join();

/** Kinds whose seeds stand where they are said, so that they are lifted along a direction that must be said too. */
const isPlaced = ({ seeds }: Partial<SeedOptions>): boolean =>
  seeds === 'line' || seeds === 'points' || seeds === 'circle' || seeds === 'grid';

/** ` from a line (0, 0, 0) to (0, 1, 0) m`, ` from points (0, 0, 0), (1, 0, 0)`, ` spread through it`. */
export function sayWhereFrom<O extends SeedOptions>(): Phrase<O> {
  const p = phrasesOf<SeedOptions>();
  const across = p.oneOf(p.choice('normal', AXES), p.vector('normal'));
  return p.oneOf(
    p.row(
      p.fixed('seeds', 'line'),
      p.text(' from a line '),
      p.vector('from', 'length'),
      p.text(' to '),
      p.vector('to', 'length'),
    ),
    p.row(p.fixed('seeds', 'points'), p.text(' from points '), p.places('places', 'length')),
    p.row(p.fixed('seeds', 'points'), p.text(' from point '), p.places('places', 'length', 1)),
    p.row(
      p.fixed('seeds', 'circle'),
      p.text(' from a circle of radius '),
      p.number('radius', 'length'),
      p.text(' across '),
      across,
      p.text(' around '),
      p.vector('centre', 'length'),
    ),
    p.row(
      p.fixed('seeds', 'grid'),
      p.text(' from a grid at '),
      p.choice('normal', AXES),
      p.text(' = '),
      p.number('offset', 'length'),
    ),
    p.row(
      p.fixed('seeds', 'grid'),
      p.text(' from a grid across '),
      p.vector('normal'),
      p.text(' at '),
      p.number('offset', 'length'),
    ),
    p.row(p.fixed('seeds', 'surface'), p.text(' spread over its surface')),
    p.row(p.fixed('seeds', 'volume'), p.text(' spread through it')),
    p.row(p.fixed('seeds', 'part'), p.text(' from the surface of part '), p.quoted('part')),
    p.row(p.fixed('seeds', 'part'), p.text(' from part '), p.quoted('part')),
    p.row(p.fixed('seeds', 'set'), p.text(' from the surface of set '), p.quoted('set')),
    p.row(p.fixed('seeds', 'set'), p.text(' from set '), p.quoted('set')),
  ) as unknown as Phrase<O>;
}

/** `, 40 seeds`, `, lifted 0.05 m along z`. */
export function seedSuffixes<O extends SeedOptions>(): Suffix<O>[] {
  const p = phrasesOf<SeedOptions>();
  const counted = p.oneOf(
    p.row(p.number('count'), p.text(' seeds')),
    p.row(p.number('count'), p.text(' seed')),
  );
  const along = p.row(p.text(' along '), p.direction('liftAlong'));
  const lifted: Phrase<SeedOptions> = {
    say: (o, s) =>
      p.row(p.text('lifted '), p.number('lift', 'length'), ...(isPlaced(o) ? [along] : [])).say(o, s),
    read: (r, into, s) =>
      p.row(p.text('lifted '), p.number('lift', 'length'), p.maybe(along)).read(r, into, s),
  };
  return [
    {
      usual: {},
      phrase: {
        say: (o: SeedOptions, s: PhraseSetting) => (o.seeds === 'points' ? null : counted.say(o, s)),
        read: counted.read,
      },
    },
    { usual: { lift: 0 }, phrase: lifted },
  ] as unknown as Suffix<O>[];
}

/** What edits them. */
export function seedControls<O extends SeedOptions>(): OptionControl<O>[] {
  const only =
    (...kinds: SeedOptions['seeds'][]) =>
    ({ seeds }: SeedOptions): boolean =>
      kinds.includes(seeds);
  const controls: OptionControl<SeedOptions>[] = [
    {
      kind: 'choice',
      key: 'seeds',
      label: 'Begin',
      choices: [
        { value: 'line', label: 'along a line' },
        { value: 'points', label: 'at points' },
        { value: 'circle', label: 'on a circle' },
        { value: 'grid', label: 'on a grid across' },
        { value: 'surface', label: 'all over its surface' },
        { value: 'volume', label: 'all through it' },
        { value: 'part', label: 'on another part' },
        { value: 'set', label: 'on a part set' },
      ],
    },
    {
      kind: 'place',
      key: 'from',
      label: 'From',
      called: 'first end',
      next: { key: 'to', label: 'To' },
      when: only('line'),
    },
    { kind: 'place', key: 'to', label: 'To', called: 'other end', when: only('line') },
    { kind: 'places', key: 'places', label: 'Places', when: only('points') },
    { kind: 'place', key: 'centre', label: 'Around', called: 'centre', when: only('circle') },
    {
      kind: 'number',
      key: 'radius',
      label: 'Radius',
      unit: 'length',
      when: only('circle'),
      range: (_, { bounds }) => [0, boundsDiagonal(bounds) / 2],
    },
    { kind: 'direction', key: 'normal', label: 'Across', when: only('circle') },
    { kind: 'plane', key: 'normal', offset: 'offset', label: 'Grid', when: only('grid') },
    { kind: 'part', key: 'part', label: 'Part', when: only('part') },
    { kind: 'part', of: 'sets', key: 'set', label: 'Set', when: only('set') },
    {
      kind: 'number',
      key: 'count',
      label: 'Seeds',
      whole: true,
      when: (o) => o.seeds !== 'points',
      range: () => [1, 400],
    },
    {
      kind: 'number',
      key: 'lift',
      label: 'Lifted',
      unit: 'length',
      range: (_, { bounds }) => [0, boundsDiagonal(bounds) / 10],
    },
    {
      kind: 'direction',
      key: 'liftAlong',
      label: 'Lifted along',
      when: (o) => o.lift !== 0 && isPlaced(o),
    },
  ];
  return controls as unknown as OptionControl<O>[];
}

/** What is taken hold of on the stage. */
export function seedHandles<O extends SeedOptions>({ seeds }: SeedOptions): Handle<O>[] {
  const handles: Handle<SeedOptions>[] =
    seeds === 'line'
      ? [
          { kind: 'place', key: 'from' },
          { kind: 'place', key: 'to' },
        ]
      : seeds === 'circle'
        ? [
            { kind: 'place', key: 'centre' },
            { kind: 'radius', centre: 'centre', key: 'radius' },
          ]
        : seeds === 'grid'
          ? [{ kind: 'plane', normal: 'normal', offset: 'offset' }]
          : [];
  return handles as unknown as Handle<O>[];
}

import { ownName } from '../fields/quantity-sources.ts';
import { AXES, fieldUnit, type Phrase, phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { boundsCentre, boundsDiagonal } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import { dot, unit, type Vector } from '../model/vectors.ts';
import type { Operation, OperationInput, OperationResult } from './chain/operation.ts';
import { emptyResult, followedBy, heightsOf } from './chain/results.ts';
import {
  type Sweeping,
  spanOfField,
  sweepingControls,
  sweepingDefaults,
  sweepingPhrase,
  sweepingSchema,
  sweepPlays,
  sweptTo,
} from './chain/sweeping.ts';
import { clipCells } from './kernels/clip-cells.ts';
import { joinResults } from './kernels/join-meshes.ts';
import { cutAtLevel } from './kernels/level-cut.ts';
import { CylinderLevel, type Level, PlaneLevel, SphereLevel, ValueLevel } from './kernels/levels.ts';
import {
  boundsSizes,
  inTrueLengths,
  middlePlane,
  normalSchema,
  planeRange,
  vectorSchema,
} from './kernels/planes.ts';

/** What is kept: beyond a plane, in a slab, box, sphere or cylinder, or by the value of a field. */
export interface ClipOptions extends Sweeping {
  shape: 'plane' | 'slab' | 'box' | 'sphere' | 'cylinder' | 'value';
  normal: Vector;
  offset: number;
  thickness: number;
  low: Vector;
  high: Vector;
  centre: Vector;
  radius: number;
  field: string;
  component: number | 'magnitude';
  side: 'above' | 'below' | 'between';
  value: number;
  second: number;
  /** Keeps what would be taken away. */
  invert: boolean;
  /** Cells are kept or taken away uncut. */
  whole: boolean;
  /** Closes what was cut, so that bodies look solid. */
  caps: boolean;
  locked: boolean;
}

const p = phrasesOf<ClipOptions>();
const to = p.choice('invert', [
  { text: 'to', value: false },
  { text: 'without', value: true },
]);

/** Keeping what is not above is keeping what is below: nobody has to think twice. */
const byValue = (inner: Phrase<ClipOptions>): Phrase<ClipOptions> => ({
  say: (o, s) =>
    // A script says it as it is stored.
    o.invert && o.side !== 'between' && !(s.exact && s.digits === undefined)
      ? inner.say({ ...o, invert: false, side: o.side === 'above' ? 'below' : 'above' }, s)
      : inner.say(o, s),
  read: inner.read,
});

const round3 = (v: number): number => Number(v.toPrecision(3));

/**
 * Takes one side away. Bodies stay solid: what was cut is closed by faces with the values of the field there.
 */
export const clip: Operation<ClipOptions> = {
  id: 'clip',
  name: 'Clip',
  purpose: 'take a side away, solid or whole cells',
  opening: 'Clip of ',
  joining: ', clipped',
  schema: z.object({
    shape: z.enum(['plane', 'slab', 'box', 'sphere', 'cylinder', 'value']).default('plane'),
    normal: normalSchema.default([1, 0, 0]),
    offset: boundedNumber().default(0),
    thickness: boundedNumber().min(0).default(0),
    low: vectorSchema.default([0, 0, 0]),
    high: vectorSchema.default([1, 1, 1]),
    centre: vectorSchema.default([0, 0, 0]),
    radius: boundedNumber().min(0).default(1),
    field: z.string().default(''),
    component: z.union([wholeNumber(), z.literal('magnitude')]).default(0),
    side: z.enum(['above', 'below', 'between']).default('above'),
    value: boundedNumber().default(0),
    second: boundedNumber().default(1),
    invert: z.boolean().default(false),
    whole: z.boolean().default(false),
    caps: z.boolean().default(true),
    ...sweepingSchema,
    locked: z.boolean().default(false),
  }),
  version: 2,
  migrations: { 1: inTrueLengths('offset') },
  defaults({ bounds, dimension, preferred }) {
    const plane = middlePlane(bounds, dimension);
    const centre = boundsCentre(bounds);
    const at = (share: number): Vector =>
      [0, 1, 2].map((k) => round3(bounds[2 * k] + share * (bounds[2 * k + 1] - bounds[2 * k]))) as Vector;
    const { low = 0, high = 1 } = preferred ?? {};
    return {
      shape: 'plane',
      ...plane,
      thickness: round3(dot(boundsSizes(bounds), plane.normal) / 4),
      low: at(0.25),
      high: at(0.75),
      centre,
      radius: round3(boundsDiagonal(bounds) / 4),
      field: preferred?.field ?? '',
      component: preferred?.component ?? 0,
      side: 'above',
      value: round3(low + 0.5 * (high - low)),
      second: round3(low + 0.75 * (high - low)),
      invert: false,
      whole: false,
      caps: true,
      ...sweepingDefaults,
      locked: false,
    };
  },
  phrase: p.row(
    p.oneOf(
      p.row(
        p.fixed('shape', 'plane'),
        p.text(' to '),
        p.choice('normal', AXES),
        p.text(' '),
        p.choice('invert', [
          { text: '>', value: false },
          { text: '<', value: true },
        ]),
        p.text(' '),
        p.number('offset', 'length'),
      ),
      p.row(
        p.fixed('shape', 'plane'),
        p.text(' '),
        p.choice('invert', [
          { text: 'beyond', value: false },
          { text: 'before', value: true },
        ]),
        p.text(' '),
        p.number('offset', 'length'),
        p.text(' along '),
        p.vector('normal'),
      ),
      p.row(
        p.fixed('shape', 'slab'),
        p.text(' '),
        to,
        p.text(' the slab of '),
        p.number('thickness', 'length'),
        p.text(' from '),
        p.direction('normal'),
        p.text(' = '),
        p.number('offset', 'length'),
      ),
      p.row(
        p.fixed('shape', 'box'),
        p.text(' '),
        to,
        p.text(' the box '),
        p.vector('low'),
        p.text(' to '),
        p.vector('high', 'length'),
      ),
      p.row(
        p.fixed('shape', 'sphere'),
        p.text(' '),
        to,
        p.text(' the sphere of radius '),
        p.number('radius', 'length'),
        p.text(' around '),
        p.vector('centre', 'length'),
      ),
      p.row(
        p.fixed('shape', 'cylinder'),
        p.text(' '),
        to,
        p.text(' the cylinder of radius '),
        p.number('radius', 'length'),
        p.text(' along '),
        p.direction('normal'),
        p.text(' through '),
        p.vector('centre', 'length'),
      ),
      p.row(
        p.fixed('shape', 'value'),
        byValue(
          p.row(
            p.text(' '),
            to,
            p.text(' '),
            p.quantity('field', 'component'),
            p.text(' '),
            p.oneOf(
              p.row(
                p.fixed('side', 'between'),
                p.text('between '),
                p.number('value', fieldUnit),
                p.text(' and '),
                p.number('second', fieldUnit),
              ),
              p.row(
                p.choice('side', [
                  { text: 'above', value: 'above' },
                  { text: 'below', value: 'below' },
                ]),
                p.text(' '),
                p.number('value', fieldUnit),
              ),
            ),
          ),
        ),
      ),
    ),
    sweepingPhrase((o, s) => (o.shape === 'value' ? fieldUnit(o, s) : s.lengthUnit)),
    p.flag('whole', ' in whole cells'),
    p.flag('caps', ' left open', false, true),
    p.flag('locked', ' (locked)'),
  ),
  everyday: /^(?:a |the )?(?:clipping)\b/i,
  controls: [
    {
      kind: 'choice',
      key: 'shape',
      label: 'By a',
      called: 'shape',
      choices: ['plane', 'slab', 'box', 'sphere', 'cylinder', 'value'].map((value) => ({
        value,
        label: value,
      })),
    },
    {
      kind: 'plane',
      key: 'normal',
      offset: 'offset',
      label: 'Plane',
      when: (o) => o.shape === 'plane' || o.shape === 'slab',
    },
    {
      kind: 'number',
      key: 'thickness',
      label: 'Thickness',
      unit: 'length',
      when: (o) => o.shape === 'slab',
      range: (o, { bounds }) => {
        const [low, high] = planeRange(bounds, o.normal);
        return [0, high - low];
      },
    },
    { kind: 'place', key: 'low', label: 'From', called: 'lower corner', when: (o) => o.shape === 'box' },
    { kind: 'place', key: 'high', label: 'To', called: 'upper corner', when: (o) => o.shape === 'box' },
    { kind: 'direction', key: 'normal', label: 'Axis', when: (o) => o.shape === 'cylinder' },
    {
      kind: 'place',
      key: 'centre',
      label: 'Centre',
      when: (o) => o.shape === 'sphere' || o.shape === 'cylinder',
    },
    {
      kind: 'number',
      key: 'radius',
      label: 'Radius',
      unit: 'length',
      when: (o) => o.shape === 'sphere' || o.shape === 'cylinder',
      range: (_, { bounds }) => [0, boundsDiagonal(bounds) / 2],
    },
    {
      kind: 'quantity',
      key: 'field',
      component: 'component',
      label: 'Of',
      when: (o) => o.shape === 'value',
    },
    {
      kind: 'choice',
      key: 'side',
      label: 'Keep',
      when: (o) => o.shape === 'value',
      choices: ['above', 'below', 'between'].map((value) => ({ value, label: value })),
    },
    {
      kind: 'number',
      key: 'value',
      label: 'Value',
      unit: 'field',
      when: (o) => o.shape === 'value',
      range: (o, s) => spanOfField(o, s),
    },
    {
      kind: 'number',
      key: 'second',
      label: 'And',
      called: 'second value',
      unit: 'field',
      when: (o) => o.shape === 'value' && o.side === 'between',
      range: (o, s) => spanOfField(o, s),
    },
    ...sweepingControls<ClipOptions>(
      'length',
      (o, { bounds }) =>
        o.shape === 'plane' || o.shape === 'slab'
          ? planeRange(bounds, o.normal)
          : [0, boundsDiagonal(bounds) / 2],
      ({ shape }) => shape !== 'box' && shape !== 'value',
    ),
    ...sweepingControls<ClipOptions>('field', spanOfField, ({ shape }) => shape === 'value'),
    { kind: 'tick', key: 'invert', label: 'The other side' },
    { kind: 'tick', key: 'whole', label: 'Whole cells' },
    { kind: 'tick', key: 'caps', label: 'Close what was cut' },
    { kind: 'tick', key: 'locked', label: 'Locked on the stage' },
  ],
  handles({ shape }) {
    if (shape === 'plane' || shape === 'slab') return [{ kind: 'plane', normal: 'normal', offset: 'offset' }];
    if (shape === 'box')
      return [
        { kind: 'place', key: 'low' },
        { kind: 'place', key: 'high' },
      ];
    if (shape === 'value') return [];
    return [
      { kind: 'place', key: 'centre' },
      { kind: 'radius', centre: 'centre', key: 'radius' },
    ];
  },
  traits: {
    within: true,
    leavesOut: 'cut open',
    playsInCycle: sweepPlays,
    // The cut face looks at whoever adds it.
    seenFrom: (o, back) => ({ ...o, invert: dot(o.normal, back) > 0 }),
  },
  scope: 'part',
  reads: 'step',
  gives: (dimension) => dimension,
  settle(o, s) {
    const key = sweeps[o.shape];
    return key ? { ...o, [key]: sweptTo(o[key], o, s), ...sweepingDefaults } : o;
  },
  needs: ({ shape, field }) => (shape === 'value' ? [{ field }] : []),
  run(input, options) {
    const levels = levelMakers(input, options);
    if (!levels) return emptyResult({ lacking: ownName(options.field) });
    return orReason(kept(input, levels, options), input, options);
  },
  outer(input, options) {
    const levels = levelMakers(input, options);
    if (options.whole || !levels) return null;
    const skin = input.outer();
    const sides = { ...kept(skin, levels, options), report: {} };
    const pieces = [skin.derive(sides)];
    if (options.caps) {
      for (const [i, level] of levels.entries()) {
        const others = levels.flatMap((make, j) => (j === i ? [] : [{ make, above: true }]));
        const cap = cutAtLevel(input, level(input));
        pieces.push(input.derive(followedBy(cap, sequence(input.derive(cap), others, false))));
      }
    }
    if (pieces.some((piece) => piece.mesh.types.length > 0)) return pieces;
    return [input.derive(orReason(emptyResult({}), input, options))];
  },
};

/** What of each shape may sweep; a box stays where it is. */
const sweeps: Record<ClipOptions['shape'], 'offset' | 'radius' | 'value' | null> = {
  plane: 'offset',
  slab: 'offset',
  box: null,
  sphere: 'radius',
  cylinder: 'radius',
  value: 'value',
};

/** Makes a level for the points of a piece. */
type LevelMaker = (piece: OperationInput) => Level;

/** What is kept lies above all of these; null when the part lacks the field. */
function levelMakers(input: OperationInput, o: ClipOptions): LevelMaker[] | null {
  const plane = (normal: readonly number[], offset: number): LevelMaker => {
    const n = unit(normal);
    return ({ mesh, blocks, origin }) =>
      new PlaneLevel(mesh.points, blocks().bounds, n, offset - dot(n, origin));
  };
  const back = o.normal.map((v) => -v);
  switch (o.shape) {
    case 'plane':
      return [plane(o.normal, o.offset)];
    case 'slab':
      return [plane(o.normal, o.offset), plane(back, -(o.offset + o.thickness))];
    case 'box':
      return [0, 1, 2].flatMap((k) => {
        const axis = [0, 1, 2].map((j) => Number(j === k));
        const [low, high] = [Math.min(o.low[k], o.high[k]), Math.max(o.low[k], o.high[k])];
        return [
          plane(axis, low),
          plane(
            axis.map((v) => -v),
            -high,
          ),
        ];
      });
    case 'sphere':
      return [
        ({ mesh, blocks, origin }) =>
          turned(
            new SphereLevel(
              mesh.points,
              blocks().bounds,
              o.centre.map((v, k) => v - origin[k]),
              o.radius,
            ),
          ),
      ];
    case 'cylinder':
      return [
        ({ mesh, blocks, origin }) => {
          const centre = o.centre.map((v, k) => v - origin[k]);
          return turned(new CylinderLevel(mesh.points, blocks().bounds, centre, unit(o.normal), o.radius));
        },
      ];
    case 'value': {
      if (!input.scalar({ field: o.field }, o.component)) return null;
      const value =
        (v: number): LevelMaker =>
        (piece) => {
          const values = piece.scalar({ field: o.field }, o.component)!;
          return new ValueLevel(values, piece.blockRanges(values), v);
        };
      const [low, high] = [Math.min(o.value, o.second), Math.max(o.value, o.second)];
      if (o.side === 'above') return [value(o.value)];
      if (o.side === 'below') return [(piece) => turned(value(o.value)(piece))];
      return [value(low), (piece) => turned(value(high)(piece))];
    }
  }
}

/** A level the other way up. */
const turned = (level: Level): Level => ({
  low: 0,
  high: 0,
  at: (point) => -level.at(point),
  look(block) {
    level.look(block);
    this.low = -level.high;
    this.high = -level.low;
  },
});

/** Above all levels; or inverted, in separate pieces: below the first, above it and below the second, and so on. */
function kept(input: OperationInput, levels: LevelMaker[], { invert, whole }: ClipOptions): OperationResult {
  const above = levels.map((make) => ({ make, above: true }));
  if (!invert) return sequence(input, above, whole);
  return joinResults(
    levels.map((make, i) => sequence(input, [...above.slice(0, i), { make, above: false }], whole)),
  );
}

function sequence(
  input: OperationInput,
  steps: { make: LevelMaker; above: boolean }[],
  whole: boolean,
): OperationResult {
  let piece = input;
  let result: OperationResult | null = null;
  for (const { make, above } of steps) {
    const next = clipCells(piece, make(piece), above, whole);
    result = result ? followedBy(result, next) : next;
    piece = input.derive(result);
  }
  return result ?? { mesh: input.mesh, recipe: null };
}

/** Says where there would have been something when nothing is left. */
function orReason(result: OperationResult, input: OperationInput, o: ClipOptions): OperationResult {
  if (result.mesh.types.length > 0) return result;
  const [make] = levelMakers(input, o)!;
  const [low, high] = heightsOf(input, make(input));
  if (o.shape === 'plane')
    return {
      ...result,
      report: { within: { low: low + o.offset, high: high + o.offset, of: 'a plane', unit: 'length' } },
    };
  if (o.shape !== 'value') return result;
  const span = o.side === 'below' ? [o.value - high, o.value - low] : [low, high].map((h) => h + o.value);
  return { ...result, report: { within: { low: span[0], high: span[1], of: 'a value', unit: 'field' } } };
}

import { AXES, phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { boundsCentre, boundsDiagonal } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import { dot, unit, type Vector } from '../model/vectors.ts';
import type { Operation, OperationInput, OperationResult, OptionControl } from './chain/operation.ts';
import { heightsOf } from './chain/results.ts';
import {
  type Sweeping,
  sweepingControls,
  sweepingDefaults,
  sweepingPhrase,
  sweepingSchema,
  sweepPlays,
  sweptTo,
} from './chain/sweeping.ts';
import { joinResults } from './kernels/join-meshes.ts';
import { cutAtLevel } from './kernels/level-cut.ts';
import { CylinderLevel, type Level, PlaneLevel, SphereLevel } from './kernels/levels.ts';
import {
  axisOf,
  boundsSizes,
  inTrueLengths,
  middlePlane,
  normalSchema,
  planePlace,
  planeRange,
  vectorSchema,
} from './kernels/planes.ts';
import { subsetCells } from './kernels/subset-cells.ts';

/**
 * Planes `offset + k * spacing` from the origin along `normal`, or a cylinder or sphere around a centre, all in the
 * coordinates of the files.
 */
export interface SectionOptions extends Sweeping {
  shape: 'plane' | 'cylinder' | 'sphere';
  /** Of the plane, or the axis of the cylinder; of any length. */
  normal: Vector;
  offset: number;
  /** Parallel planes, `spacing` apart. */
  count: number;
  spacing: number;
  centre: Vector;
  radius: number;
  /** The cells it goes through as they are, not cut. */
  whole: boolean;
  /** How low and how high a plane is dragged; null for as far as there is something. */
  low: number | null;
  high: number | null;
  /** A locked plane is not moved by its handle on the stage. */
  locked: boolean;
}

const p = phrasesOf<SectionOptions>();
const several = p.unless(
  'count',
  1,
  p.text(', '),
  p.number('count'),
  p.text(' planes '),
  p.number('spacing', 'length'),
  p.text(' apart'),
);

/**
 * Cut by planes or curved surfaces: volumes give faces, surfaces lines, lines points. See `cutAtLevel`.
 *
 * A plane that only touches the mesh from the side of its normal still gives the touched faces.
 */
export const section: Operation<SectionOptions> = {
  id: 'section',
  name: 'Section',
  purpose: 'cut by planes, a cylinder or a sphere',
  opening: 'Section of ',
  joining: ', its section',
  schema: z.object({
    shape: z.enum(['plane', 'cylinder', 'sphere']).default('plane'),
    normal: normalSchema,
    offset: boundedNumber(),
    count: wholeNumber().min(1).max(200).default(1),
    spacing: boundedNumber().default(0),
    centre: vectorSchema.default([0, 0, 0]),
    radius: boundedNumber().min(0).default(1),
    whole: z.boolean().default(false),
    ...sweepingSchema,
    low: boundedNumber().nullable().default(null),
    high: boundedNumber().nullable().default(null),
    locked: z.boolean().default(false),
  }),
  version: 2,
  migrations: { 1: inTrueLengths('offset', 'spacing') },
  defaults({ bounds, dimension }) {
    const { normal, offset } = middlePlane(bounds, dimension);
    const sizes = boundsSizes(bounds);
    return {
      shape: 'plane',
      normal,
      offset,
      count: 1,
      spacing: Number((dot(sizes, normal) / 5).toPrecision(2)),
      centre: boundsCentre(bounds),
      radius: Number((Math.min(...sizes.filter((s) => s > 0), boundsDiagonal(bounds)) / 4).toPrecision(3)),
      whole: false,
      ...sweepingDefaults,
      low: null,
      high: null,
      locked: false,
    };
  },
  phrase: p.row(
    p.oneOf(
      p.row(
        p.fixed('shape', 'plane'),
        p.text(' at '),
        p.choice('normal', AXES),
        p.text(' = '),
        p.number('offset', 'length'),
        several,
      ),
      p.row(
        p.fixed('shape', 'plane'),
        p.text(' across '),
        p.vector('normal'),
        planePlace('normal', 'offset'),
        several,
      ),
      p.row(
        p.fixed('shape', 'cylinder'),
        p.text(' by a cylinder of radius '),
        p.number('radius', 'length'),
        p.text(' along '),
        p.direction('normal'),
        p.text(' through '),
        p.vector('centre', 'length'),
      ),
      p.row(
        p.fixed('shape', 'sphere'),
        p.text(' by a sphere of radius '),
        p.number('radius', 'length'),
        p.text(' around '),
        p.vector('centre', 'length'),
      ),
    ),
    sweepingPhrase('length'),
    p.unless('low', null, p.text(' kept above '), p.number('low', 'length')),
    p.unless('high', null, p.text(' kept below '), p.number('high', 'length')),
    p.flag('whole', ' through whole cells'),
    p.flag('locked', ' (locked)'),
  ),
  everyday:
    /^(?:a |the )?(?:cross[- ]?sections?|cutting planes?|cut planes?|slices?|cuts?|planes?|sections)\b/i,
  controls: [
    {
      kind: 'choice',
      key: 'shape',
      label: 'By a',
      called: 'shape',
      choices: [
        { value: 'plane', label: 'plane' },
        { value: 'cylinder', label: 'cylinder' },
        { value: 'sphere', label: 'sphere' },
      ],
    },
    {
      kind: 'plane',
      key: 'normal',
      offset: 'offset',
      low: 'low',
      high: 'high',
      label: 'Plane',
      when: (o) => o.shape === 'plane',
    },
    {
      kind: 'number',
      key: 'count',
      label: 'Planes',
      whole: true,
      range: () => [1, 20],
      when: (o) => o.shape === 'plane',
    },
    {
      kind: 'number',
      key: 'spacing',
      label: 'Apart',
      unit: 'length',
      when: (o) => o.shape === 'plane' && o.count > 1,
      range: (o, { bounds }) => {
        const [low, high] = planeRange(bounds, o.normal);
        return [0, (high - low) / 2];
      },
    },
    { kind: 'direction', key: 'normal', label: 'Axis', when: (o) => o.shape === 'cylinder' },
    { kind: 'place', key: 'centre', label: 'Centre', when: (o) => o.shape !== 'plane' },
    {
      kind: 'number',
      key: 'radius',
      label: 'Radius',
      unit: 'length',
      when: (o) => o.shape !== 'plane',
      range: (_, { bounds }) => [0, boundsDiagonal(bounds) / 2],
    },
    ...sweepingControls<SectionOptions>('length', (o, { bounds }) =>
      o.shape === 'plane' ? planeRange(bounds, o.normal) : [0, boundsDiagonal(bounds) / 2],
    ),
    ...(['low', 'high'] as const).map(
      (key): OptionControl<SectionOptions> => ({
        kind: 'number',
        key,
        label: `Dragged no ${{ low: 'lower', high: 'higher' }[key]} than`,
        none: 'the body',
        unit: 'length',
        when: (o) => o.shape === 'plane',
        range: (o, { bounds }) => planeRange(bounds, o.normal),
      }),
    ),
    { kind: 'tick', key: 'whole', label: 'Whole cells' },
    { kind: 'tick', key: 'locked', label: 'Locked on the stage' },
  ],
  handles: ({ shape }) =>
    shape === 'plane'
      ? [{ kind: 'plane', normal: 'normal', offset: 'offset', low: 'low', high: 'high' }]
      : [
          { kind: 'place', key: 'centre' },
          { kind: 'radius', centre: 'centre', key: 'radius' },
        ],
  traits: {
    opensBodies: true,
    within: true,
    playsInCycle: sweepPlays,
    facesAlong: ({ shape, normal }) => (shape === 'plane' ? normal : null),
  },
  scope: 'part',
  reads: 'step',
  gives: (dimension, options) => (options?.whole ? dimension : Math.max(0, dimension - 1)),
  settle(o, s) {
    const key = o.shape === 'plane' ? 'offset' : 'radius';
    return { ...o, [key]: sweptTo(o[key], o, s), ...sweepingDefaults };
  },
  run(input, options) {
    const levels = levelsOf(input, options);
    if (options.whole) return wholeCells(input, options, levels);
    const results = levels.map((level) => cutAtLevel(input, level));
    if (options.shape === 'plane') {
      for (const [k, result] of results.entries()) {
        if (result.mesh.types.length > 0) continue;
        const turned = planeLevel(
          input,
          options.normal.map((v) => -v),
          -(options.offset + k * options.spacing),
        );
        results[k] = cutAtLevel(input, turned);
      }
    }
    const found = results.filter((r) => r.mesh.types.length > 0);
    if (found.length === 0) return { ...results[0], report: emptyReport(input, options, levels[0]) };
    if (found.length === 1) return found[0];
    return joinResults(found);
  },
};

/** The cells with points on both sides of a level, or on it. */
function wholeCells(input: OperationInput, options: SectionOptions, levels: Level[]): OperationResult {
  const { mesh } = input;
  const { offsets, connectivity, types } = mesh;
  const meets = (level: Level, c: number): boolean => {
    let low = Infinity;
    let high = -Infinity;
    for (let i = offsets[c]; i < offsets[c + 1]; i++) {
      const height = level.at(connectivity[i]);
      if (height < low) low = height;
      if (height > high) high = height;
    }
    return low <= 0 && high >= 0;
  };
  const cells = Uint32Array.from(types.keys()).filter((c) => levels.some((level) => meets(level, c)));
  const found = subsetCells(mesh, cells);
  return cells.length > 0 ? found : { ...found, report: emptyReport(input, options, levels[0]) };
}

function planeLevel(input: OperationInput, normal: readonly number[], offset: number): PlaneLevel {
  const n = unit(normal);
  return new PlaneLevel(input.mesh.points, input.blocks().bounds, n, offset - dot(n, input.origin));
}

function levelsOf(input: OperationInput, o: SectionOptions): Level[] {
  if (o.shape === 'plane')
    return Array.from({ length: o.count }, (_, k) => planeLevel(input, o.normal, o.offset + k * o.spacing));
  const centre = o.centre.map((v, k) => v - input.origin[k]);
  const { bounds } = input.blocks();
  const { points } = input.mesh;
  return o.shape === 'sphere'
    ? [new SphereLevel(points, bounds, centre, o.radius)]
    : [new CylinderLevel(points, bounds, centre, unit(o.normal), o.radius)];
}

function emptyReport(input: OperationInput, o: SectionOptions, level: Level) {
  const [low, high] = heightsOf(input, level);
  const base = o.shape === 'plane' ? o.offset : o.radius;
  const axis = axisOf(o.normal);
  const of = o.shape !== 'plane' ? 'radius' : axis >= 0 ? 'xyz'[axis] : 'the place of the plane';
  return { within: { low: low + base, high: high + base, of, unit: 'length' as const } };
}

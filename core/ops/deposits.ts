import { LANDED } from '../fields/sources/landed.ts';
import { PART_NUMBER } from '../fields/sources/part-number.ts';
import { NearestFace } from '../fields/surfaces/nearest-face.ts';
import { outerFaces } from '../fields/surfaces/outer-faces.ts';
import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber } from '../model/bounded-number.ts';
import { polygonNormals } from '../model/mark-geometry.ts';
import { boundsDiagonal, type Mesh } from '../model/mesh.ts';
import { copyOf } from '../model/recipe.ts';
import { z } from '../model/schema.ts';
import type { Operation, OperationInput, OperationResult } from './chain/operation.ts';
import { emptyResult, followedBy } from './chain/results.ts';

export interface DepositOptions {
  /** Name of the part whose points have landed. */
  from: string;
  /** A point this near to a face has landed on it. */
  within: number;
  /** Names of the parts of the run, as their numbers count them; settled when it runs. */
  names: string[];
}

const p = phrasesOf<DepositOptions>();

/** Of the size of the body: what has landed lies on a wall but for rounding and the size of the grains. Common practice, no source. */
const USUAL_REACH = 0.01;

/** Where particles have landed: how many on each face, and by its area. */
export const deposits: Operation<DepositOptions> = {
  id: 'deposits',
  name: 'Deposits',
  purpose: 'how many particles have landed where',
  opening: 'Deposits on ',
  joining: ', its deposits',
  schema: z.object({
    from: z.string().default(''),
    within: boundedNumber().positive(),
    names: z.array(z.string()).default([]),
  }),
  defaults: ({ bounds, particles }) => ({
    from: particles[0] ?? '',
    within: Number((USUAL_REACH * (boundsDiagonal(bounds) || 1)).toPrecision(2)),
    names: [],
  }),
  phrase: p.row(
    p.maybe(p.text(' from part '), p.quoted('from')),
    p.maybe(p.text(' within '), p.number('within', 'length')),
  ),
  everyday: /^(?:a |the )?(?:landed particles|deposition|fallout|what (?:has )?landed)\b/i,
  controls: [
    { kind: 'part', key: 'from', label: 'Of part', called: 'part' },
    {
      kind: 'number',
      key: 'within',
      label: 'Within',
      unit: 'length',
      range: (_, { bounds }) => [0, boundsDiagonal(bounds) / 20],
    },
  ],
  traits: { showsValues: true, makes: Object.values(LANDED), colouredBy: () => LANDED.density },
  // What lies between two parts counts once, on the nearer one.
  scope: 'layer',
  reads: 'step',
  gives: () => 2,
  fits: ({ dimension, particles }) => dimension >= 2 && particles.length > 0,
  needs: ({ names }) => (names.length > 1 ? [{ field: PART_NUMBER }] : []),
  settle: (o, { parts }) => ({ ...o, names: [...parts] }),
  beside: ({ from }) => [{ kind: 'part', name: from }],
  run(input, { from, within, names }) {
    const grains = input.beside({ kind: 'part', name: from });
    if (!grains) return emptyResult({ lacking: `part “${from}” whose points could have landed` });
    const faces: OperationResult =
      input.dimension === 3 ? outerFaces(input.mesh) : { mesh: input.mesh, recipe: null };
    const nearest = new NearestFace(faces.mesh, within);
    const counts = new Float64Array(faces.mesh.types.length);
    for (let i = 0; i < grains.points.length; i += 3) {
      const face = nearest.find(grains.points[i], grains.points[i + 1], grains.points[i + 2]);
      if (face >= 0) counts[face]++;
    }
    const areas = faceAreas(faces.mesh);
    const apart = facesApart(faces.mesh);
    const of = (value: (face: number) => number): Float32Array =>
      Float32Array.from(apart.faceOf, (face) => value(face));
    return {
      ...followedBy(faces, apart),
      made: {
        [LANDED.count]: of((face) => counts[face]),
        [LANDED.density]: of((face) => (areas[face] > 0 ? counts[face] / areas[face] : Number.NaN)),
      },
      report: {
        landed: byPart(partOfFaces(input, faces, names), counts, areas).map((row) => ({
          ...row,
          of: grains.points.length / 3,
        })),
      },
    };
  },
};

/** The name of the part that each face is of. */
function partOfFaces(
  input: OperationInput,
  { recipe }: OperationResult,
  names: readonly string[],
): (face: number) => string {
  const numbers = input.field({ field: PART_NUMBER });
  if (numbers?.location !== 'cell') return () => input.part;
  return (face) => names[numbers.data[recipe ? recipe.cells.index[face] : face] - 1] ?? input.part;
}

/** How many lie on each part, in the order in which parts are met, and on what area. */
function byPart(
  partOf: (face: number) => string,
  counts: Float64Array,
  areas: Float64Array,
): { part: string; count: number; area: number }[] {
  const rows = new Map<string, { part: string; count: number; area: number }>();
  for (const [face, count] of counts.entries()) {
    const part = partOf(face);
    const row = rows.get(part) ?? { part, count: 0, area: 0 };
    row.count += count;
    row.area += areas[face];
    rows.set(part, row);
  }
  return [...rows.values()];
}

function faceAreas(faces: Mesh): Float64Array {
  const twice = polygonNormals(faces, false);
  return Float64Array.from(
    faces.types,
    (_, c) => Math.hypot(twice[3 * c], twice[3 * c + 1], twice[3 * c + 2]) / 2,
  );
}

/** The faces with points of their own, so that each can have a number of its own. */
function facesApart(faces: Mesh): OperationResult & { faceOf: Uint32Array } {
  const { points, types, offsets, connectivity } = faces;
  const own = new Float32Array(3 * connectivity.length);
  const faceOf = new Uint32Array(connectivity.length);
  for (let c = 0; c < types.length; c++)
    for (let i = offsets[c]; i < offsets[c + 1]; i++) {
      faceOf[i] = c;
      for (let k = 0; k < 3; k++) own[3 * i + k] = points[3 * connectivity[i] + k];
    }
  return {
    mesh: { points: own, types, offsets, connectivity: Uint32Array.from(connectivity, (_, i) => i) },
    recipe: {
      points: copyOf(Uint32Array.from(connectivity)),
      cells: copyOf(Uint32Array.from(types, (_, c) => c)),
    },
    faceOf,
  };
}

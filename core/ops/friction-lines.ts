import { ownName } from '../fields/quantity-sources.ts';
import { ALONG_LINE } from '../fields/sources/along-line.ts';
import { phrasesOf } from '../language/phrase.ts';
import { buildBlocks } from '../model/blocks.ts';
import { boundedNumber } from '../model/bounded-number.ts';
import type { MeshField } from '../model/field.ts';
import { polygonNormals } from '../model/mark-geometry.ts';
import { boundsDiagonal, boundsOf, type Mesh } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import type { Operation, OperationInput } from './chain/operation.ts';
import { emptyResult, followedBy } from './chain/results.ts';
import { outerFaces } from './kernels/outer-faces.ts';
import { linesFrom, reportOf } from './streamlines.ts';
import { HERE, MeshFlow } from './tracing/flow.ts';
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
import { usualVector } from './tracing/usual-vector.ts';

export interface FrictionLineOptions extends SeedOptions {
  field: string;
  component: 'magnitude';
  /** A line is no longer than this, in each direction; null for the size of the body. */
  length: number | null;
}

const p = phrasesOf<FrictionLineOptions>();

const USUAL_SEEDS = 200;
const STEPS = 4000;
/** Largest error of a step, as a part of the size of the body; what is followed is known no better. */
const TOLERANCE = 1e-5;
/** So far off the wall, in parts of the size of the cell there, the flow is compared with that at the wall. */
const OFF_WALL = 0.2;

/**
 * Lines along walls in the direction in which the flow rubs on them: that of the wall shear, which is how fast the velocity
 * along the wall changes with the distance from it.
 */
export const frictionLines: Operation<FrictionLineOptions> = {
  id: 'friction lines',
  name: 'Skin-friction lines',
  purpose: 'how the flow rubs along walls',
  opening: 'Skin-friction lines of ',
  joining: ', its skin-friction lines',
  schema: z.object({
    field: z.string(),
    component: z.literal('magnitude').default('magnitude'),
    ...seedSchema,
    length: boundedNumber().positive().nullable().default(null),
  }),
  defaults: (setting) => ({
    field: usualVector(setting)?.field ?? '',
    component: 'magnitude',
    ...usualSeeds(setting),
    seeds: 'surface',
    count: USUAL_SEEDS,
    length: null,
  }),
  phrase: p.row(
    p.maybe(p.text(' by '), p.quantity('field', 'component')),
    p.maybe(sayWhereFrom<FrictionLineOptions>()),
    p.suffixes(...seedSuffixes<FrictionLineOptions>(), {
      usual: { length: null },
      phrase: p.row(p.text('at most '), p.number('length', 'length'), p.text(' long')),
    }),
  ),
  lead: p.row(p.text('skin-friction lines of '), p.quantity('field', 'component')),
  everyday:
    /^(?:a |the |some )?(?:(?:skin[- ])?friction lines?|wall (?:shear|stream) ?lines?|oil flow(?: lines?)?)\b/i,
  controls: [
    { kind: 'quantity', key: 'field', component: 'component', label: 'Of', vectors: true },
    ...seedControls<FrictionLineOptions>(),
    {
      kind: 'number',
      key: 'length',
      label: 'Longest',
      unit: 'length',
      none: 'the body',
      range: (_, { bounds }) => [0, 2 * boundsDiagonal(bounds)],
    },
  ],
  handles: (o) => seedHandles<FrictionLineOptions>(o),
  traits: { showsValues: true, follows: true, makes: Object.values(ALONG_LINE) },
  scope: 'layer',
  reads: 'step',
  gives: () => 1,
  fits: (setting) => setting.dimension === 3 && usualVector(setting) !== null,
  needs: ({ field }) => [{ field }],
  beside: besideSeeds,
  run(input, o) {
    const field = input.field({ field: o.field });
    if (!field) return emptyResult({ lacking: ownName(o.field) });
    if (field.components < 3)
      return emptyResult({ lacking: `directions: ${ownName(o.field)} has no three parts` });
    if (input.dimension < 3) return emptyResult({ lacking: 'a body with walls: it has no volume' });
    // Not those the input keeps: the lines are to lead back to the points of the body.
    const walls = outerFaces(input.mesh);
    const seeds = placedSeeds(input, o);
    if (!seeds) return emptyResult({ lacking: lackingSeeds(o) });
    const flow = new MeshFlow(walls.mesh, buildBlocks(walls.mesh), rubbing(input, walls.mesh, field));
    const diagonal = boundsDiagonal(boundsOf(input.mesh.points));
    const lines = linesFrom(flow, seeds, 'both', {
      tolerance: TOLERANCE * diagonal,
      length: o.length ?? diagonal,
      time: Infinity,
      steps: STEPS,
    });
    return { ...followedBy(walls, lines.result()), report: reportOf(lines) };
  },
};

/** At each point of the walls how fast the velocity along them grows with the distance from them, in its unit by length. */
function rubbing(input: OperationInput, walls: Mesh, field: MeshField): MeshField {
  const normals = normalsAtPoints(walls);
  const flow = new MeshFlow(input.mesh, input.blocks(), field);
  const n = walls.points.length / 3;
  const data = new Float32Array(3 * n).fill(Number.NaN);
  const [at, off] = [new Float64Array(3), new Float64Array(3)];
  for (let i = 0; i < n; i++) {
    const place = walls.points.subarray(3 * i, 3 * i + 3);
    const normal = normals.subarray(3 * i, 3 * i + 3);
    if (flow.at(place[0], place[1], place[2], 0, at) !== HERE) continue;
    const way = OFF_WALL * flow.reach();
    const [x, y, z] = [0, 1, 2].map((k) => place[k] - way * normal[k]);
    if (flow.at(x, y, z, 0, off) !== HERE) continue;
    const change = [0, 1, 2].map((k) => (off[k] - at[k]) / way);
    const across = change[0] * normal[0] + change[1] * normal[1] + change[2] * normal[2];
    for (let k = 0; k < 3; k++) data[3 * i + k] = change[k] - across * normal[k];
  }
  return { location: 'point', components: 3, axial: false, data };
}

/** Outwards, the mean of the faces around a point by their areas. */
function normalsAtPoints(faces: Mesh): Float32Array {
  const ofFaces = polygonNormals(faces, false);
  const out = new Float32Array(faces.points.length);
  for (let c = 0; c < faces.types.length; c++)
    for (let i = faces.offsets[c]; i < faces.offsets[c + 1]; i++)
      for (let k = 0; k < 3; k++) out[3 * faces.connectivity[i] + k] += ofFaces[3 * c + k];
  for (let i = 0; i < out.length; i += 3) {
    const length = Math.hypot(out[i], out[i + 1], out[i + 2]) || 1;
    for (let k = 0; k < 3; k++) out[i + k] /= length;
  }
  return out;
}

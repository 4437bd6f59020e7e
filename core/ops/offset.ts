import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber } from '../model/bounded-number.ts';
import { polygonNormals } from '../model/mark-geometry.ts';
import { boundsDiagonal } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';

export interface OffsetOptions {
  distance: number;
}

const p = phrasesOf<OffsetOptions>();

/** A surface moved along its normals, the mean of the faces around each point weighted by their areas. */
export const offset: Operation<OffsetOptions> = {
  id: 'offset',
  name: 'Offset',
  purpose: 'a surface moved along its normals',
  opening: 'Offset of ',
  joining: ', offset',
  schema: z.object({ distance: boundedNumber() }),
  defaults: ({ bounds }) => ({ distance: Number((boundsDiagonal(bounds) / 200).toPrecision(2)) }),
  phrase: p.row(p.text(' by '), p.number('distance', 'length')),
  controls: [
    {
      kind: 'number',
      key: 'distance',
      label: 'Distance',
      unit: 'length',
      range: (_, { bounds }) => [-boundsDiagonal(bounds) / 20, boundsDiagonal(bounds) / 20],
    },
  ],
  scope: 'part',
  reads: 'step',
  gives: (dimension) => Math.min(2, dimension),
  on: 'faces',
  run({ mesh }, { distance }) {
    const normals = polygonNormals(mesh, false);
    const sums = new Float32Array(mesh.points.length);
    for (let c = 0; c < mesh.types.length; c++)
      for (let i = mesh.offsets[c]; i < mesh.offsets[c + 1]; i++)
        for (let k = 0; k < 3; k++) sums[3 * mesh.connectivity[i] + k] += normals[3 * c + k];
    const points = mesh.points.slice();
    for (let i = 0; i < points.length; i += 3) {
      const length = Math.hypot(sums[i], sums[i + 1], sums[i + 2]) || 1;
      for (let k = 0; k < 3; k++) points[i + k] += (distance * sums[i + k]) / length;
    }
    return { mesh: { ...mesh, points }, recipe: null };
  },
};

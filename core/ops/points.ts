import { pointsToCells } from '../fields/averages.ts';
import { phrasesOf } from '../language/phrase.ts';
import { VERTEX } from '../model/cell-types.ts';
import { cellCount, pointCount } from '../model/mesh.ts';
import { copyOf, identityGather, replayAll } from '../model/recipe.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';

export interface PointsOptions {
  of: 'points' | 'cells';
}

const p = phrasesOf<PointsOptions>();

/** The points of a mesh, or the middles of its cells, as dots. */
export const points: Operation<PointsOptions> = {
  id: 'points',
  name: 'Points',
  purpose: 'points of the mesh, or middles of cells',
  opening: 'Points of ',
  joining: ', its points',
  schema: z.object({ of: z.enum(['points', 'cells']).default('points') }),
  defaults: () => ({ of: 'points' }),
  phrase: p.flag('of', ' in the middles of its cells', 'cells', 'points'),
  controls: [
    {
      kind: 'choice',
      key: 'of',
      label: 'Of',
      choices: [
        { value: 'points', label: 'points' },
        { value: 'cells', label: 'middles of cells' },
      ],
    },
  ],
  traits: { showsValues: true },
  scope: 'part',
  reads: 'step',
  gives: () => 0,
  run({ mesh }, { of }) {
    const n = of === 'points' ? pointCount(mesh) : cellCount(mesh);
    const centres = pointsToCells(mesh);
    const around = new Uint32Array(pointCount(mesh));
    for (let c = 0; c < cellCount(mesh); c++)
      for (let i = mesh.offsets[c]; i < mesh.offsets[c + 1]; i++) around[mesh.connectivity[i]] = c;
    return {
      mesh: {
        points: of === 'points' ? mesh.points : replayAll(centres, mesh.points, 3),
        types: new Uint8Array(n).fill(VERTEX),
        offsets: Uint32Array.from({ length: n + 1 }, (_, i) => i),
        connectivity: Uint32Array.from({ length: n }, (_, i) => i),
      },
      recipe:
        of === 'points'
          ? { points: identityGather(n), cells: copyOf(around) }
          : { points: centres, cells: identityGather(n) },
    };
  },
};

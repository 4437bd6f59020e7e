import { phrasesOf } from '../language/phrase.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';
import { pointsAlone } from './kernels/points-alone.ts';

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
      called: 'places',
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
  run: ({ mesh }, { of }) => pointsAlone(mesh, of),
};

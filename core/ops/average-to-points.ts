import { cellsToPoints } from '../fields/averages.ts';
import { phrasesOf } from '../language/phrase.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';

/** Cell fields become point fields: the mean of the cells around each point. Colours then run smoothly. */
export const averageToPoints: Operation<object> = {
  id: 'average-to-points',
  name: 'Average to points',
  purpose: 'cell values run smoothly',
  opening: 'Average at points of ',
  joining: ', averaged to points',
  schema: z.object({}),
  defaults: () => ({}),
  phrase: phrasesOf<object>().row(),
  controls: [],
  scope: 'part',
  reads: 'step',
  gives: (dimension) => dimension,
  run: ({ mesh }) => ({ mesh, recipe: null, moved: { from: 'cell', gather: cellsToPoints(mesh) } }),
};

import { pointsToCells } from '../fields/averages.ts';
import { phrasesOf } from '../language/phrase.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';

/** Point fields become cell fields: the mean of the nodes of each cell. Every cell then has one colour. */
export const averageToCells: Operation<object> = {
  id: 'average-to-cells',
  name: 'Average to cells',
  purpose: 'one value for each cell',
  opening: 'Average in cells of ',
  joining: ', averaged to cells',
  schema: z.object({}),
  defaults: () => ({}),
  phrase: phrasesOf<object>().row(),
  controls: [],
  scope: 'part',
  reads: 'step',
  gives: (dimension) => dimension,
  run: ({ mesh }) => ({ mesh, recipe: null, moved: { from: 'point', gather: pointsToCells(mesh) } }),
};

import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { boundsDiagonal } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';
import { emptyResult } from './chain/results.ts';
import { roundOutline, sweptLines } from './kernels/swept-lines.ts';

export interface TubeOptions {
  /** In the unit of length of the run. */
  radius: number;
  /** Flat sides around. */
  sides: number;
}

const p = phrasesOf<TubeOptions>();
const USUAL_SIDES = 10;

/** Of the diagonal of the body: to be seen, and to be told apart. Common practice, no source. */
const USUAL_SHARE = 0.0028;

/** Any lines as bodies with a thickness, light and shadow. */
export const tubes: Operation<TubeOptions> = {
  id: 'tubes',
  name: 'Tubes',
  purpose: 'lines with a thickness, light and shadow',
  opening: 'Tubes of ',
  joining: ', as tubes',
  schema: z.object({
    radius: boundedNumber().positive(),
    sides: wholeNumber().min(3).max(64).default(USUAL_SIDES),
  }),
  defaults: ({ bounds }) => ({
    radius: Number((USUAL_SHARE * (boundsDiagonal(bounds) || 1)).toPrecision(2)),
    sides: USUAL_SIDES,
  }),
  phrase: p.row(
    p.maybe(p.text(' of radius '), p.number('radius', 'length')),
    p.unless('sides', USUAL_SIDES, p.text(' with '), p.number('sides'), p.text(' sides')),
  ),
  controls: [
    {
      kind: 'number',
      key: 'radius',
      label: 'Radius',
      unit: 'length',
      range: (_, { bounds }) => [boundsDiagonal(bounds) / 5000, boundsDiagonal(bounds) / 50],
    },
    { kind: 'number', key: 'sides', label: 'Sides', whole: true, range: () => [3, 24] },
  ],
  traits: { within: true, showsValues: true, ofLines: true },
  scope: 'part',
  reads: 'step',
  gives: () => 2,
  run({ mesh, dimension }, { radius, sides }) {
    if (dimension !== 1)
      return emptyResult({ lacking: 'lines: put a step that makes lines before the tubes' });
    return sweptLines(mesh, roundOutline(radius, sides), true, null);
  },
};

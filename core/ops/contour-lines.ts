import { roundLevels } from '../colour/ticks.ts';
import { phrasesOf } from '../language/phrase.ts';
import { wholeNumber } from '../model/bounded-number.ts';
import { type Levels, levelsSchema } from '../model/levels.ts';
import { z } from '../model/schema.ts';
import { innerEnds, levelsPhrase, numbersOf, settledLevels } from './chain/levels-phrase.ts';
import type { Operation } from './chain/operation.ts';
import { cutAtValues } from './isosurface.ts';

export interface ContourOptions {
  field: string;
  component: number | 'magnitude';
  levels: Levels;
  labels: boolean;
}

const p = phrasesOf<ContourOptions>();

/** Lines of equal value on a surface; of a body, on its outer faces. */
export const contourLines: Operation<ContourOptions> = {
  id: 'contour-lines',
  name: 'Contour lines',
  purpose: 'lines of equal value on a surface',
  opening: 'Contour lines on ',
  joining: ', its contour lines',
  schema: z.object({
    field: z.string(),
    component: z.union([wholeNumber(), z.literal('magnitude')]),
    levels: levelsSchema,
    labels: z.boolean().default(false),
  }),
  version: 2,
  migrations: {
    /** A mode with a count between two ends, both left out, or values. */
    1({ mode, count = 10, low = 0, high = 1, values = [], ...rest }) {
      const n = count as number;
      const even = { kind: 'count', count: n, ...innerEnds(n, low as number, high as number) };
      return {
        ...rest,
        levels: mode === 'scale' ? { kind: 'scale' } : mode === 'list' ? { kind: 'list', values } : even,
      };
    },
  },
  defaults({ preferred }) {
    return {
      field: preferred?.field ?? '',
      component: preferred?.component ?? 0,
      levels: roundLevels(preferred?.low ?? 0, preferred?.high ?? 1, 10),
      labels: false,
    };
  },
  phrase: p.row(
    p.text(' of '),
    p.quantity('field', 'component'),
    p.text(' at '),
    levelsPhrase<ContourOptions>('levels'),
    p.flag('labels', ' with their values'),
  ),
  everyday: /^(?:a |the )?(?:isolines?|iso-?contours?|contours?|level lines?)\b(?! lines)/i,
  controls: [
    { kind: 'quantity', key: 'field', component: 'component', label: 'Of' },
    { kind: 'levels', key: 'levels', label: 'At', of: 'values' },
    { kind: 'tick', key: 'labels', label: 'Values written on the lines' },
  ],
  scope: 'part',
  reads: 'step',
  gives: (dimension) => Math.max(0, Math.min(2, dimension) - 1),
  fits: ({ quantities }) => quantities.length > 0,
  needs: ({ field }) => [{ field }],
  settle: settledLevels,
  // Of a body the lines lie on its outer faces.
  on: 'faces',
  run(input, options) {
    return cutAtValues(input, options, numbersOf(options.levels), options.labels);
  },
};

import { numberTexts } from '../colour/ticks.ts';
import { directionsOfGrowth } from '../fields/gradient.ts';
import { ownName } from '../fields/quantity-sources.ts';
import { fieldUnit, phrasesOf } from '../language/phrase.ts';
import { wholeNumber } from '../model/bounded-number.ts';
import { type Levels, levelsSchema } from '../model/levels.ts';
import type { Mesh } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import { levelsPhrase, numbersOf, settledLevels } from './chain/levels-phrase.ts';
import type { Operation, OperationInput, OperationReport, OperationResult } from './chain/operation.ts';
import { emptyResult } from './chain/results.ts';
import {
  type Sweeping,
  spanOfField,
  sweepingControls,
  sweepingDefaults,
  sweepingPhrase,
  sweepingSchema,
  sweepPlays,
  sweptTo,
} from './chain/sweeping.ts';
import { connectedLines, thinned } from './kernels/connected-lines.ts';
import { joinResults } from './kernels/join-meshes.ts';
import { cutAtLevel } from './kernels/level-cut.ts';
import { ValueLevel } from './kernels/levels.ts';

export interface IsosurfaceOptions extends Sweeping {
  field: string;
  component: number | 'magnitude';
  levels: Levels;
}

const p = phrasesOf<IsosurfaceOptions>();

/** Where a quantity has a value. Cell fields are averaged to points first. */
export const isosurface: Operation<IsosurfaceOptions> = {
  id: 'isosurface',
  name: 'Isosurface',
  purpose: 'where a quantity has a value',
  opening: 'Isosurface of ',
  joining: ', its isosurface',
  schema: z.object({
    field: z.string(),
    component: z.union([wholeNumber(), z.literal('magnitude')]),
    levels: levelsSchema,
    ...sweepingSchema,
  }),
  version: 2,
  migrations: {
    /** Values, or a number of them between two ends, by a mode. */
    1: ({ mode, values, low = 0, high = 1, count = 5, ...rest }) => ({
      ...rest,
      levels: mode === 'range' ? { kind: 'count', count, low, high } : { kind: 'list', values },
    }),
  },
  defaults({ preferred }) {
    const { low = 0, high = 1, mean = 0.5 } = preferred ?? {};
    const inner = (share: number): number => Number((low + share * (high - low)).toPrecision(3));
    // The mean divides most results in two halves of which both are seen; at the ends nothing would be.
    const telling = mean > low + 0.05 * (high - low) && mean < high - 0.05 * (high - low) ? mean : inner(0.5);
    return {
      field: preferred?.field ?? '',
      component: preferred?.component ?? 0,
      levels: { kind: 'list', values: [Number(telling.toPrecision(3))] },
      ...sweepingDefaults,
    };
  },
  phrase: p.row(
    p.text(' where '),
    p.quantity('field', 'component'),
    p.text(' = '),
    levelsPhrase<IsosurfaceOptions>('levels'),
    sweepingPhrase(fieldUnit),
  ),
  shorthand: p.row(
    p.text('isosurface of '),
    p.quantity('field', 'component'),
    p.text(' at '),
    levelsPhrase<IsosurfaceOptions>('levels'),
    sweepingPhrase(fieldUnit),
  ),
  everyday: /^(?:a |the )?(?:isotherms?|iso-?surfaces?|level surfaces?)\b/i,
  controls: [
    { kind: 'quantity', key: 'field', component: 'component', label: 'Of' },
    { kind: 'levels', key: 'levels', label: 'At', of: 'values' },
    ...sweepingControls<IsosurfaceOptions>('field', spanOfField),
  ],
  traits: { levelOf: ({ field }) => field, within: true, playsInCycle: sweepPlays },
  scope: 'part',
  reads: 'step',
  gives: (dimension) => Math.max(0, dimension - 1),
  fits: ({ quantities }) => quantities.length > 0,
  needs: ({ field }) => [{ field }],
  settle(options, setting) {
    const settled = settledLevels(options, setting);
    const values = numbersOf(settled.levels);
    // Of several surfaces the first goes there, and the others keep their distance from it.
    const by = sweptTo(values[0], options, setting) - values[0];
    return { ...settled, levels: { kind: 'list', values: values.map((v) => v + by) }, ...sweepingDefaults };
  },
  run: (input, options) => cutAtValues(input, options, numbersOf(options.levels), false),
};

/** Cuts at each of several values of a field, or says why there is nothing. */
export function cutAtValues(
  input: OperationInput,
  { field, component }: Pick<IsosurfaceOptions, 'field' | 'component'>,
  at: number[],
  labelled: boolean,
) {
  const values = input.scalar({ field }, component);
  if (!values) return emptyResult({ lacking: ownName(field) });
  const ranges = input.blockRanges(values);
  const texts = labelled ? numberTexts(at) : [];
  const results = at.map((value, i) => {
    const result = cutAtLevel(input, new ValueLevel(values, ranges, value), true);
    return labelled ? { ...result, labels: labelsOf(result.mesh, texts[i]) } : result;
  });
  const missing = Math.max(0, ...results.map((r) => r.report?.missing ?? 0));
  const report: OperationReport = missing > 0 ? { missing } : {};
  const found = results.filter((r) => r.mesh.types.length > 0);
  if (found.length > 0) {
    const joined = joinResults(found);
    return {
      ...joined,
      report,
      normals:
        input.dimension === 3
          ? () => directionsOfGrowth(input.mesh, values, joined.recipe!.points)
          : undefined,
      crease: 85,
    };
  }
  let low = Infinity;
  let high = -Infinity;
  for (let i = 0; i < values.length; i++) {
    if (values[i] < low) low = values[i];
    if (values[i] > high) high = values[i];
  }
  return emptyResult({ ...report, within: { low, high, of: 'a value', unit: 'field' } });
}

/** Points kept of a line that carries its value: enough to see where it runs straight. */
const LABEL_POINTS = 160;

/** The lines of a cut with their value as text. */
function labelsOf(mesh: Mesh, text: string): NonNullable<OperationResult['labels']> {
  return connectedLines(mesh).map((line) => ({ line: thinned(line, LABEL_POINTS), text }));
}

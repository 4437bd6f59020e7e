import { phrasesOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { colourSchema } from '../things/colour-code.ts';
import type { Declaration } from '../things/declaration.ts';

/** How a curve is drawn. */
export interface CurveLook {
  /** Own name, or null to be called by what it is of. */
  name: string | null;
  /** Null for the next colour of the chart. */
  ink: string | null;
  /** As a multiple of the usual one. */
  width: number;
  line: 'solid' | 'dashed' | 'dotted' | 'dots';
  /** On one axis with the curves of the same unit, or on its own. */
  axis: 'shared' | 'own';
  visible: boolean;
}

const p = phrasesOf<CurveLook>();

export const curve: Declaration<CurveLook> = {
  id: 'curve',
  name: 'the curve',
  schema: z.object({
    name: z.string().max(300).nullable(),
    ink: colourSchema.nullable(),
    width: boundedNumber().min(0.25).max(10),
    line: z.enum(['solid', 'dashed', 'dotted', 'dots']),
    axis: z.enum(['shared', 'own']),
    visible: z.boolean(),
  }),
  plain: { name: null, ink: null, width: 1, line: 'solid', axis: 'shared', visible: true },
  opening: 'Curve of',
  phrase: p.suffixes(
    { usual: { name: null }, phrase: p.row(p.text('called '), p.quoted('name')) },
    { usual: { ink: null }, phrase: p.row(p.text('in '), p.colour('ink')) },
    { usual: { width: 1 }, phrase: p.row(p.number('width'), p.text(' times as wide')) },
    {
      usual: { line: 'solid' },
      phrase: p.choice('line', [
        { text: 'dashed', value: 'dashed' },
        { text: 'dotted', value: 'dotted' },
        { text: 'as dots', value: 'dots' },
      ]),
    },
    { usual: { axis: 'shared' }, phrase: p.row(p.text('on its own axis'), p.fixed('axis', 'own')) },
    { usual: { visible: true }, phrase: p.row(p.text('hidden'), p.fixed('visible', false)) },
  ),
  controls: [
    { kind: 'words', key: 'name', label: 'Name', hint: 'as what it is of' },
    { kind: 'colour', key: 'ink', label: 'Colour', none: 'the next one' },
    {
      kind: 'choice',
      key: 'line',
      label: 'Drawn',
      choices: [
        { value: 'solid', label: 'solid' },
        { value: 'dashed', label: 'dashed' },
        { value: 'dotted', label: 'dotted' },
        { value: 'dots', label: 'as dots' },
      ],
    },
    { kind: 'number', key: 'width', label: 'Width', range: () => [0.5, 4] },
    {
      kind: 'choice',
      key: 'axis',
      label: 'Axis',
      choices: [
        { value: 'shared', label: 'that of its unit' },
        { value: 'own', label: 'its own' },
      ],
    },
  ],
};

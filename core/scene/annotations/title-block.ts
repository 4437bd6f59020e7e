import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { z } from '../../model/schema.ts';
import { type PlaceInPicture, placeControls, placeInPicture, sayPlace } from '../things/place-in-picture.ts';
import type { AnnotationKind } from './annotation.ts';
import type { Shape } from './drawing.ts';
import { keptInside, placeAfterMove } from './keep-inside.ts';
import {
  type Lettering,
  letteringControls,
  letteringSchema,
  letteringSuffixes,
  lettersOf,
  plainLettering,
  weightOf,
} from './lettering-options.ts';
import { filledIn, needsOfText } from './template.ts';

export interface TitleBlock extends Lettering, PlaceInPicture {
  title: string;
  /** One row a line: what it is, a colon, and a text with values. */
  rows: string;
}

const p = phrasesOf<TitleBlock>();
const lettering: Lettering = { ...plainLettering, size: 2, weight: 'regular', ground: 'plate' };
const plain: TitleBlock = {
  title: '{scene}',
  rows: 'Run: {run}\nStep: {step} of {steps}',
  x: 0.84,
  y: 0.9,
  ...lettering,
};

/** The rows as pairs; a row without a colon is all text. */
export const rowsOf = (rows: string): [string, string][] =>
  rows
    .split('\n')
    .filter((row) => row.trim() !== '')
    .map((row) => {
      // A colon within braces belongs to a value.
      const colon = /^[^{}:]*:/.exec(row);
      return colon ? [colon[0].slice(0, -1).trim(), row.slice(colon[0].length).trim()] : ['', row.trim()];
    });

/** A framed table with a title, as drawings have in their corner. */
export const titleBlock: AnnotationKind<TitleBlock, 'title-block'> = {
  id: 'title-block',
  name: 'the title block',
  offered: 'Title block',
  purpose: 'a framed table with title, run, step and what else there is to say',
  schema: z.object({
    title: z.string().max(500),
    rows: z.string().max(4000),
    x: placeInPicture(),
    y: placeInPicture(),
    ...letteringSchema,
  }),
  plain,
  defaults: ({ times, timeUnit }) => ({
    ...plain,
    rows: [
      'Run: {run}',
      ...(times.length > 1 ? ['Step: {step} of {steps}'] : []),
      ...(times.length > 1 && timeUnit ? [`Time: {time:.2f} ${timeUnit}`] : []),
    ].join('\n'),
  }),
  opening: 'Title block ',
  phrase: p.styled(
    ({ title }) => [words(`Title block “${title}”`)],
    p.row(
      p.quoted('title'),
      p.text(' with '),
      p.quoted('rows'),
      p.text(' at '),
      sayPlace<TitleBlock>(),
      p.suffixes(...letteringSuffixes<TitleBlock>(lettering)),
    ),
  ),
  controls: [
    { kind: 'template', key: 'title', label: 'Title' },
    { kind: 'template', key: 'rows', label: 'Rows, each “what: text”', lines: true },
    ...letteringControls<TitleBlock>(),
    ...placeControls<TitleBlock>(),
  ],
  text: 'title',
  knows: ({ title, rows }, run, scene) => needsOfText(`${title}\n${rows}`, run, scene),
  layout(o, s) {
    const fill = (text: string): string => filledIn(text, { ...s, here: null });
    const size = o.size * s.unit;
    const letters = lettersOf(o);
    const pad = 0.7 * size;
    const row = 1.75 * size;
    const head = o.title === '' ? 0 : 2.4 * size;
    const rows = rowsOf(o.rows).map(([what, text]): [string, string] => [fill(what), fill(text)]);
    const title = fill(o.title);
    const widest = (list: string[], weight: number): number =>
      Math.max(0, ...list.map((text) => s.measure(text, size, weight, letters)));
    const first = widest(
      rows.map(([what]) => what),
      weightOf(o),
    );
    const second = widest(
      rows.map(([, text]) => text),
      600,
    );
    const left = first > 0 ? first + 2 * pad : 0;
    const width = Math.max(
      left + second + 2 * pad,
      s.measure(title, 1.25 * size, 700, letters) + 2 * pad,
      14 * size,
    );
    const height = head + rows.length * row;
    const box = keptInside(
      { x: o.x * s.width - width / 2, y: o.y * s.height - height / 2, width, height },
      s,
      2 * s.unit,
    );
    const line = Math.max(1, 0.12 * s.unit);
    const text = (said: string, x: number, y: number, bold: number, weight: number): Shape => ({
      kind: 'text',
      text: said,
      x: box.x + x,
      y: box.y + y,
      size: bold * size,
      weight,
      align: 'left',
      letters,
      ink: o.ink,
      halo: o.ground === 'none',
    });
    const across = (y: number): Shape => ({
      kind: 'line',
      spots: [
        [box.x, box.y + y],
        [box.x + width, box.y + y],
      ],
      width: line,
      ink: o.ink,
      halo: false,
    });
    const shapes: Shape[] = [
      { kind: 'ground', box, ground: o.ground, ink: o.ink, pad: 0 },
      { kind: 'box', box, radius: 0, fill: null, opacity: 1, rim: { ink: o.ink, width: line } },
    ];
    if (head > 0) shapes.push(text(title, pad, head / 2, 1.25, 700));
    for (const [i, [what, said]] of rows.entries()) {
      const y = head + i * row;
      if (y > 0) shapes.push(across(y));
      if (what !== '') shapes.push(text(what, pad, y + row / 2, 1, weightOf(o)));
      shapes.push(text(said, left + pad, y + row / 2, 1, 600));
    }
    if (left > 0 && rows.length > 0)
      shapes.push({
        kind: 'line',
        spots: [
          [box.x + left, box.y + head],
          [box.x + left, box.y + height],
        ],
        width: line,
        ink: o.ink,
        halo: false,
      });
    return { shapes, box };
  },
  moved: (_, by, s) => placeAfterMove(by, s),
};

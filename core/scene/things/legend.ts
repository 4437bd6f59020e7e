import { phrasesOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { colourSchema } from './colour-code.ts';
import type { Declaration } from './declaration.ts';
import { placeControls, placeInPicture, sayPlace } from './place-in-picture.ts';

/** What lies behind a legend; `as needed` finds out what the picture beneath asks for. */
export const legendGrounds = ['as needed', 'none', 'plate', 'blur'] as const;
export type LegendGround = (typeof legendGrounds)[number];

export interface Legend {
  visible: boolean;
  /** Own title, or null for the name of the quantity. */
  title: string | null;
  upright: boolean;
  /** Short and narrow, with only its ends named. */
  compact: boolean;
  /** How much of what is shown has which value, beside the bar. */
  histogram: boolean;
  /** Numbers where bands meet, or what each band reaches from and to, in it. */
  labels: 'at limits' | 'in bands';
  /** Numbers where bands meet, or round ones. */
  ticks: 'levels' | 'tidy';
  /** Marks of the lowest and highest value of the step on show and of all steps. */
  extremes: boolean;
  ground: LegendGround;
  /** Size of its letters and bar, 1 being the usual one. */
  size: number;
  /** Colour of its words; null for that of the backdrop. */
  ink: string | null;
  serif: boolean;
  /** Middle of the legend as a fraction of the picture, from the top left. */
  x: number;
  y: number;
}

const p = phrasesOf<Legend>();

/** Where legends stand that nobody has moved. */
export const UPRIGHT_PLACE = { x: 0.925, y: 0.5 };
export const LYING_PLACE = { x: 0.5, y: 0.9 };

const plain: Legend = {
  visible: true,
  title: null,
  upright: true,
  compact: false,
  histogram: false,
  labels: 'at limits',
  ticks: 'levels',
  extremes: false,
  ground: 'as needed',
  size: 1,
  ink: null,
  serif: false,
  ...UPRIGHT_PLACE,
};

export const legend: Declaration<Legend> = {
  id: 'legend',
  name: 'the legend',
  version: 2,
  migrations: {
    1: (old) => {
      const { compact, histogram, labels, ticks, extremes, ground, size, ink, serif } = plain;
      return { compact, histogram, labels, ticks, extremes, ground, size, ink, serif, ...old };
    },
  },
  schema: z.object({
    visible: z.boolean(),
    title: z.string().max(300).nullable(),
    upright: z.boolean(),
    compact: z.boolean(),
    histogram: z.boolean(),
    labels: z.enum(['at limits', 'in bands']),
    ticks: z.enum(['levels', 'tidy']),
    extremes: z.boolean(),
    ground: z.enum(legendGrounds),
    size: boundedNumber().min(0.4).max(3),
    ink: colourSchema.nullable(),
    serif: z.boolean(),
    x: placeInPicture(),
    y: placeInPicture(),
  }),
  plain,
  opening: 'legend ',
  phrase: p.row(
    p.choice('upright', [
      { text: 'upright', value: true },
      { text: 'lying', value: false },
    ]),
    p.text(' at '),
    sayPlace<Legend>(),
    p.suffixes(
      { usual: { title: null }, phrase: p.row(p.text('titled '), p.quoted('title')) },
      { usual: { compact: false }, phrase: p.row(p.text('compact'), p.fixed('compact', true)) },
      { usual: { histogram: false }, phrase: p.row(p.text('with histogram'), p.fixed('histogram', true)) },
      {
        usual: { labels: 'at limits' },
        phrase: p.row(p.text('labels in bands'), p.fixed('labels', 'in bands')),
      },
      { usual: { ticks: 'levels' }, phrase: p.row(p.text('tidy ticks'), p.fixed('ticks', 'tidy')) },
      { usual: { extremes: false }, phrase: p.row(p.text('with extremes'), p.fixed('extremes', true)) },
      {
        usual: { ground: 'as needed' },
        phrase: p.row(
          p.choice('ground', [
            { text: 'on nothing', value: 'none' },
            { text: 'on a plate', value: 'plate' },
            { text: 'on a blur', value: 'blur' },
          ]),
        ),
      },
      { usual: { size: 1 }, phrase: p.row(p.text('size '), p.number('size')) },
      { usual: { ink: null }, phrase: p.row(p.text('words in '), p.colour('ink')) },
      { usual: { serif: false }, phrase: p.row(p.text('in serif letters'), p.fixed('serif', true)) },
      { usual: { visible: true }, phrase: p.row(p.text('legend hidden'), p.fixed('visible', false)) },
    ),
  ),
  controls: [
    { kind: 'tick', key: 'visible', label: 'Shown' },
    {
      kind: 'choice',
      key: 'upright',
      label: 'Stands',
      choices: [
        { value: true, label: 'upright' },
        { value: false, label: 'lying' },
      ],
      also: (upright) => (upright ? UPRIGHT_PLACE : LYING_PLACE),
    },
    { kind: 'words', key: 'title', label: 'Title', hint: 'name of the quantity' },
    { kind: 'tick', key: 'compact', label: 'Compact' },
    { kind: 'tick', key: 'histogram', label: 'Histogram' },
    { kind: 'tick', key: 'extremes', label: 'Lowest and highest' },
    {
      kind: 'choice',
      key: 'labels',
      label: 'Numbers',
      choices: [
        { value: 'at limits', label: 'at limits' },
        { value: 'in bands', label: 'in bands' },
      ],
    },
    {
      kind: 'choice',
      key: 'ticks',
      label: 'Ticks',
      choices: [
        { value: 'levels', label: 'at levels' },
        { value: 'tidy', label: 'tidy' },
      ],
    },
    {
      kind: 'choice',
      key: 'ground',
      label: 'Behind',
      choices: legendGrounds.map((value) => ({ value, label: value })),
    },
    { kind: 'number', key: 'size', label: 'Size', range: () => [0.5, 2] },
    { kind: 'colour', key: 'ink', label: 'Words in', called: 'lettering', none: 'as the backdrop asks' },
    { kind: 'tick', key: 'serif', label: 'Serif letters' },
    ...placeControls<Legend>(),
  ],
};

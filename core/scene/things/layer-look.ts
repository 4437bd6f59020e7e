import { type PhraseSetting, phrasesOf, quantity, type Suffixes, sayShare } from '../../language/phrase.ts';
import { type SentencePiece, words } from '../../language/sentence.ts';
import type { SentenceReader } from '../../language/sentence-reader.ts';
import { type FinishOf, finishSchema } from '../../light/own-finish.ts';
import { boundedNumber, wholeNumber } from '../../model/bounded-number.ts';
import type { Component } from '../../model/quantity.ts';
import { z } from '../../model/schema.ts';
import { colourSchema } from './colour-code.ts';
import type { Declaration } from './declaration.ts';
import { finishPhrase } from './finish-phrase.ts';

/** Everything of the looks of a layer beside its colour. */
export interface LayerLook {
  /** What it is made of, as it looks; null is plain colour. */
  finish: FinishOf;
  opacity: number;
  /** The edges of its cells, drawn over it. */
  edges: {
    shown: boolean;
    colour: string;
    opacity: number;
    /** A quantity on a colour scale, in place of the one colour. */
    by: { field: string; component: Component; scale: string } | null;
  };
  /** Width of its lines, as a multiple of the usual one. */
  lineWidth: number;
  /**
   * `inside` leaves out what turns its front to the camera, so that one looks into a closed body; `clear`
   * leaves out what lies before or behind something opaque, so that it veils nothing.
   */
  sides: 'both' | 'inside' | 'clear';
  /** The step it shows: the one on show, always the same, or so many later. */
  time: { kind: 'now' } | { kind: 'fixed'; step: number } | { kind: 'later'; by: number };
  /** On which side of the wipe of the scene it is shown. */
  wipe: 'both' | 'before' | 'after';
  visible: boolean;
}

/** Edges as they are drawn unless something else is asked for. */
export const plainEdges: LayerLook['edges'] = { shown: false, colour: '#26241f', opacity: 0.45, by: null };

type EdgeColour = NonNullable<LayerLook['edges']['by']>;

const edgeQuantity = quantity<EdgeColour>('field', 'component');

/** ` by pressure on scale 2`. */
const sayEdgeColour = (by: EdgeColour, s: PhraseSetting): SentencePiece[] => {
  const scale = s.scales?.find((named) => named.value === by.scale)?.text ?? 'a scale that is gone';
  return [
    words(' by '),
    ...(edgeQuantity.say(by, s) ?? []).map((piece) => words(piece.text)),
    words(` on ${scale}`),
  ];
};

function readEdgeColour(reader: SentenceReader, s: PhraseSetting): EdgeColour | undefined {
  const found: Partial<EdgeColour> = {};
  if (!reader.words('by') || !edgeQuantity.read(reader, found, s) || !reader.words('on')) return undefined;
  const scale = reader.name(s.scales ?? []);
  return scale === undefined ? undefined : ({ ...found, scale } as EdgeColour);
}

const p = phrasesOf<LayerLook>();

export const layerLook: Declaration<LayerLook> & { phrase: Suffixes<LayerLook> } = {
  id: 'look',
  name: 'the look of a line',
  version: 4,
  migrations: {
    1: (old) => ({ ...old, edges: { ...plainEdges, ...(old.edges as object) } }),
    2: (old) => ({ ...old, finish: null }),
    3: (old) => ({ ...old, wipe: 'both' }),
  },
  schema: z.object({
    finish: finishSchema,
    opacity: boundedNumber().min(0).max(1),
    edges: z.object({
      shown: z.boolean(),
      colour: colourSchema,
      opacity: boundedNumber().min(0).max(1),
      by: z
        .object({
          field: z.string(),
          component: z.union([wholeNumber().min(0), z.literal('magnitude')]),
          scale: z.string(),
        })
        .nullable(),
    }),
    lineWidth: boundedNumber().min(0.1).max(20).default(1),
    sides: z.enum(['both', 'inside', 'clear']),
    time: z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('now') }),
      z.object({ kind: z.literal('fixed'), step: wholeNumber().min(0) }),
      z.object({ kind: z.literal('later'), by: wholeNumber() }),
    ]),
    wipe: z.enum(['both', 'before', 'after']),
    visible: z.boolean(),
  }),
  plain: {
    finish: null,
    opacity: 1,
    edges: plainEdges,
    lineWidth: 1,
    sides: 'both',
    time: { kind: 'now' },
    wipe: 'both',
    visible: true,
  },
  opening: '',
  phrase: p.suffixes(
    { usual: { finish: null }, phrase: finishPhrase },
    {
      usual: { opacity: 1 },
      phrase: {
        say: (o, s) => [
          words('at '),
          { text: `${sayShare(o.opacity, s)} opacity`, control: { kind: 'opacity' } },
        ],
        read(reader, into) {
          const value = reader.words('at') ? reader.number('%') : undefined;
          if (value === undefined || !reader.words('opacity')) return false;
          into.opacity = Math.min(1, Math.max(0, value / 100));
          return true;
        },
      },
    },
    {
      usual: { edges: plainEdges },
      phrase: {
        say: ({ edges: { shown, colour, opacity, by } }, s) => [
          words('with '),
          { text: shown ? 'edges' : 'edges hidden', control: { kind: 'edges' } },
          ...(by ? sayEdgeColour(by, s) : []),
          words(
            colour !== plainEdges.colour || opacity !== plainEdges.opacity
              ? ` in ${colour} at ${sayShare(opacity, s)}`
              : '',
          ),
        ],
        read(reader, into, s) {
          if (!reader.words('with edges')) return false;
          const shown = !reader.first([() => reader.words('hidden')]);
          const by = reader.first([() => readEdgeColour(reader, s)]) ?? null;
          const own = reader.first([
            () => {
              const colour = reader.words('in') ? reader.colourCode() : undefined;
              const value = colour && reader.words('at') ? reader.number('%') : undefined;
              return value === undefined ? undefined : { colour: colour!, opacity: value / 100 };
            },
          ]);
          into.edges = { ...plainEdges, ...own, by, shown };
          return true;
        },
      },
    },
    {
      usual: { lineWidth: 1 },
      phrase: {
        say: ({ lineWidth }) => [
          words('with lines '),
          { text: `${lineWidth} times`, control: { kind: 'edges' } },
          words(' as wide'),
        ],
        read(reader, into) {
          const times = reader.words('with lines') ? reader.number(null, 'how many times') : undefined;
          if (times === undefined || !reader.words('times as wide')) return false;
          into.lineWidth = Math.min(20, Math.max(0.1, times));
          return true;
        },
      },
    },
    {
      usual: { sides: 'both' },
      phrase: p.oneOf(
        p.row(p.text('seen from inside'), p.fixed('sides', 'inside')),
        p.row(p.text('seen beside bodies only'), p.fixed('sides', 'clear')),
      ),
    },
    {
      usual: { time: { kind: 'now' } },
      phrase: {
        say({ time }) {
          if (time.kind === 'fixed')
            return [words('at '), { text: `step ${time.step + 1}`, control: { kind: 'time' } }];
          const by = time.kind === 'later' ? time.by : 0;
          const said = `${Math.abs(by)} steps ${by < 0 ? 'earlier' : 'later'}`;
          return [{ text: said, control: { kind: 'time' } }];
        },
        read(reader, into) {
          const time = reader.first<LayerLook['time']>([
            () => {
              const step = reader.words('at step') ? reader.number(null, 'the number of a step') : undefined;
              return step !== undefined && { kind: 'fixed', step: Math.max(0, Math.round(step) - 1) };
            },
            () => {
              const by = reader.number(null, 'a number of steps');
              if (by === undefined || (!reader.words('steps') && !reader.words('step'))) return undefined;
              const sign = reader.name([
                { text: 'earlier', value: -1 },
                { text: 'later', value: 1 },
              ]);
              return sign !== undefined && { kind: 'later', by: sign * Math.round(by) };
            },
          ]);
          if (!time) return false;
          into.time = time;
          return true;
        },
      },
    },
    {
      usual: { wipe: 'both' },
      phrase: p.oneOf(
        p.row(p.text('before the wipe'), p.fixed('wipe', 'before')),
        p.row(p.text('behind the wipe'), p.fixed('wipe', 'after')),
      ),
    },
    {
      usual: { visible: true },
      phrase: p.row(p.text('hidden'), p.fixed('visible', false)),
      // On the desk the eye beside the sentence says so.
      inFull: true,
    },
  ),
  controls: [
    { kind: 'finish', key: 'finish', label: 'Finish', none: 'plain colour' },
    { kind: 'share', key: 'opacity', label: 'Opacity' },
    { kind: 'edges', key: 'edges', label: 'Mesh edges' },
    { kind: 'number', key: 'lineWidth', label: 'Line width', range: () => [0.25, 6] },
    {
      kind: 'choice',
      key: 'sides',
      label: 'Seen from',
      called: 'seen sides',
      choices: [
        { value: 'both', label: 'both sides' },
        { value: 'inside', label: 'inside only' },
        { value: 'clear', label: 'beside bodies only' },
      ],
      when: (_, { dimension }) => dimension === 3,
    },
    { kind: 'layer time', key: 'time', label: 'Shows', when: (_, { steps }) => steps > 1 },
    {
      kind: 'choice',
      key: 'wipe',
      label: 'Wipe',
      choices: [
        { value: 'both', label: 'on both sides' },
        { value: 'before', label: 'before it' },
        { value: 'after', label: 'behind it' },
      ],
    },
    { kind: 'tick', key: 'visible', label: 'Visible' },
  ],
};

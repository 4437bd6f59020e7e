import { colourMapById, colourMaps } from '../../colour/maps.ts';
import { type Phrase, phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { type Bands, bandsSchema } from '../../model/levels.ts';
import { parseQuantity, quantityKey } from '../../model/quantity.ts';
import { z } from '../../model/schema.ts';
import { levelsPhrase } from '../../ops/chain/levels-phrase.ts';
import type { Declaration } from './declaration.ts';
import { type Legend, legend } from './legend.ts';

/**
 * Where a scale begins and ends: at the extremes of all steps or of this one, at two values, or so that a share of all
 * values lies within and as many below as above.
 */
export type ScaleRange =
  | { kind: 'all-steps' }
  | { kind: 'this-step' }
  | { kind: 'middle'; share: number }
  | { kind: 'fixed'; low: number; high: number };

/** How much of the values a scale covers that leaves out the few extreme ones. */
export const USUAL_MIDDLE = 0.98;

/** How a quantity becomes colours, for every layer that uses it. */
export interface Scale {
  id: string;
  name: string;
  /** Field key and component the scale was made for. */
  quantity: string;
  map: string;
  reversed: boolean;
  /** How it is parted into bands; null runs smoothly. */
  bands: Bands | null;
  range: ScaleRange;
  legend: Legend;
}

const p = phrasesOf<Scale>();

/** The quantity by the name sentences give it; an unknown one by its key in quotation marks. */
const quantity: Phrase<Scale> = {
  say({ quantity: key }, { quantities }) {
    const known = quantities.find((q) => quantityKey(q.field, q.component) === key);
    return [words(known?.name ?? `"${key}"`)];
  },
  read(reader, into, { quantities }) {
    const key = reader.name(
      quantities.map((q) => ({ text: q.name, value: quantityKey(q.field, q.component) })),
    );
    const said = key ?? reader.quoted();
    if (!said) return false;
    into.quantity = said;
    return true;
  },
};

const map: Phrase<Scale> = {
  say: (o) => [words(colourMapById(o.map).name)],
  read(reader, into) {
    const found = reader.name(colourMaps.map((m) => ({ text: m.name, value: m.id })));
    if (found === undefined) return false;
    into.map = found;
    return true;
  },
};

/** `from 20 to 250`. */
const ends: Phrase<Scale> = {
  say: ({ range }) => (range.kind === 'fixed' ? [words(`from ${range.low} to ${range.high}`)] : null),
  read(reader, into, { quantities }) {
    const { field, component } = parseQuantity(into.quantity ?? '');
    const unit = quantities.find((q) => q.field === field && q.component === component)?.unit ?? null;
    const low = reader.words('from') ? reader.number(unit) : undefined;
    const high = low !== undefined && reader.words('to') ? reader.number(unit) : undefined;
    if (high === undefined) return false;
    into.range = { kind: 'fixed', low: low!, high };
    return true;
  },
};

/** `over the middle 98 %`. */
const middle: Phrase<Scale> = {
  say: ({ range }) =>
    range.kind === 'middle' ? [words(`over the middle ${Number((100 * range.share).toFixed(3))} %`)] : null,
  read(reader, into) {
    const percent = reader.words('over the middle') ? reader.number('%') : undefined;
    if (percent === undefined) return false;
    reader.words('%');
    into.range = { kind: 'middle', share: percent / 100 };
    return true;
  },
};

const bands: Phrase<Scale> = {
  say: (o, s) => (o.bands ? [words('in '), ...levelsPhrase('bands', 'bands').say(o, s)!] : null),
  read: (reader, into, s) =>
    reader.words('in') && levelsPhrase<Scale>('bands', 'bands').read(reader, into, s),
};

/** What is said of the legend, behind the words for it. */
const legendSaid: Phrase<Scale> = {
  say: (o, s) => [words(legend.opening), ...(legend.phrase.say(o.legend, s) ?? [])],
  read(reader, into, s) {
    if (!reader.words(legend.opening)) return false;
    const found: Partial<Legend> = {};
    if (!legend.phrase.read(reader, found, s)) return false;
    into.legend = { ...legend.plain, ...found };
    return true;
  },
};

export const scale: Declaration<Scale> = {
  id: 'scales',
  name: 'the colour scale',
  schema: z.object({
    id: z.string().min(1).max(200),
    name: z.string().max(300),
    quantity: z.string(),
    map: z.string(),
    reversed: z.boolean(),
    bands: bandsSchema.nullable(),
    range: z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('all-steps') }),
      z.object({ kind: z.literal('this-step') }),
      z.object({ kind: z.literal('middle'), share: boundedNumber().min(0.1).max(1) }),
      z.object({ kind: z.literal('fixed'), low: boundedNumber(), high: boundedNumber() }),
    ]),
    legend: legend.schema,
  }),
  plain: {
    id: 'scale',
    name: 'scale',
    quantity: '',
    map: 'viridis',
    reversed: false,
    bands: null,
    range: { kind: 'all-steps' },
    legend: legend.plain,
  },
  opening: 'Scale of ',
  phrase: p.row(
    quantity,
    p.text(' on '),
    map,
    p.suffixes(
      { usual: { name: '' }, phrase: p.row(p.text('called '), p.quoted('name')) },
      {
        usual: { range: { kind: 'all-steps' } },
        phrase: p.oneOf(
          p.row(p.text('over all steps'), p.fixed('range', { kind: 'all-steps' })),
          p.row(p.text('over this step'), p.fixed('range', { kind: 'this-step' })),
          middle,
          ends,
        ),
      },
      { usual: { bands: null }, phrase: bands },
      { usual: { reversed: false }, phrase: p.row(p.text('reversed'), p.fixed('reversed', true)) },
      { usual: {}, phrase: legendSaid },
    ),
  ),
  needs: ({ quantity: key }) => (key === '' ? [] : [parseQuantity(key).field]),
  controls: [
    { kind: 'range', key: 'range', label: 'Range' },
    { kind: 'levels', key: 'bands', label: 'Bands', of: 'bands' },
    { kind: 'tick', key: 'reversed', label: 'Reverse' },
    { kind: 'map', key: 'map', label: 'Colours' },
  ],
};

import { nameOfMap, ownMapSchema } from '../../colour/maps/own-map.ts';
import { colourMaps } from '../../colour/maps/registry.ts';
import type { NumberStyle } from '../../colour/number-style.ts';
import {
  type Phrase,
  type PhraseSetting,
  phrasesOf,
  quantityByKey,
  type Suffix,
  sayShare,
  sayValue,
} from '../../language/phrase.ts';
import { quantityNames } from '../../language/quantity-names.ts';
import { readQuantity } from '../../language/read-quantity.ts';
import { type SentencePiece, words } from '../../language/sentence.ts';
import type { SentenceReader } from '../../language/sentence-reader.ts';
import { parseQuantity, type Quantity, quantityKey } from '../../model/quantity.ts';
import { levelsPhrase } from '../../ops/chain/levels-phrase.ts';
import { type Legend, legend } from './legend.ts';
import type { Scale, ShownEnd } from './scale.ts';

const p = phrasesOf<Scale>();

/** The unit of the quantity a scale is made for. */
const unitOf = (scale: Partial<Scale>, s: PhraseSetting): string | null => ofScale(scale, s)?.unit ?? null;

function ofScale(scale: Partial<Scale>, s: PhraseSetting): Quantity | undefined {
  const { field, component } = parseQuantity(scale.quantity ?? '');
  return quantityByKey(field, component, s);
}

const value = (v: number, o: Scale, s: PhraseSetting): string => sayValue(v, unitOf(o, s), s);

/** The quantity by the name sentences give it; an unknown one by its key in quotation marks. */
const quantity: Phrase<Scale> = {
  say: (o, s) => [words(ofScale(o, s)?.name ?? `"${o.quantity}"`)],
  read(reader, into, s) {
    const found = readQuantity(reader, s, quantityNames(s, false));
    if (!found) return false;
    into.quantity = quantityKey(found.field, found.component);
    return true;
  },
};

/** `on Heat`; colours of its own in full: `on the colours {…}`. */
const map: Phrase<Scale> = {
  say: ({ map: said }) => [
    words(typeof said === 'string' ? `on ${nameOfMap(said)}` : `on the colours ${JSON.stringify(said)}`),
  ],
  read(reader, into) {
    if (reader.words('on the colours')) {
      const read = ownMapSchema.safeParse(jsonHere(reader));
      if (!read.success) return reader.miss('colours as JSON');
      into.map = read.data;
      return true;
    }
    const found = reader.words('on')
      ? reader.name(colourMaps.map((m) => ({ text: m.name, value: m.id })))
      : undefined;
    if (found === undefined) return false;
    into.map = found;
    return true;
  },
};

/** A JSON object or list that stands here. */
function jsonHere(reader: SentenceReader): unknown {
  const rest = reader.text.slice(reader.at);
  for (let end = rest.search(/[}\]]/); end >= 0; ) {
    try {
      const found = JSON.parse(rest.slice(0, end + 1)) as unknown;
      reader.at += end + 1;
      return found;
    } catch {
      const next = rest.slice(end + 1).search(/[}\]]/);
      end = next < 0 ? -1 : end + 1 + next;
    }
  }
  return undefined;
}

/** `from 20 to 250 °C`. */
const ends: Phrase<Scale> = {
  say: (o, s) =>
    o.range.kind === 'fixed'
      ? [words(`from ${sayValue(o.range.low, null, s)} to ${value(o.range.high, o, s)}`)]
      : null,
  read(reader, into, s) {
    const unit = unitOf(into, s);
    const low = reader.words('from') ? endHere(reader, unit) : undefined;
    const high = low && reader.words('to') ? endHere(reader, unit) : undefined;
    if (!low || !high) return false;
    // "from 20 to 200 °C": the unit of the second is that of the first.
    const own = high.typed && !low.typed ? reread(reader, low.at, high.typed, unit) : low.value;
    into.range = { kind: 'fixed', low: Math.min(own, high.value), high: Math.max(own, high.value) };
    return true;
  },
};

interface End {
  value: number;
  at: number;
  /** The unit that was typed behind it. */
  typed: string | null;
}

function endHere(reader: SentenceReader, unit: string | null): End | undefined {
  const at = reader.at;
  const found = reader.number(unit, 'a number', true);
  if (found === undefined) return undefined;
  const [, typed] = /([°\p{L}%][^\s,]*)\s*$/u.exec(reader.text.slice(at, reader.at)) ?? [];
  return { value: found, at, typed: typed && !/^[\d.e+-]+$/i.test(typed) ? typed : null };
}

/** A number that was read without its unit, as if this one stood behind it. */
function reread(reader: SentenceReader, at: number, typed: string, unit: string | null): number {
  const [said = ''] = /^\s*[-−+]?[\d.]+(?:e[-+]?\d+)?/i.exec(reader.text.slice(at)) ?? [];
  const other = new (reader.constructor as typeof SentenceReader)(`${said} ${typed}`);
  return other.number(unit, 'a number', true) ?? Number(said);
}

/** `over the middle 98 %`. */
const middle: Phrase<Scale> = {
  say: ({ range }) =>
    range.kind === 'middle' ? [words(`over the middle ${Number((100 * range.share).toFixed(3))} %`)] : null,
  read(reader, into) {
    const said = reader.words('over the middle') ? reader.number('%') : undefined;
    if (said === undefined) return false;
    reader.words('%');
    into.range = { kind: 'middle', share: Math.min(1, Math.max(0.1, said / 100)) };
    return true;
  },
};

const bands: Phrase<Scale> = (() => {
  const levels = levelsPhrase<Scale>('bands', 'bands', unitOf);
  return {
    say: (o, s) => (o.bands ? [words('in '), ...levels.say(o, s)!] : null),
    read: (reader, into, s) => reader.words('in') && levels.read(reader, into, s),
  };
})();

const symmetric: Phrase<Scale> = {
  say: (o, s) => (o.symmetric === null ? null : [words(`symmetric about ${value(o.symmetric, o, s)}`)]),
  read(reader, into, s) {
    const about = reader.words('symmetric about')
      ? reader.number(unitOf(into, s), 'a number', true)
      : undefined;
    if (about === undefined) return false;
    into.symmetric = about;
    return true;
  },
};

/** `by logarithm`; `by logarithm through zero from 0.1 Pa`, where it stops being straight. */
const spacing: Phrase<Scale> = {
  say: (o, s) => {
    if (o.spacing.kind === 'linear') return null;
    const zero = o.spacing.kind === 'symlog' ? ` through zero from ${value(o.spacing.linear, o, s)}` : '';
    return [words(`by logarithm${zero}`)];
  },
  read(reader, into, s) {
    if (!reader.words('by logarithm')) return false;
    const linear = reader.first([
      () =>
        reader.words('through zero from') ? reader.number(unitOf(into, s), 'a number', true) : undefined,
    ]);
    into.spacing = linear !== undefined && linear > 0 ? { kind: 'symlog', linear } : { kind: 'log' };
    return true;
  },
};

/** `hidden above 180 °C`, `hidden below its range`. */
const shown = (key: 'shownFrom' | 'shownTo', side: 'below' | 'above'): Phrase<Scale> => ({
  say(o, s) {
    const end: ShownEnd = o[key];
    return end === null
      ? null
      : [words(`hidden ${side} ${end === 'range' ? 'its range' : value(end, o, s)}`)];
  },
  read(reader, into, s) {
    if (!reader.words(`hidden ${side}`)) return false;
    const end = reader.first<{ end: ShownEnd }>([
      () => reader.words('its range') && { end: 'range' },
      () => {
        const found = reader.number(unitOf(into, s), 'a number', true);
        return found !== undefined && { end: found };
      },
    ]);
    if (!end) return false;
    into[key] = end.end;
    return true;
  },
});

/** `below in #26241f`. */
const beyond = (key: 'below' | 'above'): Phrase<Scale> => p.row(p.text(`${key} in `), p.colour(key));

const lines: Phrase<Scale> = {
  say: ({ lines: { shown: on, colour, width } }) => [
    words(`with lines at levels${on ? '' : ' hidden'} in ${colour}, ${width} times as wide`),
  ],
  read(reader, into) {
    if (!reader.words('with lines at levels')) return false;
    const on = !reader.first([() => reader.words('hidden')]);
    const colour = reader.first([() => (reader.words('in') ? reader.colourCode() : undefined)]) ?? '#26241f';
    const width =
      reader.first([
        () => {
          const times = reader.words(',') ? reader.number(null) : undefined;
          return times !== undefined && reader.words('times as wide') ? times : undefined;
        },
      ]) ?? 1;
    into.lines = { shown: on, colour, width: Math.min(20, Math.max(0.1, width)) };
    return true;
  },
};

/** `as opaque as [[0, 0], [1, 1]]`. */
const opacity: Phrase<Scale> = {
  say: ({ opacity: curve }) => (curve ? [words(`as opaque as ${JSON.stringify(curve)}`)] : null),
  read(reader, into) {
    const curve = reader.words('as opaque as') ? jsonHere(reader) : undefined;
    if (!Array.isArray(curve) || curve.length === 0) return false;
    into.opacity = curve as [number, number][];
    return true;
  },
};

/** `naming 1 "dough", 2 "tin" in #b4733f`. */
const categories: Phrase<Scale> = {
  say: ({ categories: all }) =>
    all && all.length > 0
      ? [
          words(
            `naming ${all.map((c) => `${c.value} "${c.name.replaceAll('"', '”')}"${c.colour ? ` in ${c.colour}` : ''}`).join(' ')}`,
          ),
        ]
      : null,
  read(reader, into) {
    if (!reader.words('naming')) return false;
    const found: NonNullable<Scale['categories']> = [];
    for (;;) {
      const one = reader.first([
        () => {
          const v = reader.number(null);
          const name = v === undefined ? null : reader.quoted();
          return name === null ? undefined : { value: v!, name };
        },
      ]);
      if (!one) break;
      const colour = reader.first([() => (reader.words('in') ? reader.colourCode() : undefined)]) ?? null;
      found.push({ ...one, colour });
    }
    if (found.length === 0) return false;
    into.categories = found;
    return true;
  },
};

const numberWords: Record<Exclude<NumberStyle['kind'], 'as needed'>, string> = {
  decimals: 'decimals',
  digits: 'digits',
  powers: 'digits and powers of ten',
};

/** `with 2 decimals`. */
const numbers: Phrase<Scale> = {
  say: ({ numbers: style }) =>
    style.kind === 'as needed' ? null : [words(`with ${style.count} ${numberWords[style.kind]}`)],
  read(reader, into) {
    const count = reader.words('with') ? reader.number(null) : undefined;
    if (count === undefined || count < 0 || count > 12) return false;
    const kind = reader.name(
      (Object.entries(numberWords) as [keyof typeof numberWords, string][]).map(([kind, text]) => ({
        text,
        value: kind,
      })),
    );
    if (!kind) return false;
    into.numbers = { kind, count: Math.round(count) };
    return true;
  },
};

const crop: Phrase<Scale> = {
  say: ({ crop: [from, to] }, s) => [
    words(`using ${sayShare(from, s)} to ${sayShare(to, s)} of its colours`),
  ],
  read(reader, into) {
    const from = reader.words('using') ? reader.number('%') : undefined;
    const to = from !== undefined && reader.words('to') ? reader.number('%') : undefined;
    if (to === undefined || !reader.words('of its colours')) return false;
    into.crop = [Math.min(1, Math.max(0, from! / 100)), Math.min(1, Math.max(0, to / 100))];
    return true;
  },
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

/** What can be said of a scale behind its quantity, in any order, in sentences of lines as well as in scripts. */
export const scaleClauses = (plain: Scale): Suffix<Scale>[] => {
  const { range, bands: noBands, symmetric: none, tidy, spacing: even, reversed, crop: whole } = plain;
  const usualEnds = { below: plain.below, above: plain.above };
  return [
    {
      usual: { range },
      phrase: p.oneOf(
        p.row(p.text('over all steps'), p.fixed('range', { kind: 'all-steps' })),
        p.row(p.text('over this step'), p.fixed('range', { kind: 'this-step' })),
        p.row(p.text('over what is shown'), p.fixed('range', { kind: 'shown' })),
        middle,
        ends,
      ),
    },
    { usual: { symmetric: none }, phrase: symmetric },
    { usual: { tidy }, phrase: p.row(p.text('to round numbers'), p.fixed('tidy', true)) },
    { usual: { spacing: even }, phrase: spacing },
    { usual: { bands: noBands }, phrase: bands },
    { usual: { lines: plain.lines }, phrase: lines },
    { usual: { reversed }, phrase: p.row(p.text('reversed'), p.fixed('reversed', true)) },
    { usual: { crop: whole }, phrase: crop },
    { usual: { rotate: plain.rotate }, phrase: p.row(p.text('turned by '), p.share('rotate')) },
    { usual: { below: usualEnds.below }, phrase: beyond('below') },
    { usual: { above: usualEnds.above }, phrase: beyond('above') },
    { usual: { shownFrom: plain.shownFrom }, phrase: shown('shownFrom', 'below') },
    { usual: { shownTo: plain.shownTo }, phrase: shown('shownTo', 'above') },
    {
      usual: { missing: plain.missing },
      phrase: p.oneOf(
        p.row(p.text('missing hidden'), p.fixed('missing', 'hidden')),
        p.row(p.text('missing in '), p.colour('missing')),
      ),
    },
    { usual: { opacity: plain.opacity }, phrase: opacity },
    { usual: { categories: plain.categories }, phrase: categories },
    { usual: { unit: plain.unit }, phrase: unitShown },
    { usual: { numbers: plain.numbers }, phrase: numbers },
  ];
};

/** `shown in "MPa"`, or without the quotation marks. */
const unitShown: Phrase<Scale> = {
  say: ({ unit }): SentencePiece[] | null => (unit === null ? null : [words(`shown in "${unit}"`)]),
  read(reader, into) {
    if (!reader.words('shown in')) return false;
    const said = reader.quoted() ?? /^\s*([^\s,]+)/.exec(reader.text.slice(reader.at))?.[1];
    if (!said) return reader.miss('a unit');
    if (reader.text.slice(reader.at).trimStart().startsWith(said)) reader.words(said);
    into.unit = said;
    return true;
  },
};

/** A scale in full: its quantity, its colours and everything that is not as usual. */
export const scalePhrase = (plain: Scale): Phrase<Scale> =>
  p.row(
    quantity,
    p.text(' '),
    map,
    p.suffixes(
      { usual: { name: '' }, phrase: p.row(p.text('called '), p.quoted('name')) },
      ...scaleClauses(plain),
      { usual: {}, phrase: legendSaid },
    ),
  );

/** The clauses and the map, as they follow a quantity in the sentence of a line, with commas or without. */
export const clausesOfLine = (plain: Scale): readonly Phrase<Scale>[] => [
  ...scaleClauses(plain).map((c) => c.phrase),
  map,
];

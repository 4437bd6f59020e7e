import type { Bounds } from '../model/mesh.ts';
import type { Component, Quantity } from '../model/quantity.ts';
import { sameJson } from '../model/same-json.ts';
import { type FormulasOfRun, readQuantity } from './read-quantity.ts';
import { quote, type SentencePiece, sayNumber, sayQuantity, words } from './sentence.ts';
import type { Name, SentenceReader } from './sentence-reader.ts';

/** What a phrase may know while it speaks or reads. */
export interface PhraseSetting {
  lengthUnit: string | null;
  /** Of the run's steps, where they are times. */
  timeUnit?: string | null;
  quantities: readonly Quantity[];
  /** What the run lacks and could be computed, with the formula. */
  computable?: readonly { name: string; formula: string }[];
  /** What is read and said by a formula in brackets. */
  formulas?: FormulasOfRun;
  /** Colour scales of the scene, by what sentences call them. */
  scales?: readonly Name<string>[];
  /** Gauges, charts and their curves in the scene, by what sentences call them. */
  gauges?: readonly Name<string>[];
  charts?: readonly Name<string>[];
  curves?: readonly Name<string>[];
  /** Of the run, in the coordinates of the files. */
  bounds?: Bounds;
  /** Numbers in full, as a script needs them, instead of rounded for a reader. */
  exact?: boolean;
  /** Of numbers in full, as many digits as this; without it all they have. */
  digits?: number;
}

/**
 * A piece of a sentence about options of type `O`, both ways: it speaks of them (null when it does not fit them) and
 * reads them back. An operation is described once by phrases, so what can be said can be typed.
 */
export interface Phrase<O> {
  say(options: O, setting: PhraseSetting): SentencePiece[] | null;
  read(reader: SentenceReader, into: Partial<O>, setting: PhraseSetting): boolean;
}

type Key<O> = keyof O & string;

/** Words that change nothing. */
export const text = (said: string): Phrase<unknown> => ({
  say: () => [words(said)],
  read: (reader) => reader.words(said),
});

/** A value the phrase around it stands for; says and reads no words of its own. */
export const fixed = <O>(key: Key<O>, value: unknown): Phrase<O> => ({
  say: (o) => (JSON.stringify(o[key]) === JSON.stringify(value) ? [] : null),
  read(_, into) {
    into[key] = value as O[Key<O>];
    return true;
  },
});

/** Phrases one after the other. */
export const row = <O>(...phrases: Phrase<O>[]): Phrase<O> => ({
  say(o, s) {
    const out: SentencePiece[] = [];
    for (const p of phrases) {
      const said = p.say(o, s);
      if (said === null) return null;
      out.push(...said);
    }
    return out;
  },
  read: (r, into, s) => phrases.every((p) => p.read(r, into, s)),
});

/** The first phrase that fits. */
export const oneOf = <O>(...phrases: Phrase<O>[]): Phrase<O> => ({
  say(o, s) {
    for (const p of phrases) {
      const said = p.say(o, s);
      if (said) return said;
    }
    return null;
  },
  read(r, into, s) {
    const begin = r.at;
    for (const p of phrases) {
      const found: Partial<O> = { ...into };
      if (p.read(r, found, s)) {
        Object.assign(into, found);
        return true;
      }
      r.at = begin;
    }
    return false;
  },
});

/** A phrase that is missing while an option has its usual value; where it is not said, the option has that. */
export const unless = <O>(key: Key<O>, usual: unknown, ...phrases: Phrase<O>[]): Phrase<O> => {
  const inner = row(...phrases);
  const plain = fixed<O>(key, usual);
  return {
    say: (o, s) => plain.say(o, s) ?? inner.say(o, s),
    read(r, into, s) {
      const begin = r.at;
      const found: Partial<O> = { ...into };
      if (inner.read(r, found, s)) Object.assign(into, found);
      else {
        r.at = begin;
        plain.read(r, into, s);
      }
      return true;
    },
  };
};

/** One suffix of a sentence: said unless the options it speaks of have their usual values. */
export interface Suffix<O> {
  usual: Partial<O>;
  phrase: Phrase<O>;
  /** Said only in full, for example because a mark beside the sentence shows it. */
  inFull?: boolean;
}

export interface Suffixes<O> extends Phrase<O> {
  /** The usual values of all suffixes. */
  usual: Partial<O>;
  /** Reads one of them with its comma; what it does not speak of stays as it is. */
  one(reader: SentenceReader, into: Partial<O>, setting: PhraseSetting): boolean;
}

/** Suffixes with a comma before each, read in any order. What is as usual is not said; what is not said is as usual. */
export const suffixes = <O>(...list: Suffix<O>[]): Suffixes<O> => {
  const usual: Partial<O> = Object.assign({}, ...list.map((s) => s.usual));
  const one: Suffixes<O>['one'] = (reader, into, setting) => {
    const begin = reader.at;
    if (!reader.words(',')) return false;
    const behind = reader.at;
    for (const { phrase } of list) {
      const found: Partial<O> = { ...into };
      if (phrase.read(reader, found, setting)) {
        Object.assign(into, found);
        return true;
      }
      reader.at = behind;
    }
    reader.at = begin;
    return false;
  };
  return {
    usual,
    one,
    say: (o, s) =>
      list.flatMap(({ usual: plain, phrase, inFull }) => {
        if (inFull && !s.exact) return [];
        const keys = Object.keys(plain) as (keyof O)[];
        // What has no usual value is always said.
        const asUsual = keys.length > 0 && keys.every((k) => sameJson(plain[k], o[k]));
        const said = asUsual ? null : phrase.say(o, s);
        return said ? [words(', '), ...said] : [];
      }),
    read(reader, into, setting) {
      Object.assign(into, usual);
      while (!reader.done && one(reader, into, setting));
      return true;
    },
  };
};

/** Spoken differently to a reader and in full; what is said in full is read. */
export const styled = <O>(toReader: Phrase<O>['say'], inFull: Phrase<O>): Phrase<O> => ({
  say: (o, s) => (s.exact ? inFull.say(o, s) : toReader(o, s)),
  read: (reader, into, s) => inFull.read(reader, into, s),
});

/** A share in percent. */
export const sayShare = (share: number, s: Precision): string =>
  sayValue(Number((100 * share).toPrecision(12)), '%', s);

/** A share said in percent. */
export const share = <O>(key: Key<O>): Phrase<O> => ({
  say: (o, s) => [words(sayShare(o[key] as number, s))],
  read(r, into) {
    const value = r.number('%');
    if (value === undefined) return false;
    into[key] = (value / 100) as O[Key<O>];
    return true;
  },
});

/** Any text between quotation marks. */
export const quoted = <O>(key: Key<O>): Phrase<O> => ({
  say: (o) => [words(quote(String(o[key])))],
  read(r, into) {
    const said = r.quoted();
    if (said === null) return r.miss('“a text”');
    into[key] = said as O[Key<O>];
    return true;
  },
});

/** A colour as `#rrggbb`. */
export const colour = <O>(key: Key<O>): Phrase<O> => ({
  say: (o) => [words(String(o[key]))],
  read(r, into) {
    const code = r.colourCode();
    if (code === undefined) return false;
    into[key] = code as O[Key<O>];
    return true;
  },
});

export type UnitOf<O> =
  | 'length'
  | 'angle'
  | 'percent'
  | null
  | ((options: Partial<O>, setting: PhraseSetting) => string | null);

function unitOf<O>(unit: UnitOf<O>, o: Partial<O>, s: PhraseSetting): string | null {
  if (unit === 'length') return s.lengthUnit;
  if (unit === 'angle') return '°';
  if (unit === 'percent') return '%';
  return typeof unit === 'function' ? unit(o, s) : null;
}

type Precision = Pick<PhraseSetting, 'exact' | 'digits'>;

const inDigits = (value: number, { digits }: Precision): string =>
  String(digits === undefined ? value : Number(value.toPrecision(digits)));

export const sayValue = (value: number, unit: string | null, s: Precision = {}): string => {
  if (s.exact) {
    const said = inDigits(value, s);
    return unit === '°' ? `${said}°` : unit ? `${said} ${unit}` : said;
  }
  return unit === '°' ? `${sayNumber(value)}°` : sayQuantity(value, unit);
};

/** A number that the reader can change. */
export const number = <O>(key: Key<O>, unit: UnitOf<O> = null): Phrase<O> => ({
  say: (o, s) => [
    {
      text: sayValue(o[key] as number, unitOf(unit, o, s), s),
      control: { kind: 'option', step: '', key },
    },
  ],
  read(r, into, s) {
    const value = r.number(unitOf(unit, into, s), 'a number', unit !== null);
    if (value === undefined) return false;
    into[key] = value as O[Key<O>];
    return true;
  },
});

/** One of a few words. */
export const choice = <O>(key: Key<O>, choices: readonly Name<unknown>[]): Phrase<O> => ({
  say(o) {
    const found = choices.find((c) => JSON.stringify(c.value) === JSON.stringify(o[key]));
    return found ? [{ text: found.text, control: { kind: 'option', step: '', key } }] : null;
  },
  read(r, into) {
    const found = r.name(choices);
    if (found === undefined) return false;
    into[key] = found as O[Key<O>];
    return true;
  },
});

/** Something of the scene by its id, as sentences call it: `curve 2`; nothing is said where none is chosen. */
export const named = <O>(key: Key<O>, of: 'curves' | 'charts' | 'gauges'): Phrase<O> => ({
  say(o, s) {
    const found = s[of]?.find((c) => c.value === o[key]);
    return o[key] === '' ? null : [{ text: found?.text ?? 'one that is gone' }];
  },
  read(r, into, s) {
    const found = r.name(s[of] ?? []);
    if (found === undefined) return false;
    into[key] = found as O[Key<O>];
    return true;
  },
});

/** Two numbers: `2 to 3`. */
export const pair = <O>(key: Key<O>): Phrase<O> => ({
  say(o, s) {
    const [a, b] = o[key] as [number, number];
    return [words(`${sayValue(a, null, s)} to ${sayValue(b, null, s)}`)];
  },
  read(r, into) {
    const a = r.number(null);
    const b = a !== undefined && r.words('to') ? r.number(null) : undefined;
    if (a === undefined || b === undefined) return false;
    into[key] = [a, b] as O[Key<O>];
    return true;
  },
});

export const AXES: readonly Name<[number, number, number]>[] = [
  { text: 'x', value: [1, 0, 0] },
  { text: 'y', value: [0, 1, 0] },
  { text: 'z', value: [0, 0, 1] },
];

type Triple = [number, number, number];

const sayTriple = (v: readonly number[], s: PhraseSetting): string =>
  `(${v.map((x) => (s.exact ? inDigits(x, s) : sayNumber(x, 3))).join(', ')})`;

/** Three numbers in brackets. */
export function readTriple(r: SentenceReader): Triple | undefined {
  if (!r.words('(')) return undefined;
  const v: number[] = [];
  for (let k = 0; k < 3; k++) {
    const x = r.number(null);
    if (x === undefined || !r.words(k < 2 ? ',' : ')')) return undefined;
    v.push(x);
  }
  return v as Triple;
}

/** Three numbers in brackets. */
export const vector = <O>(key: Key<O>, unit: UnitOf<O> = null): Phrase<O> => ({
  say(o, s) {
    const u = unitOf(unit, o, s);
    return [
      {
        text: `${sayTriple(o[key] as number[], s)}${u ? ` ${u}` : ''}`,
        control: { kind: 'option', step: '', key },
      },
    ];
  },
  read(r, into, s) {
    const v = readTriple(r);
    if (!v) return false;
    readUnitOf(r, unit, into, s);
    into[key] = v as O[Key<O>];
    return true;
  },
});

function readUnitOf<O>(r: SentenceReader, unit: UnitOf<O>, into: Partial<O>, s: PhraseSetting): void {
  const u = unitOf(unit, into, s);
  if (u) r.words(u);
  else if (unit !== null) r.passOverUnit();
}

/**
 * Places in brackets, one after the other: `(0, 0, 0), (1, 0, 0) m`.
 *
 * @param count how many there must be; without it any number but none
 */
export const places = <O>(key: Key<O>, unit: UnitOf<O> = null, count?: number): Phrase<O> => ({
  say(o, s) {
    const all = o[key] as Triple[];
    const u = unitOf(unit, o, s);
    const said =
      s.exact || all.length <= SAID_PLACES
        ? `${all.map((v) => sayTriple(v, s)).join(', ')}${u ? ` ${u}` : ''}`
        : `${all.length} places`;
    return [{ text: said, control: { kind: 'option', step: '', key } }];
  },
  read(r, into, s) {
    const all: Triple[] = [];
    let behind = r.at;
    while (all.length < (count ?? Infinity)) {
      const v = r.first([() => readTriple(r)]);
      if (!v) break;
      all.push(v);
      behind = r.at;
      readUnitOf(r, unit, into, s);
      if (r.first([() => r.words(','), () => r.words('and')]) === undefined) behind = r.at;
    }
    if (all.length === 0 || (count !== undefined && all.length !== count)) return false;
    r.at = behind;
    readUnitOf(r, unit, into, s);
    into[key] = all as O[Key<O>];
    return true;
  },
});

/** More places than this are counted for a reader. */
const SAID_PLACES = 4;

/** Something that need not be said; where it is not, the options stay as they are. */
export const maybe = <O>(...phrases: Phrase<O>[]): Phrase<O> => {
  const inner = row(...phrases);
  return {
    say: inner.say,
    read(r, into, s) {
      const begin = r.at;
      const found: Partial<O> = { ...into };
      if (inner.read(r, found, s)) Object.assign(into, found);
      else r.at = begin;
      return true;
    },
  };
};

/** An axis by its letter, or any direction by its numbers. */
export const direction = <O>(key: Key<O>): Phrase<O> => oneOf(choice<O>(key, AXES), vector<O>(key));

/** A quantity of the run, by the name sentences give it; an unknown one by its key in quotation marks. */
export const quantity = <O>(field: Key<O>, component: Key<O>): Phrase<O> => ({
  say(o, s) {
    const known = quantityOf(o as Record<string, unknown>, s, field, component);
    const name = known?.name ?? `"${o[field]}#${o[component]}"`;
    return [{ text: name, control: { kind: 'option', step: '', key: field } }];
  },
  read(r, into, s) {
    const found = readQuantity(r, s);
    if (!found) return false;
    into[field] = found.field as O[Key<O>];
    into[component] = found.component as O[Key<O>];
    return true;
  },
});

/** A quantity of one kind; of another kind it is refused, with those there are. */
const quantityThat = <O>(
  field: Key<O>,
  component: Key<O>,
  fits: (q: Pick<Quantity, 'component'>) => boolean,
  lacks: string,
): Phrase<O> => {
  const any = quantity<O>(field, component);
  return {
    say: any.say,
    read(r, into, s) {
      const begin = r.at;
      if (!any.read(r, into, s)) return false;
      if (fits({ component: into[component] as Component })) return true;
      const { at: to } = r;
      const named = r.text.slice(begin, to).trim();
      r.at = begin;
      const others = s.quantities.filter(fits).map((q) => q.name);
      const alone = others.length === 0 ? ', nor has anything else of this run' : '';
      return r.refuse(to, `"${named}" has ${lacks}${alone}`, others);
    },
  };
};

/** A quantity that has a direction, whole. */
export const vectorQuantity = <O>(field: Key<O>, component: Key<O>): Phrase<O> =>
  quantityThat(field, component, (q) => q.component === 'magnitude', 'no direction');

/** A quantity that is one number at each place. */
export const scalarQuantity = <O>(field: Key<O>, component: Key<O>): Phrase<O> =>
  quantityThat(field, component, (q) => q.component !== 'magnitude', 'no single number');

export const quantityOf = (
  o: Record<string, unknown>,
  s: PhraseSetting,
  field = 'field',
  component = 'component',
): Quantity | undefined => quantityByKey(String(o[field]), o[component] as Component, s);

/** A quantity by its key, also one that is nothing but a formula. */
export const quantityByKey = (
  field: string,
  component: Component,
  { quantities, formulas }: Pick<PhraseSetting, 'quantities' | 'formulas'>,
): Quantity | undefined => {
  const is = (q: Quantity): boolean => q.field === field && q.component === component;
  return quantities.find(is) ?? formulas?.byKey(field).find(is);
};

/** The unit of the quantity that the options name. */
export const fieldUnit = (o: object, s: PhraseSetting): string | null =>
  quantityOf(o as Record<string, unknown>, s)?.unit ?? null;

/** A condition, between quotation marks because it may hold any words. */
export const condition = <O>(key: Key<O>): Phrase<O> => ({
  say: (o) => [
    words('“'),
    { text: String(o[key]).replaceAll('"', '`') || '…', control: { kind: 'option', step: '', key } },
    words('”'),
  ],
  read(r, into) {
    const said = r.quoted();
    if (said === null) return r.miss('“a condition”');
    into[key] = (said === '…' ? '' : said) as O[Key<O>];
    return true;
  },
});

/** All of the above for options of one type. */
export const phrasesOf = <O>() => ({
  text: text as (said: string) => Phrase<O>,
  fixed: (key: Key<O>, value: unknown) => fixed<O>(key, value),
  row: (...phrases: Phrase<O>[]) => row<O>(...phrases),
  oneOf: (...phrases: Phrase<O>[]) => oneOf<O>(...phrases),
  unless: (key: Key<O>, usual: unknown, ...phrases: Phrase<O>[]) => unless<O>(key, usual, ...phrases),
  number: (key: Key<O>, unit: UnitOf<O> = null) => number<O>(key, unit),
  choice: (key: Key<O>, choices: readonly Name<unknown>[]) => choice<O>(key, choices),
  vector: (key: Key<O>, unit: UnitOf<O> = null) => vector<O>(key, unit),
  places: (key: Key<O>, unit: UnitOf<O> = null, count?: number) => places<O>(key, unit, count),
  maybe: (...phrases: Phrase<O>[]) => maybe<O>(...phrases),
  direction: (key: Key<O>) => direction<O>(key),
  quantity: (field: Key<O>, component: Key<O>) => quantity<O>(field, component),
  vectorQuantity: (field: Key<O>, component: Key<O>) => vectorQuantity<O>(field, component),
  scalarQuantity: (field: Key<O>, component: Key<O>) => scalarQuantity<O>(field, component),
  condition: (key: Key<O>) => condition<O>(key),
  suffixes: (...list: Suffix<O>[]) => suffixes<O>(...list),
  styled: (toReader: Phrase<O>['say'], inFull: Phrase<O>) => styled<O>(toReader, inFull),
  share: (key: Key<O>) => share<O>(key),
  quoted: (key: Key<O>) => quoted<O>(key),
  named: (key: Key<O>, of: 'curves' | 'charts' | 'gauges') => named<O>(key, of),
  pair: (key: Key<O>) => pair<O>(key),
  colour: (key: Key<O>) => colour<O>(key),
  /** Words that stand there when an option is on. */
  flag: (key: Key<O>, said: string, on: unknown = true, off: unknown = false) =>
    oneOf<O>(row<O>(text(said), fixed<O>(key, on)), fixed<O>(key, off)),
});

import { nearestNames } from '../model/nearest-names.ts';
import { convertUnit, isUnit, unitsLike } from '../model/units.ts';
import { sayList } from './sentence.ts';

/** A name that can stand in a sentence and what it means. */
export interface Name<T> {
  text: string;
  value: T;
  /** Understood, but offered to nobody: the beginning of another name. */
  begun?: true;
}

/** Where a sentence is not understood any more. */
export interface NotRead {
  /** Place of the first letter, from 0. */
  at: number;
  /** What would be understood there. */
  expected: string[];
  /** Of what means something but cannot stand there: why, and the place behind it. */
  refused?: { because: string; to: number };
}

/** In words, why a sentence is not understood and what could stand there. */
export function whyNotRead(text: string, { at, expected, refused }: NotRead): string {
  // What looks like what is typed comes first.
  const likely = nearestNames(text.slice(at), expected);
  const ordered = [...likely, ...expected.filter((e) => !likely.includes(e))];
  const could = ordered.length > 0 ? `; there could be ${sayList(ordered.slice(0, SAID_WORDS))}` : '';
  if (refused) return `${refused.because}${could}`;
  const word = /^\s*(\S+)/.exec(text.slice(at))?.[1];
  return word ? `"${word}" is not understood here${could}` : `the sentence is not complete${could}`;
}

/** Of what would be understood more is not told. */
const SAID_WORDS = 6;

/**
 * Reads a typed sentence from left to right. Every attempt notes what it looked for, so that where reading stops one
 * knows what would be understood there.
 */
export class SentenceReader {
  at = 0;
  /** Where the furthest attempt failed, and what it looked for. */
  furthest = 0;
  private wanted = new Set<string>();
  private refused: NotRead['refused'];

  /** @param forgiving takes everyday names for those of quantities */
  constructor(
    readonly text: string,
    readonly forgiving = false,
  ) {}

  get failure(): NotRead {
    const { furthest: at, refused } = this;
    return { at, expected: [...this.wanted].filter((w) => w !== ''), ...(refused ? { refused } : {}) };
  }

  get done(): boolean {
    this.space();
    return this.at >= this.text.length;
  }

  miss(wanted: string | string[]): false {
    this.space();
    if (this.at > this.furthest) {
      this.furthest = this.at;
      this.wanted = new Set();
      this.refused = undefined;
    }
    if (this.at === this.furthest && !this.refused)
      for (const w of typeof wanted === 'string' ? [wanted] : wanted) this.wanted.add(w);
    return false;
  }

  /**
   * What stands here means something that cannot be here; this says more than what else was looked for.
   *
   * @param to place behind it
   */
  refuse(to: number, because: string, instead: string[]): false {
    this.miss([]);
    if (this.at === this.furthest) {
      this.refused = { because, to };
      this.wanted = new Set(instead);
    }
    return false;
  }

  /** Fixed words, with any space between them. */
  words(text: string): boolean {
    const begin = this.at;
    for (const word of text.split(/\s+/).filter(Boolean)) {
      this.space();
      if (!this.token(word)) {
        this.at = begin;
        return this.miss(text.trim());
      }
    }
    return true;
  }

  /** A word that may stand here, and that nobody is told of who left it out. */
  passOver(word: string): void {
    this.space();
    this.token(word);
  }

  /** The longest of the names that stands here, with or without quotation marks; undefined when there is none. */
  name<T>(names: readonly Name<T>[]): T | undefined {
    this.space();
    const begin = this.at;
    const quoted = this.quoted();
    if (quoted !== null) {
      const found = names.find((n) => same(n.text, quoted));
      if (found) return found.value;
      this.at = begin;
    } else {
      for (const { text, value } of [...names].sort((a, b) => b.text.length - a.text.length))
        if (this.token(text)) return value;
    }
    this.miss(names.filter((n) => !n.begun).map((n) => n.text));
    return undefined;
  }

  /** What stands between quotation marks, or null; see `quote`. */
  quoted(): string | null {
    this.space();
    const match = /^["“]((?:\\["”\\n]|[^"”])*)["”]/.exec(this.text.slice(this.at));
    if (!match) return null;
    this.at += match[0].length;
    return match[1].replace(/\\(["”\\n])/g, (_, c: string) => (c === 'n' ? '\n' : c));
  }

  /**
   * A number, in `unit` or said in another that measures the same.
   *
   * @param measured whether it has a unit by nature: where the run states none, a typed one is passed over
   */
  number(unit: string | null, what = 'a number', measured = unit !== null): number | undefined {
    this.space();
    const begin = this.at;
    const match = /^([-−+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)(?:\s*×\s*10([⁻⁰¹²³⁴⁵⁶⁷⁸⁹]+))?/i.exec(
      this.text.slice(begin),
    );
    if (!match) {
      this.miss(unit && unit !== '°' ? `${what} in ${unit}` : what);
      return undefined;
    }
    this.at += match[0].length;
    const power = match[2]
      ? Number(
          [...match[2]]
            .map((c) => '⁰¹²³⁴⁵⁶⁷⁸⁹'.indexOf(c))
            .map((d) => (d < 0 ? '-' : d))
            .join(''),
        )
      : 0;
    const value = Number(`${match[1].replace('−', '-')}${power ? `e${power}` : ''}`);
    if (!unit) {
      if (measured) this.passOverUnit();
      return value;
    }
    const typed = this.unit(unit);
    return typed === null ? value : (convertUnit(value, typed, unit) ?? undefined);
  }

  /** A unit that is typed where none is known means nothing. */
  passOverUnit(): void {
    const [said, word] = /^\s*([°\p{L}][\p{L}/²³^\d]*)/u.exec(this.text.slice(this.at)) ?? [];
    if (said && isUnit(word) && this.isUnitAt(word, this.at + said.length)) this.at += said.length;
  }

  /** Whether a word is meant as a unit: "in 18 bands" and "in stone" go on, "2 in" and "2 in to 3 in" do not. */
  private isUnitAt(word: string, behind: number): boolean {
    return word !== 'in' || /^\s*(?:$|[,;)]|to\b|and\b|by\b)/.test(this.text.slice(behind));
  }

  private unit(unit: string): string | null {
    const begin = this.at;
    this.space();
    for (const other of [...unitsLike(unit)].sort((a, b) => b.length - a.length)) {
      if (!this.text.startsWith(other, this.at)) continue;
      const after = this.text[this.at + other.length] ?? ' ';
      if (/[\p{L}\p{N}/]/u.test(after) || !this.isUnitAt(other, this.at + other.length)) continue;
      this.at += other.length;
      return other;
    }
    this.at = begin;
    return null;
  }

  /** One of several readings; what a failed one took in is given back. */
  first<T>(readings: readonly (() => T | undefined | false)[]): T | undefined {
    const begin = this.at;
    for (const read of readings) {
      const found = read();
      if (found !== undefined && found !== false) return found;
      this.at = begin;
    }
    return undefined;
  }

  /** A colour as `#rrggbb`, in small letters; undefined when there is none. */
  colourCode(): string | undefined {
    this.space();
    const [code] = /^#[0-9a-f]{6}\b/i.exec(this.text.slice(this.at)) ?? [];
    if (!code) {
      this.miss('#rrggbb');
      return undefined;
    }
    this.at += code.length;
    return code.toLowerCase();
  }

  /** Text up to a closing mark, taken as it is. */
  until(pattern: RegExp): string {
    const rest = this.text.slice(this.at);
    const end = rest.search(pattern);
    const taken = end < 0 ? rest : rest.slice(0, end);
    this.at += taken.length;
    return taken;
  }

  private token(word: string): boolean {
    const piece = this.text.slice(this.at, this.at + word.length);
    if (!same(piece, word)) return false;
    const last = word[word.length - 1];
    const after = this.text[this.at + word.length] ?? ' ';
    if (/[\p{L}\p{N}_]/u.test(last) && /[\p{L}\p{N}_]/u.test(after)) return false;
    this.at += word.length;
    return true;
  }

  /** Goes on to the next word. */
  space(): void {
    while (/\s/.test(this.text[this.at] ?? '')) this.at++;
  }
}

const same = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();

import { convertUnit } from '../model/units.ts';
import { formattedNumber, isNumberFormat } from './number-format.ts';

/** A value that can stand in a text. */
export interface TemplateValue {
  name: string;
  /** What it is, for whoever chooses. */
  says: string;
  unit: string | null;
  /** Null where there is none. */
  value(): number | string | readonly number[] | null;
  /** Understood when it is typed, and not offered. */
  rare?: boolean;
}

/**
 * Texts with values in them: `t = {time:.2f} s`, `{max temperature in °C:.0f} °C`. In braces stands the name of a value,
 * behind `in` a unit to say it in, behind a colon how the number is written, by the format specifications that d3-format
 * has from Python's. A brace itself is written twice.
 */
type Piece<W> =
  | { kind: 'words'; text: string }
  | { kind: 'value'; said: string; word: W; unit: string | null; spec: string | null }
  | { kind: 'trouble'; said: string; trouble: string };

/** What stands where there is no value. */
export const NO_VALUE = '–';

const PLACE = /\{\{|\}\}|\{([^{}]*)\}/g;

function pieces<W extends TemplateValue>(text: string, values: () => readonly W[]): Piece<W>[] {
  const out: Piece<W>[] = [];
  // Most texts hold none, and those that do share one list.
  let known: Map<string, W> | null = null;
  let at = 0;
  const wordsUpTo = (end: number): void => {
    if (end > at) out.push({ kind: 'words', text: text.slice(at, end) });
  };
  for (const found of text.matchAll(PLACE)) {
    wordsUpTo(found.index);
    at = found.index + found[0].length;
    if (found[1] === undefined) out.push({ kind: 'words', text: found[0][0] });
    else {
      known ??= new Map(values().map((w) => [w.name.toLowerCase(), w]));
      out.push(pieceOf(found[0], found[1], known));
    }
  }
  wordsUpTo(text.length);
  return out;
}

function pieceOf<W extends TemplateValue>(
  said: string,
  inside: string,
  known: ReadonlyMap<string, W>,
): Piece<W> {
  const colon = inside.lastIndexOf(':');
  // Names of quantities may hold colons themselves.
  const whole = known.get(inside.trim().toLowerCase());
  const [asked, spec] =
    whole || colon < 0
      ? [inside.trim(), null]
      : [inside.slice(0, colon).trim(), inside.slice(colon + 1).trim()];
  const trouble = (text: string): Piece<W> => ({ kind: 'trouble', said, trouble: text });
  if (spec !== null && !isNumberFormat(spec))
    return trouble(`“${spec}” is no way to write a number. Use .2f, .3e or .4g.`);
  const plain = known.get(asked.toLowerCase());
  if (plain) return { kind: 'value', said, word: plain, unit: null, spec };
  const behind = asked.toLowerCase().lastIndexOf(' in ');
  const word = behind < 0 ? undefined : known.get(asked.slice(0, behind).trim().toLowerCase());
  if (!word) return trouble(nothingCalled(asked, known));
  const unit = asked.slice(behind + 4).trim();
  const fits = word.unit !== null && convertUnit(1, word.unit, unit) !== null;
  return fits
    ? { kind: 'value', said, word, unit, spec }
    : trouble(
        word.unit
          ? `“${word.name}” is in ${word.unit}, which cannot be said in “${unit}”.`
          : `“${word.name}” has no unit to be changed.`,
      );
}

function nothingCalled(asked: string, known: ReadonlyMap<string, TemplateValue>): string {
  const near = [...known.values()].find(
    (w) => asked !== '' && w.name.toLowerCase().startsWith(asked.toLowerCase()),
  );
  const help = near ? `Did you mean {${near.name}}?` : 'Type { to see what there is.';
  return asked === ''
    ? 'Nothing stands in these braces. Type { to see what there is.'
    : `There is no value “${asked}”. ${help}`;
}

/** A piece of a text with its values filled in. */
export interface FilledPiece<W> {
  text: string;
  /** What it is the value of; null for words. */
  word: W | null;
  /** Why it stays as it was typed; null where it is understood. */
  trouble: string | null;
}

/**
 * A text in pieces, its values filled in. What is not understood stays as it was typed, and says why.
 *
 * @param values asked for only where the text has any
 */
export function filledPieces<W extends TemplateValue>(
  text: string,
  values: () => readonly W[],
): FilledPiece<W>[] {
  return pieces(text, values).map((piece) => {
    if (piece.kind === 'words') return { text: piece.text, word: null, trouble: null };
    if (piece.kind === 'trouble') return { text: piece.said, word: null, trouble: piece.trouble };
    return { text: valueAsText(piece), word: piece.word, trouble: null };
  });
}

function valueAsText({ word, unit, spec }: Extract<Piece<TemplateValue>, { kind: 'value' }>): string {
  const value = word.value();
  if (value === null) return NO_VALUE;
  if (typeof value === 'string') return value;
  const write = (number: number): string => {
    const shown = unit === null ? number : convertUnit(number, word.unit!, unit)!;
    return Number.isNaN(shown) ? NO_VALUE : formattedNumber(shown, spec);
  };
  return typeof value === 'number' ? write(value) : `(${value.map(write).join(', ')})`;
}

/** A text with its values filled in; see `filledPieces`. */
export function filledWith(text: string, values: () => readonly TemplateValue[]): string {
  if (!text.includes('{') && !text.includes('}')) return text;
  return filledPieces(text, values)
    .map((piece) => piece.text)
    .join('');
}

/** How numbers of a size are usually written in a text: three digits or so, none that change nothing. */
export function usualFormat(largest: number): string {
  const size = Math.abs(largest);
  if (!(size > 0)) return '.1f';
  if (size >= 1e6 || size < 1e-4) return '.2e';
  return `.${Math.min(6, Math.max(0, 2 - Math.floor(Math.log10(size))))}f`;
}

/** What in a text is not understood, with what to do about it. */
export const troublesIn = (text: string, values: () => readonly TemplateValue[]): string[] =>
  pieces(text, values).flatMap((p) => (p.kind === 'trouble' ? [p.trouble] : []));

/** The values that stand in a text. */
export const valuesIn = <W extends TemplateValue>(text: string, values: () => readonly W[]): W[] =>
  pieces(text, values).flatMap((p) => (p.kind === 'value' ? [p.word] : []));

/** A value offered for where someone types, and the text with it. */
export interface Completion {
  word: TemplateValue;
  text: string;
  /** Where the caret stands then: before the closing brace, where a unit or a format may follow. */
  caret: number;
}

/**
 * What could stand at the caret of a text, once a brace is opened before it; null where none is.
 *
 * @param caret index into the text
 */
export function completionsIn(
  text: string,
  caret: number,
  values: () => readonly TemplateValue[],
): Completion[] | null {
  const open = text.lastIndexOf('{', caret - 1);
  if (open < 0 || /[}:]/.test(text.slice(open, caret)) || text[open - 1] === '{') return null;
  const typed = text
    .slice(open + 1, caret)
    .trim()
    .toLowerCase();
  const closed = /^[^{}]*\}/.exec(text.slice(caret));
  const rest = text.slice(caret + (closed?.[0].length ?? 0));
  const matches = values().filter(
    ({ name, rare }) =>
      !rare &&
      name
        .toLowerCase()
        .split(/\s+/)
        .some((_, i, all) => all.slice(i).join(' ').startsWith(typed)),
  );
  return matches.map((word) => {
    const before = `${text.slice(0, open)}{${word.name}}`;
    return { word, text: before + rest, caret: before.length - 1 };
  });
}

import { literalPattern } from '../model/literal-pattern.ts';
import { unusedName } from '../model/unused-name.ts';

/** How parameters of runs stand in the names of their files or folders: `oven_{fan}rpm_{vent}`. */
export interface NamePattern {
  /** Names of the parameters, in the order in which they stand. */
  parameters: string[];
  /** What a name says of each parameter, in the same order; null where it is not of this pattern. */
  read(name: string): string[] | null;
}

const PLACE = /\{([^{}]*)\}/g;

/**
 * Reads a pattern: what stands in braces is a parameter, `{}` is passed over, all else must be in the names as it is, in
 * capitals or not.
 *
 * @returns what is wrong with it, in words, where it cannot be used
 */
export function namePattern(text: string): NamePattern | string {
  const places = [...text.matchAll(PLACE)];
  if (/[{}]/.test(text.replace(PLACE, '')))
    return 'A brace is open or closed alone: parameters stand in {…}.';
  const parameters = places.map(([, name]) => name.trim()).filter((name) => name !== '');
  if (parameters.length === 0) return 'Nothing in it is a parameter: put {…} where the names differ.';
  const twice = parameters.find((name, i) => parameters.indexOf(name) !== i);
  if (twice !== undefined) return `“${twice}” stands in it twice: give each parameter a name of its own.`;
  const touching = places.find((p, i) => i > 0 && places[i - 1].index + places[i - 1][0].length === p.index);
  if (touching)
    return `Nothing stands before ${touching[0]} that ends what is before it: put what lies between.`;
  let at = 0;
  let pattern = '';
  for (const { 0: whole, 1: name, index } of places) {
    pattern += literalPattern(text.slice(at, index)) + (name.trim() === '' ? '.*?' : '(.+?)');
    at = index + whole.length;
  }
  const all = new RegExp(`^${pattern}${literalPattern(text.slice(at))}$`, 'isu');
  return { parameters, read: (name) => all.exec(name)?.slice(1) ?? null };
}

/** A piece of a name: a number, a word, or what stands between. */
interface Piece {
  kind: 'number' | 'word' | 'between';
  text: string;
}

/**
 * The pattern in which names of runs seem to be made: numbers and words that differ become parameters, called by the word
 * beside them. Null where names are not alike, or all the same.
 *
 * @param names without what all of them end in, such as `.vtu`
 */
export function likelyPattern(names: readonly string[]): string | null {
  const all = names.map(piecesOf);
  const [first] = all;
  if (names.length < 2 || all.some((pieces) => !isLike(pieces, first))) return null;
  const differs = first.map((_, k) => all.some((pieces) => pieces[k].text !== first[k].text));
  if (!differs.includes(true)) return null;
  const taken = new Set<string>();
  return first
    .map(({ text }, k) => {
      if (!differs[k]) return text;
      const wanted = wordBeside(first, differs, k) ?? 'parameter';
      const name = unusedName(wanted, (one) => taken.has(one));
      taken.add(name);
      return `{${name}}`;
    })
    .join('');
}

/** Between words and numbers nothing has to stand; what else stands there belongs to neither. */
const piecesOf = (name: string): Piece[] =>
  [...name.matchAll(/(\d+(?:\.\d+)?)|(\p{L}+)|([^\d\p{L}]+)/gu)].map(([text, number, word]) => ({
    kind: number ? 'number' : word ? 'word' : 'between',
    text,
  }));

/** Whether two names have the same kinds of pieces in the same order, and the same between them. */
const isLike = (a: readonly Piece[], b: readonly Piece[]): boolean =>
  a.length === b.length &&
  a.every(({ kind, text }, i) => kind === b[i].kind && (kind !== 'between' || text === b[i].text));

/** What a piece that differs is called: a word before it (`rpm900`, `rpm_900`, `rpm=900`), or just behind it (`900rpm`). */
function wordBeside(pieces: readonly Piece[], differs: readonly boolean[], k: number): string | null {
  const isWord = (i: number): boolean => pieces[i]?.kind === 'word' && !differs[i];
  if (isWord(k + 1)) return pieces[k + 1].text;
  if (isWord(k - 1)) return pieces[k - 1].text;
  return pieces[k - 1]?.kind === 'between' && isWord(k - 2) ? pieces[k - 2].text : null;
}

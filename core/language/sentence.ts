import { format } from 'd3-format';

/**
 * A sentence is a row of pieces: plain words, and words that can be changed. The interface turns the second kind
 * into controls; captions and alternative texts join the words of both.
 */
export interface SentencePiece {
  text: string;
  /** What the piece edits: the name of a control, with a path into the layer where it needs one. */
  control?: SentenceControl;
}

export type SentenceControl =
  | { kind: 'parts' }
  | { kind: 'field' }
  | { kind: 'scale' }
  | { kind: 'plain' }
  | { kind: 'finish' }
  | { kind: 'opacity' }
  | { kind: 'edges' }
  | { kind: 'time' }
  /** A setting of the scene, by the id of its declaration. */
  | { kind: 'setting'; thing: string }
  /** An option of the operation of a step of the chain, by its id; a phrase alone does not know it. */
  | { kind: 'option'; step: string; key: string };

export const words = (text: string): SentencePiece => ({ text });

/** A name in quotation marks where it would not be read as one otherwise. */
export const quoteIfNeeded = (name: string): string =>
  /^[\p{L}\p{N}][\p{L}\p{N} _-]*$/u.test(name) ? name : `"${name}"`;

/** The sentence as plain text. */
export function speak(pieces: SentencePiece[]): string {
  return pieces
    .map((p) => p.text)
    .join('')
    .replace(/\s+/g, ' ')
    .trim();
}

/**
 * A number as a reader wants it: `digits` significant figures, no needless zeros, powers of ten only where
 * plain decimals would be unreadable. The minus is the true minus sign.
 */
export function sayNumber(value: number, digits = 4): string {
  if (Number.isNaN(value)) return 'no value';
  if (!Number.isFinite(value)) return value > 0 ? '∞' : '−∞';
  if (value === 0) return '0';
  const size = Math.abs(value);
  if (size >= 1e6 || size < 1e-4) {
    const [mantissa, exponent] = format(`.${digits - 1}~e`)(value).split('e');
    const power = [...String(Number(exponent.replace('−', '-')))].map((c) => superscripts[c] ?? c).join('');
    return `${mantissa} × 10${power}`;
  }
  return size >= 10 ** digits ? format('.0f')(value) : format(`.${digits}~r`)(value);
}

const superscripts: Record<string, string> = {
  '-': '⁻',
  '0': '⁰',
  '1': '¹',
  '2': '²',
  '3': '³',
  '4': '⁴',
  '5': '⁵',
  '6': '⁶',
  '7': '⁷',
  '8': '⁸',
  '9': '⁹',
};

/** A number with its unit, `0.4 m`; nothing is invented where the unit is not known. */
export function sayQuantity(value: number, unit: string | null, digits = 4): string {
  return unit ? `${sayNumber(value, digits)} ${unit}` : sayNumber(value, digits);
}

/** A text between quotation marks, as readers of sentences take it: `\\"`, `\\\\` and `\\n` stand for what cannot. */
export const quote = (text: string): string => `"${text.replace(/[\\"”]/g, '\\$&').replaceAll('\n', '\\n')}"`;

/** `a`, `a and b`, `a, b and c`. */
export function sayList(names: string[]): string {
  if (names.length < 2) return names[0] ?? '';
  return `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}`;
}

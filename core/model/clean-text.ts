import { unusedName } from './unused-name.ts';

/** Longest name of a field, part, set, column, file or scene that is kept, in characters. */
export const LONGEST_NAME = 200;
/** Longest unit that is kept. */
export const LONGEST_UNIT = 40;

/**
 * Signs that nobody can read and that do harm where text is stored or shown: controls, signs that turn the direction
 * of writing, line and paragraph separators, and marks without a width.
 */
const unreadable =
  / *[\p{Cc}\u061c\u200b\u200e\u200f\u2028\u2029\u202a-\u202e\u2060-\u2069\ufeff\ufff9-\ufffb]+ */gu;

/** Halves of characters that no text may hold by themselves. */
const loneHalves = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

/** A text from a file or a person, kept readable: what cannot be shown becomes a space, and it has an end. */
export function cleanText(text: string, longest = LONGEST_NAME): string {
  const readable = text
    .slice(0, 4 * longest)
    .replace(loneHalves, '\ufffd')
    .replace(unreadable, ' ')
    .trim();
  if (readable.length <= longest) return readable;
  return `${readable.slice(0, longest - 1).replace(/[\ud800-\udbff]$/, '')}…`;
}

/** A name that is never empty. */
export function cleanName(text: string, without = 'unnamed'): string {
  const clean = cleanText(text) || without;
  // The one name that is no ordinary key of an object.
  return clean === '__proto__' ? '_proto_' : clean;
}

export function cleanUnit(unit: string | null): string | null {
  return unit === null ? null : cleanText(unit, LONGEST_UNIT) || null;
}

/** Gives names that have become equal by cleaning a number; the same raw name keeps the same clean one. */
export class UniqueNames {
  private readonly byRaw = new Map<string, string>();
  private readonly taken = new Set<string>();

  of(raw: string, without?: string): string {
    const known = this.byRaw.get(raw);
    if (known !== undefined) return known;
    const clean = cleanName(raw, without);
    const isTaken = (name: string): boolean => this.taken.has(name);
    const name = unusedName(clean, isTaken, (n) => `${clean} (${n})`);
    this.byRaw.set(raw, name);
    this.taken.add(name);
    return name;
  }
}

/** The same value with every text in it (keys too) in a form that a database keeps: no NUL, no lone halves. */
export function storable<T>(value: T): T {
  if (typeof value === 'string') return value.replace(loneHalves, '\ufffd').replaceAll('\0', '') as T;
  if (Array.isArray(value)) return value.map(storable) as T;
  if (value === null || typeof value !== 'object' || value instanceof Date) return value;
  return Object.fromEntries(Object.entries(value).map(([k, v]) => [storable(k), storable(v)])) as T;
}

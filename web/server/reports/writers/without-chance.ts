import { strFromU8, strToU8, unzipSync, type Zippable, zipSync } from 'fflate';

/** Files in a package carry a time; theirs is always this, so that the same report is the same file. */
export const ALWAYS = new Date(2000, 0, 1);

/** Names that libraries draw by lot, so that no two files are the same. */
const DRAWN = /\brId[A-Za-z0-9_-]{12,}/g;
/** Parts that libraries count through all that they write, and not through one document. */
const COUNTED = /\b(chart|Microsoft_Excel_Worksheet)(\d+)(?=\.(?:xml|xlsx)\b)/g;

/** The same of places and pictures within a text. */
const PLACED = /(<(w:bookmark|wp:docPr)\w*\b[^>]*?\bid=")(\d+)"/g;

/**
 * A package of parts (ISO/IEC 29500-2) without what is left to chance: names of links are counted, and parts from one, times of
 * files are always the same, in packages within as well. What the document itself says of its date stays.
 */
export function withoutChance(bytes: Uint8Array): Uint8Array {
  const parts = unzipSync(bytes);
  const paths = Object.keys(parts).filter((path) => !path.endsWith('/'));
  const names = new Map<string, string>();
  const counted = (name: string): string => {
    if (!names.has(name)) names.set(name, `rIdLink${names.size + 1}`);
    return names.get(name)!;
  };
  const marks = new Map<string, number>();
  const marked = (_: string, head: string, kind: string, id: string): string => {
    const own = `${kind} ${id}`;
    if (!marks.has(own)) marks.set(own, marks.size + 1);
    return `${head}${marks.get(own)}"`;
  };
  const numbers = numbersFromOne(paths);
  const renumbered = (text: string): string =>
    text.replace(COUNTED, (whole, name: string) =>
      numbers.has(whole) ? `${name}${numbers.get(whole)}` : whole,
    );
  const out: Zippable = {};
  // In one order, so that names are counted alike.
  for (const path of paths.sort()) {
    const isText = /\.(xml|rels)$/.test(path);
    const content = isText
      ? strToU8(renumbered(strFromU8(parts[path])).replace(DRAWN, counted).replace(PLACED, marked))
      : path.endsWith('.xlsx')
        ? undated(parts[path])
        : parts[path];
    out[renumbered(path)] = [content, { mtime: ALWAYS, level: isText ? 6 : 0 }];
  }
  return zipSync(out);
}

/** By their names with numbers: the numbers they have when they are counted from one. */
function numbersFromOne(paths: readonly string[]): Map<string, number> {
  const all = new Map<string, Set<number>>();
  for (const path of paths)
    for (const [, name, number] of path.matchAll(COUNTED))
      all.set(name, (all.get(name) ?? new Set()).add(Number(number)));
  return new Map(
    [...all].flatMap(([name, found]) =>
      [...found].sort((a, b) => a - b).map((number, i) => [`${name}${number}`, i + 1] as const),
    ),
  );
}

/** The sheet of numbers within a chart: nobody asks when it was written. */
function undated(bytes: Uint8Array): Uint8Array {
  const parts = unzipSync(bytes);
  const out: Zippable = {};
  for (const path of Object.keys(parts).filter((p) => !p.endsWith('/'))) {
    const isAbout = path === 'docProps/core.xml';
    const text =
      isAbout && strFromU8(parts[path]).replace(/\d{4}-\d\d-\d\dT[\d:.]+Z?/g, '2000-01-01T00:00:00Z');
    out[path] = [text ? strToU8(text) : parts[path], { mtime: ALWAYS }];
  }
  return zipSync(out);
}

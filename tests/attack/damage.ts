/** A small generator of pseudo-random numbers, so that every failure can be met again (mulberry32, public domain). */
export function seeded(seed: number): () => number {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

export type Random = () => number;

export const pick = <T>(list: readonly T[], random: Random): T => list[Math.floor(random() * list.length)];

/** Numbers that lead readers astray, as they would be written. */
const hostileNumbers = [
  '-1',
  '0',
  '1073741824',
  '2147483647',
  '4294967295',
  '4294967296',
  '9007199254740993',
  '18446744073709551615',
  '1e18',
  '1e400',
  'nan',
  '-inf',
  '0.5',
  '99999999999999999999999999',
];

/** Texts that do harm where they are not taken as text. */
export const hostileTexts = [
  '<script>window.hurt=1</script>',
  '"><img src=x onerror="window.hurt=1">',
  "';drop table runs;--",
  '\0\0\0',
  '\ud800lone',
  '../../../../etc/passwd',
  '__proto__',
  'constructor',
  '\u202egnp.exe',
  '=cmd|calc',
  'x'.repeat(5000),
  '{{7*7}}',
  '\u0007\u001b[31m',
];

const latin = (bytes: Uint8Array): string => Buffer.from(bytes).toString('latin1');
const bytesOf = (text: string): Uint8Array => new Uint8Array(Buffer.from(text, 'latin1'));

const cut = (bytes: Uint8Array, random: Random): Uint8Array => bytes.slice(0, random() * bytes.length);

function flip(bytes: Uint8Array, random: Random): Uint8Array {
  const out = bytes.slice();
  for (let n = 0; n < 1 + random() * 6; n++)
    out[Math.floor(random() * out.length)] ^= 1 << Math.floor(random() * 8);
  return out;
}

function swap(bytes: Uint8Array, random: Random): Uint8Array {
  const out = bytes.slice();
  for (let n = 0; n < 1 + random() * 6; n++) {
    const [i, j] = [Math.floor(random() * out.length), Math.floor(random() * out.length)];
    [out[i], out[j]] = [out[j], out[i]];
  }
  return out;
}

function shift(bytes: Uint8Array, random: Random): Uint8Array {
  const out = bytes.slice();
  const i = Math.floor(random() * out.length);
  out.copyWithin(i, Math.min(out.length - 1, i + 1 + Math.floor(random() * 16)));
  return out;
}

/** Puts a hostile number in the place of a number that is written in letters. */
function wildNumber(bytes: Uint8Array, random: Random): Uint8Array {
  const text = latin(bytes.subarray(0, 200_000));
  const found = [...text.matchAll(/-?\d+(\.\d+)?/g)];
  if (found.length === 0) return wildWord(bytes, random);
  const m = random() < 0.6 ? found[Math.floor(random() * Math.min(40, found.length))] : pick(found, random);
  return joined(bytes, m.index, m[0].length, pick(hostileNumbers, random));
}

/** Writes an extreme whole number over four or eight bytes. */
function wildWord(bytes: Uint8Array, random: Random): Uint8Array {
  const out = bytes.slice();
  if (out.length < 8) return out;
  const at = Math.floor(random() * Math.min(out.length - 8, random() < 0.5 ? 400 : out.length));
  const view = new DataView(out.buffer);
  const value = pick([0xffffffff, 0x7fffffff, 0x40000000, 0x3fffffff, 0, 0x80000000, 0x01000000], random);
  view.setUint32(at, value, random() < 0.5);
  if (random() < 0.3) view.setUint32(at + 4, value, random() < 0.5);
  return out;
}

function joined(bytes: Uint8Array, at: number, length: number, text: string): Uint8Array {
  return new Uint8Array(Buffer.concat([bytes.subarray(0, at), bytesOf(text), bytes.subarray(at + length)]));
}

/** Puts a hostile text in the place of a word. */
function wildText(bytes: Uint8Array, random: Random): Uint8Array {
  const found = [...latin(bytes.subarray(0, 100_000)).matchAll(/[A-Za-z_]{3,}/g)];
  if (found.length === 0) return flip(bytes, random);
  const m = pick(found, random);
  const text = pick(hostileTexts, random);
  const encoded = Buffer.from(text, 'utf8').toString('latin1');
  return joined(bytes, m.index, m[0].length, encoded);
}

/** Repeats a stretch many times, as a loop that does not end would read it. */
function repeat(bytes: Uint8Array, random: Random): Uint8Array {
  const at = Math.floor(random() * bytes.length);
  const piece = bytes.subarray(at, at + 1 + Math.floor(random() * 200));
  const times = 1 + Math.floor(random() * 300);
  const pieces = Array.from({ length: times }, () => piece);
  return new Uint8Array(Buffer.concat([bytes.subarray(0, at), ...pieces, bytes.subarray(at)]));
}

const kinds = [
  cut,
  flip,
  swap,
  shift,
  wildNumber,
  wildNumber,
  wildNumber,
  wildWord,
  wildWord,
  wildText,
  repeat,
];

/** A damaged copy of a file. */
export const damage = (bytes: Uint8Array, random: Random): Uint8Array => pick(kinds, random)(bytes, random);

/** Words of the language or the system that no person should ever be shown. */
export const engineWords =
  /Invalid (typed )?array|is not (a function|iterable|defined)|Cannot (read|convert|access)|\bundefined\b|out of bounds|outside the bounds|Maximum call stack|\bat \S+\.[mt]s:|RangeError|TypeError|SyntaxError|Unexpected (token|end)|JSON at position|node_modules|\bENOENT\b|\bselect \w|insert into|Failed query|\[object /;

/** Arrays that a pack may hold, by the names they have in it. */
const kinds = {
  Int8: Int8Array,
  Uint8: Uint8Array,
  Int16: Int16Array,
  Uint16: Uint16Array,
  Int32: Int32Array,
  Uint32: Uint32Array,
  Float32: Float32Array,
  Float64: Float64Array,
} as const;
type Kind = keyof typeof kinds;
type Numbers = InstanceType<(typeof kinds)[Kind]>;

/** Where each array begins: a multiple of the widest number. */
const ALIGNED = 8;
const aligned = (bytes: number): number => Math.ceil(bytes / ALIGNED) * ALIGNED;

const kindOf = (array: Numbers): Kind =>
  (Object.keys(kinds) as Kind[]).find((kind) => array.constructor === kinds[kind])!;

const isNumbers = (value: unknown): value is Numbers =>
  ArrayBuffer.isView(value) && !(value instanceof DataView);

const bytesOf = (array: Numbers): Uint8Array =>
  new Uint8Array(array.buffer, array.byteOffset, array.byteLength);

/** Arrays of numbers one after the other, those alike only once. */
export class ArrayShelf {
  /** Kind, where it begins and how many numbers it has. */
  readonly table: [Kind, number, number][] = [];
  readonly arrays: Numbers[] = [];
  private readonly known = new Map<Numbers, number>();
  private readonly alike = new Map<string, number[]>();
  /** Of all arrays together. */
  bytes = 0;

  /** @returns where in the table it stands */
  put(array: Numbers): number {
    let place = this.known.get(array);
    if (place === undefined) {
      place = this.placeOf(array);
      this.known.set(array, place);
    }
    return place;
  }

  private placeOf(array: Numbers): number {
    const kind = kindOf(array);
    const bytes = bytesOf(array);
    const key = `${kind} ${array.length} ${checkSum(bytes)}`;
    const others = this.alike.get(key) ?? [];
    const same = others.find((i) => isSame(bytesOf(this.arrays[i]), bytes));
    if (same !== undefined) return same;
    const place = this.table.push([kind, this.bytes, array.length]) - 1;
    this.arrays.push(array);
    this.alike.set(key, [...others, place]);
    this.bytes += aligned(array.byteLength);
    return place;
  }
}

/** FNV-1a over 32 bits, after Fowler, Noll and Vo. */
function checkSum(bytes: Uint8Array): number {
  let sum = 0x811c9dc5;
  for (const byte of bytes) sum = Math.imul(sum ^ byte, 0x01000193);
  return sum >>> 0;
}

function isSame(a: Uint8Array, b: Uint8Array): boolean {
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

/** What stands in the words of a pack in place of an array. */
interface Shelved {
  $array: number;
}

/**
 * A value with its arrays of numbers as one run of bytes, in the byte order of small ends first: the length of its words
 * (4 bytes), the words as JSON, and behind them the arrays.
 *
 * @param value what JSON can hold, and arrays of numbers within it
 */
export function packArrays(value: unknown): Uint8Array<ArrayBuffer> {
  const shelf = new ArrayShelf();
  const root = JSON.stringify(value, (_, one): unknown =>
    isNumbers(one) ? ({ $array: shelf.put(one) } satisfies Shelved) : one,
  );
  const words = new TextEncoder().encode(`{"root":${root},"arrays":${JSON.stringify(shelf.table)}}`);
  const begin = aligned(4 + words.length);
  const out = new Uint8Array(begin + shelf.bytes);
  new DataView(out.buffer).setUint32(0, words.length, true);
  out.set(words, 4);
  for (const [i, array] of shelf.arrays.entries()) out.set(bytesOf(array), begin + shelf.table[i][1]);
  return out;
}

/** The way back; its arrays lie on the bytes given, those that were alike in one. */
export function unpackArrays<T>(bytes: Uint8Array<ArrayBuffer>): T {
  // Numbers must lie where the machine takes them.
  const whole = bytes.byteOffset % ALIGNED === 0 ? bytes : bytes.slice();
  const length = new DataView(whole.buffer, whole.byteOffset).getUint32(0, true);
  const text = new TextDecoder().decode(whole.subarray(4, 4 + length));
  const { arrays: table } = JSON.parse(text) as { arrays: ArrayShelf['table'] };
  const begin = whole.byteOffset + aligned(4 + length);
  const arrays = table.map(([kind, at, count]) => new kinds[kind](whole.buffer, begin + at, count));
  const { root } = JSON.parse(text, (_, one: unknown) =>
    one !== null && typeof one === 'object' && '$array' in one ? arrays[(one as Shelved).$array] : one,
  ) as { root: T };
  return root;
}

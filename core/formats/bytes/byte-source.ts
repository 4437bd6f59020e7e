/** The bytes of a file, read by ranges so that a large file is never in memory as a whole. */
export interface ByteSource {
  readonly length: number;
  /** Bytes `from` to `to`, cut at the end of the file. They may be shared: never write into them. */
  read(from: number, to: number): Uint8Array;
  /** Where the file lies, for libraries that open files themselves; null for bytes in memory. */
  readonly path: string | null;
}

export function memorySource(bytes: Uint8Array): ByteSource {
  return { length: bytes.length, path: null, read: (from, to) => bytes.subarray(from, to) };
}

export const wholeFile = (source: ByteSource): Uint8Array => source.read(0, source.length);

/** How much of a large file is looked at in one go. */
export const WINDOW = 8 * 2 ** 20;

/** The first look is short: often what matters stands at the beginning. */
const FIRST_WINDOW = 65536;

/** A moving window on a source, for walking through it from the front. */
export class SlidingWindow {
  private next = FIRST_WINDOW;
  bytes: Uint8Array = new Uint8Array(0);
  /** Place of `bytes[0]` in the file. */
  start = 0;

  constructor(
    readonly source: ByteSource,
    private readonly size = WINDOW,
  ) {}

  /** Makes sure that `at` and at least `need` bytes behind it (as far as the file goes) are in the window. */
  reach(at: number, need: number): void {
    const end = Math.min(this.source.length, at + need);
    if (at >= this.start && end <= this.start + this.bytes.length) return;
    this.start = at;
    this.bytes = this.source.read(at, Math.min(this.source.length, at + Math.max(need, this.next)));
    this.next = Math.min(this.size, this.next * 4);
  }
}

/**
 * Calls `line` for every line of a text, without its line end, with the place of its first byte; `line` returns
 * false to stop. Lines longer than a mebibyte are cut.
 */
export function eachLine(
  source: ByteSource,
  from: number,
  line: (bytes: Uint8Array, at: number) => boolean | undefined,
): void {
  let at = from;
  while (at < source.length) {
    const bytes = source.read(at, Math.min(source.length, at + WINDOW));
    const last = at + bytes.length >= source.length;
    let begin = 0;
    while (begin < bytes.length) {
      const newline = bytes.indexOf(10, begin);
      if (newline < 0 && !last && bytes.length - begin < 2 ** 20 && begin > 0) break;
      const end = newline < 0 ? bytes.length : newline;
      const stop = end > begin && bytes[end - 1] === 13 ? end - 1 : end;
      if (line(bytes.subarray(begin, stop), at + begin) === false) return;
      begin = newline < 0 ? end : end + 1;
    }
    at += begin;
  }
}

/** What a reading process tells of itself while it works: which file it is in, and how much it has taken in. */
export interface ReadingSign {
  file: string | null;
  /** Bytes read or written since the job began. */
  bytes: number;
}

/** Signs closer together than this are held back, in milliseconds. */
const PAUSE = 200;
/** More bytes than this are told at once. */
const LARGE = 16 * 2 ** 20;
/** Reading the same file more often than this is no progress. */
const MOST_READINGS = 24;

let listener: ((sign: ReadingSign) => void) | null = null;
let told = { at: 0, bytes: 0 };
let file: string | null = null;
let bytes = 0;
const takenOf = new Map<string, number>();

/** Begins to tell of a job. In a process nobody listens to (the command line), nothing is told. */
export function tellSigns(to: (sign: ReadingSign) => void): void {
  listener = to;
  told = { at: 0, bytes: 0 };
  file = null;
  bytes = 0;
  takenOf.clear();
}

function tell(): void {
  told = { at: Date.now(), bytes };
  listener?.({ file, bytes });
}

/** The name of the file that is opened now: it is named when this process is ended over it. */
export function signFile(name: string): void {
  file = name;
  if (listener) tell();
}

/**
 * Bytes were taken in from the file at `path`. What is read over and over counts only so often, so that a reader that
 * goes in circles is not taken for one that gets on.
 */
export function signBytes(path: string, size: number, taken: number): void {
  if (!listener) return;
  const before = takenOf.get(path) ?? 0;
  if (before > MOST_READINGS * Math.max(size, 65536)) return;
  takenOf.set(path, before + taken);
  signWork(taken);
}

/** So many bytes were written or worked through. */
export function signWork(amount: number): void {
  if (!listener) return;
  bytes += amount;
  if (bytes - told.bytes > LARGE || Date.now() - told.at > PAUSE) tell();
}

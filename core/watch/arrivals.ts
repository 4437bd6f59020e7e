import { RestingFiles, type SeenFile, type WholeWhen } from './resting-files.ts';

/** Files of a watched folder that make runs together: one in the folder itself, or all of a folder in it. */
export interface Arrival {
  /** Name in the folder that is watched. */
  name: string;
  /** Those that are whole, below the folder, with `/` between. */
  paths: string[];
  /** Ids of the runs that came of it before, which those that come now take the place of. */
  before: readonly string[];
  /** How its files are, to be told apart from how they will be. */
  state: string;
}

/** What was taken in of a watched folder, by the names of arrivals, as plain data. */
export type TakenArrivals = Record<string, { state: string; runs: string[] }>;

/** Tells what has come into a watched folder, or has changed there, once it is whole. */
export class Arrivals {
  private readonly resting: RestingFiles;
  private readonly taken: Map<string, { state: string; runs: string[] }>;

  /** @param taken what was taken in before, as `known` gives it */
  constructor(when: WholeWhen, taken: TakenArrivals = {}) {
    this.resting = new RestingFiles(when);
    this.taken = new Map(Object.entries(taken));
  }

  /**
   * @param files all that are there now, in any order
   * @param now in milliseconds
   * @returns what is to be taken in, in the order of its names; it is given again until `take` is told of it
   */
  look(files: readonly SeenFile[], now: number): Arrival[] {
    const { whole, waiting } = this.resting.look(files, now);
    const isWhole = new Set(whole);
    const isWaiting = new Set(waiting);
    return groupsOf(files).flatMap(({ name, files: own }) => {
      // A folder is taken in when all of it is whole; marks are neither whole nor waited for.
      if (own.some(({ path }) => isWaiting.has(path))) return [];
      const ready = own.filter(({ path }) => isWhole.has(path));
      const state = ready.map(({ path, size, changed }) => `${path} ${size} ${changed}`).join('\n');
      const before = this.taken.get(name);
      if (ready.length === 0 || before?.state === state) return [];
      return [{ name, paths: ready.map(({ path }) => path), before: before?.runs ?? [], state }];
    });
  }

  /** It was taken in, or could not be: it is given again when it has changed. */
  take({ name, state }: Arrival, runs: readonly string[]): void {
    this.taken.set(name, { state, runs: [...runs] });
  }

  known(): TakenArrivals {
    return Object.fromEntries(this.taken);
  }
}

function groupsOf(files: readonly SeenFile[]): { name: string; files: SeenFile[] }[] {
  const groups = new Map<string, SeenFile[]>();
  for (const file of files) {
    const [name] = file.path.split('/');
    groups.set(name, [...(groups.get(name) ?? []), file]);
  }
  return [...groups]
    .map(([name, own]) => ({ name, files: own.sort((a, b) => a.path.localeCompare(b.path)) }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
}

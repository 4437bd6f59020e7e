import { mkdir, readdir, stat } from 'node:fs/promises';
import { join, relative, resolve, sep } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import type { FileProblem } from '#core/model/read-error.ts';
import { RestingFiles, type SeenFile } from '#core/watch/resting-files.ts';
import { ask } from '#engine/server-requests.ts';
import { checkSteps, tellEntry, tellProblem } from './batch.ts';
import { BatchSession, type PicturesOptions } from './batch-session.ts';
import { type ImportedRun, importEach } from './import-files.ts';
import { type GivenScene, readScenePath } from './opened-scene.ts';
import { type OwnServer, withOwnServer } from './own-server.ts';
import type { StatedUnit } from './stated-units.ts';
import { inFolder } from './write-whole.ts';

export interface WatchOptions extends PicturesOptions {
  shots: string[];
  out: string;
  units?: StatedUnit[];
  /** Seconds without a change after which files are whole. */
  rest: number;
  /** Name of a file that says so instead; see `WholeWhen`. */
  mark?: string;
  /** Ends when so many runs came in; else it goes on until it is stopped. */
  until?: number;
}

/** How often the folder is looked at, in milliseconds; more often where files are whole sooner. */
const LOOK_EVERY = 2000;

/**
 * Watches a folder: files that lie in it are runs, each by itself, and so are its folders with all that is in them. When they are whole,
 * pictures of the shots are made of them, and again whenever they change.
 *
 * @returns the exit code: 1 where it could not be begun
 */
export const watchFolder = (folder: string, options: WatchOptions): Promise<number> =>
  withOwnServer(
    { files: [join(folder, 'any')], out: options.out },
    async () => {
      checkSteps(options.steps);
      if (!(await stat(folder).catch(() => null))?.isDirectory())
        throw {
          reason: `"${folder}" is no folder that is there`,
          where: 'the folder to watch',
          remedy: 'Make it first, or name another one.',
        };
      await inFolder(options.out, () => mkdir(options.out, { recursive: true }));
      return Promise.all(options.shots.map(readScenePath));
    },
    async (server, given) => {
      const watch = new Watch(server, given, folder, options);
      console.log(`watching ${folder}; Ctrl C ends it`);
      const every = Math.min(LOOK_EVERY, Math.max(200, 500 * options.rest));
      while (options.until === undefined || watch.arrived < options.until) {
        await watch.look();
        await pause(every);
      }
      return 0;
    },
  );

/** Files that make runs together: one in the folder itself, or all of a folder in it. */
interface Arrival {
  /** Name in the folder that is watched. */
  name: string;
  files: SeenFile[];
}

class Watch {
  /** How many runs came in. */
  arrived = 0;
  private readonly resting: RestingFiles;
  private readonly session: BatchSession;
  /** What was taken in, by the names of arrivals: how it was then, and which runs came of it. */
  private readonly taken = new Map<string, { state: string; runs: string[] }>();

  constructor(
    private readonly server: OwnServer,
    given: readonly GivenScene[],
    private readonly folder: string,
    private readonly options: WatchOptions,
  ) {
    this.resting = new RestingFiles({ rest: 1000 * options.rest, mark: options.mark ?? null });
    this.session = new BatchSession(server, given, options);
  }

  /** Takes in what has become whole since, and makes its pictures. */
  async look(): Promise<void> {
    const files = await this.filesNow();
    const { whole, waiting } = this.resting.look(files, Date.now());
    const isWhole = new Set(whole);
    const isWaiting = new Set(waiting);
    const fresh: ImportedRun[] = [];
    const replaced: string[] = [];
    for (const { name, files: own } of arrivalsOf(files)) {
      // A folder is taken in when all of it is whole; marks are neither whole nor waited for.
      if (own.some(({ path }) => isWaiting.has(path))) continue;
      const ready = own.filter(({ path }) => isWhole.has(path));
      const state = ready.map(({ path, size, changed }) => `${path} ${size} ${changed}`).join('\n');
      const before = this.taken.get(name);
      if (ready.length === 0 || before?.state === state) continue;
      const old = before?.runs ?? [];
      // What comes in its place is called as it was.
      await this.setAside(old, true);
      const { imported, problems } = await this.takeIn(ready);
      for (const problem of problems) tellProblem(problem);
      if (imported.length === 0) await this.setAside(old, false);
      else replaced.push(...old);
      const runs = imported.length > 0 ? imported.map(({ run }) => run) : old;
      this.taken.set(name, { state, runs });
      fresh.push(...imported);
    }
    if (fresh.length === 0) return;
    await this.session.take(fresh, replaced);
    const { files: entries, made, current, failed } = await this.session.make();
    for (const entry of entries) if (entry.state !== 'current') tellEntry(entry, this.options.out);
    console.log(`${made} made, ${current} current, ${failed} failed`);
    this.arrived += fresh.length;
  }

  private async setAside(runs: readonly string[], removed: boolean): Promise<void> {
    for (const id of runs)
      await ask(`${this.server.address}/api/removed`, { method: 'PUT', json: { kind: 'run', id, removed } });
  }

  private takeIn(files: readonly SeenFile[]): Promise<{ imported: ImportedRun[]; problems: FileProblem[] }> {
    const paths = files.map(({ path }) => join(this.folder, path));
    return importEach(this.server, paths, this.options.units);
  }

  /** Everything in the folder but what is given out. */
  private async filesNow(): Promise<SeenFile[]> {
    const out = relative(this.folder, resolve(this.options.out));
    const names = await readdir(this.folder, { recursive: true });
    const own = names.filter((name) => out === '' || (name !== out && !name.startsWith(`${out}${sep}`)));
    const found = await Promise.all(
      own.map(async (name) => {
        // It may be gone again.
        const about = await stat(join(this.folder, name)).catch(() => null);
        const path = name.split(sep).join('/');
        return about?.isFile() ? [{ path, size: about.size, changed: about.mtimeMs }] : [];
      }),
    );
    return found.flat();
  }
}

function arrivalsOf(files: readonly SeenFile[]): Arrival[] {
  const arrivals = new Map<string, SeenFile[]>();
  for (const file of files) {
    const [name] = file.path.split('/');
    arrivals.set(name, [...(arrivals.get(name) ?? []), file]);
  }
  return [...arrivals]
    .map(([name, own]) => ({ name, files: own.sort((a, b) => a.path.localeCompare(b.path)) }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
}

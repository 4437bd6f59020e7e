import { mkdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import type { FileProblem } from '#core/model/read-error.ts';
import { RUNS_TABLE } from '#core/sets/made-rows.ts';
import { Arrivals } from '#core/watch/arrivals.ts';
import { ask } from '#engine/server-requests.ts';
import { seenFiles } from '#web/server/seen-files.ts';
import { checkSteps, tellEntry, tellProblem } from './batch.ts';
import { BatchSession, type PicturesOptions } from './batch-session.ts';
import { type ImportedRun, importEach } from './import-files.ts';
import { type GivenScene, readScenePath } from './opened-scene.ts';
import { type OwnServer, withOwnServer } from './own-server.ts';
import type { StatedUnit } from './stated-units.ts';
import { inFolder, writeWhole } from './write-whole.ts';

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

class Watch {
  /** How many runs came in. */
  arrived = 0;
  private readonly arrivals: Arrivals;
  private readonly session: BatchSession;

  constructor(
    private readonly server: OwnServer,
    given: readonly GivenScene[],
    private readonly folder: string,
    private readonly options: WatchOptions,
  ) {
    this.arrivals = new Arrivals({ rest: 1000 * options.rest, mark: options.mark ?? null });
    this.session = new BatchSession(server, given, options);
  }

  /** Takes in what has become whole since, and makes its pictures. */
  async look(): Promise<void> {
    const files = await seenFiles(this.folder, this.options.out);
    const fresh: ImportedRun[] = [];
    const replaced: string[] = [];
    for (const arrival of this.arrivals.look(files, Date.now())) {
      const { before, paths } = arrival;
      // What comes in its place is called as it was.
      await this.setAside(before, true);
      const { imported, problems } = await this.takeIn(paths);
      for (const problem of problems) tellProblem(problem);
      if (imported.length === 0) await this.setAside(before, false);
      else replaced.push(...before);
      this.arrivals.take(arrival, imported.length > 0 ? imported.map(({ run }) => run) : before);
      fresh.push(...imported);
    }
    if (fresh.length === 0) return;
    await this.session.take(fresh, replaced);
    const { files: entries, made, current, failed } = await this.session.make();
    const rows = Buffer.from(await this.session.rows(entries));
    await writeWhole(join(this.options.out, RUNS_TABLE), rows);
    for (const entry of entries) if (entry.state !== 'current') tellEntry(entry, this.options.out);
    console.log(`${made} made, ${current} current, ${failed} failed`);
    this.arrived += fresh.length;
  }

  private async setAside(runs: readonly string[], removed: boolean): Promise<void> {
    for (const id of runs)
      await ask(`${this.server.address}/api/removed`, { method: 'PUT', json: { kind: 'run', id, removed } });
  }

  private takeIn(paths: readonly string[]): Promise<{ imported: ImportedRun[]; problems: FileProblem[] }> {
    const files = paths.map((path) => join(this.folder, path));
    return importEach(this.server, files, this.options.units);
  }
}

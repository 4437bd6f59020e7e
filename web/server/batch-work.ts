import {
  appendFile,
  copyFile,
  mkdir,
  readFile,
  realpath,
  rename,
  rm,
  stat,
  truncate,
  writeFile,
} from 'node:fs/promises';
import { dirname, join } from 'node:path';
import {
  BATCH_LOG,
  type BatchCount,
  type BatchEntry,
  countOfBatch,
  readBatchLog,
  writeBatchEntry,
} from '#core/batch/batch-log.ts';
import { type BatchPace, paceOf } from '#core/batch/batch-pace.ts';
import type { BatchDrawing } from '#core/batch/batch-plan.ts';
import { fileName } from '#core/language/file-name.ts';
import { ReadError } from '#core/model/read-error.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { PictureAt } from '#core/motion/picture-at.ts';
import { openFindings } from '#core/preflight/registry.ts';
import type { Finding } from '#core/preflight/rule.ts';
import type { Scene } from '#core/scene/document.ts';
import type { BatchOrder } from './batch-order.ts';
import { BatchScenes, type EndsOfShots } from './batch-scenes.ts';
import type { DrawingPage } from './drawing-page.ts';
import { intakeProblem } from './intake-problem.ts';
import type { JobContext } from './jobs/job-kind.ts';
import { drawFilm, type FilmPage, filmPath } from './make-film.ts';
import { stampOf } from './opened-run.ts';
import { dataFolder, isWithin, outFolder } from './paths.ts';
import { folderOfJob, HALF, isOfBrowser, problemOfPage } from './render-pictures.ts';
import { ensureSpace, inStore, storeTrouble } from './store-trouble.ts';

/** What became of a batch. */
export interface BatchMade extends BatchCount {
  /** Path of the folder its files are in. */
  folder: string;
}

/** How much of the work is finding out where colour scales end; that tells nothing of how long pictures take. */
const ENDS = 0.02;

/** A picture at which the browser has ended so often is left out. */
const MOST_ENDINGS = 2;

/** Where the pictures of the contact sheets of a set lie. */
export const folderOfSheet = (set: string): string => join(dataFolder, 'sheets', fileName(set, 'set'));

/** Where the files of a batch go. */
export function folderOfBatch({ folder, sheet, set }: Pick<BatchOrder, 'folder' | 'sheet' | 'set'>): string {
  if (sheet) return folderOfSheet(set);
  return folder === '' ? outFolder : join(outFolder, fileName(folder, 'batch'));
}

const fileOfEnds = (job: string): string => join(folderOfJob(job), 'ends.json');

/** Where the scales of the shots of a batch begin and end; null while that is not known. */
export async function endsOfBatch(job: string): Promise<EndsOfShots | null> {
  const text = await readFile(fileOfEnds(job), 'utf8').catch(() => null);
  return text === null ? null : new Map(JSON.parse(text));
}

/** What draws. */
export type BatchDrawer = FilmPage & Pick<DrawingPage, 'ends'>;

/** Whose work the pictures of a film are: of its stamp, so that they are found again after a crash. */
const ownerOf = (stamp: string): string =>
  [0, 8, 12, 16, 20].map((from, i, all) => stamp.slice(from, all[i + 1])).join('-');

/** A batch under way: what of it is made, and what is left to do. */
export class BatchWork {
  private readonly scenes: BatchScenes;
  private readonly runs: Map<string, string>;
  /** By the paths of all files of this batch; what was not looked at yet is lacking. */
  private readonly entries = new Map<string, BatchEntry>();
  /** How often the browser ended at a drawing, by its index. */
  private readonly endings = new Map<number, number>();
  /** The one under way. */
  private drawing: number | null = null;

  private constructor(
    private readonly order: BatchOrder,
    private readonly folder: string,
    /** What is said of the files in the folder so far. */
    private readonly before: ReadonlyMap<string, BatchEntry>,
    /** Id of the job. */
    private readonly owner: string,
  ) {
    this.scenes = new BatchScenes(order);
    this.runs = new Map(order.runs.map(({ id, name }) => [id, name]));
  }

  /** @throws StoreError where the folder cannot be written */
  static async open(order: BatchOrder, owner: string): Promise<BatchWork> {
    const folder = folderOfBatch(order);
    await inStore(() => mkdir(folder, { recursive: true }));
    const log = join(folder, BATCH_LOG);
    const text = await readFile(log, 'utf8').catch(() => '');
    // What a crash has cut off would swallow the line behind it.
    const whole = text.slice(0, text.lastIndexOf('\n') + 1);
    if (whole !== text) await inStore(() => truncate(log, Buffer.byteLength(whole)));
    return new BatchWork(order, folder, readBatchLog(whole), owner);
  }

  result(): BatchMade {
    return { ...countOfBatch(this.entries.values()), folder: this.folder };
  }

  /** How fast it was made, for the next one. */
  pace(before: BatchPace | null): BatchPace | null {
    const own = [...this.entries.values()].filter((e) => e.batch === this.owner);
    return paceOf(own, this.order.settings.passes, before);
  }

  /**
   * Makes what is lacking, run by run. What fails is told in the log and left out.
   *
   * @throws what the signal was aborted with; StoreError where the disk is full; what says that the browser has ended
   */
  async make(page: BatchDrawer, at: JobContext): Promise<void> {
    // The browser before this one has ended by itself while something was drawn.
    if (this.drawing !== null) this.endings.set(this.drawing, (this.endings.get(this.drawing) ?? 0) + 1);
    const { drawings } = this.order;
    const ends = await this.ends(page, at);
    let left = 0;
    const share = (n: number): number => ((1 - ENDS) * n) / drawings.length;
    for (const [i, drawing] of drawings.entries()) {
      at.signal.throwIfAborted();
      if (drawing.files.some(({ path }) => !this.entries.has(path))) {
        this.drawing = i;
        const watched: JobContext = {
          ...at,
          progress: (done) => at.progress(ENDS + share(i + done), ENDS + share(left)),
        };
        if (!(await this.makeOne(page, drawing, ends, watched))) left++;
        this.drawing = null;
      } else left++;
      at.progress(ENDS + share(i + 1), ENDS + share(left));
    }
  }

  /** @returns whether anything was drawn for it */
  private async makeOne(
    page: BatchDrawer,
    drawing: BatchDrawing,
    ends: EndsOfShots,
    at: JobContext,
  ): Promise<boolean> {
    const began = performance.now();
    const seconds = (): number => Number(((performance.now() - began) / 1000).toFixed(3));
    try {
      if ((this.endings.get(this.drawing!) ?? 0) >= MOST_ENDINGS)
        throw new ReadError(
          'the browser that draws ended by itself at this picture, each time',
          'the picture',
          'Free memory, or ask for a smaller one, and try again.',
        );
      const { run, stamp: ofRun } = await this.scenes.openRun(drawing.run);
      const { scene, notes } = this.scenes.sceneFor(drawing, run, ends);
      const picture = drawing.film === undefined ? this.scenes.pictureAt(drawing, scene) : 'film';
      const { passes, transparent } = this.order.settings;
      const stamp = stampOf([scene, picture, drawing.size, passes, transparent, ofRun]);
      if (await this.isCurrent(drawing, stamp)) {
        await this.leave(drawing);
        return false;
      }
      const { written, mismatches, preflight } =
        picture === 'film'
          ? await this.writeFilm(page, drawing, scene, { ...at, owner: ownerOf(stamp) })
          : await this.write(page, drawing, scene, picture);
      const told = [...new Set([...notes, ...mismatches])];
      for (const file of written)
        await this.tell({
          ...this.about(drawing, run),
          ...file,
          state: 'made',
          seconds: seconds(),
          notes: told,
          preflight,
          problem: null,
          stamp,
        });
    } catch (error) {
      if (isOfBrowser(error)) throw error;
      const trouble = storeTrouble(error);
      if (trouble) throw trouble;
      const { reason, where, remedy } = intakeProblem(problemOfPage(error));
      for (const { path, format } of drawing.files)
        await this.tell({
          ...this.about(drawing, null),
          path,
          format,
          state: 'failed',
          bytes: 0,
          seconds: seconds(),
          notes: [],
          preflight: [],
          problem: { reason, where, remedy },
          stamp: '',
        });
    }
    return true;
  }

  private about({ shot, run, step, size, look, film }: BatchDrawing, opened: RunDescription | null) {
    return {
      batch: this.owner,
      shot: this.scenes.nameOfShot(shot),
      run: this.runs.get(run)!,
      step: step + 1,
      time: opened?.steps[step]?.time ?? null,
      ...size,
      look,
      ...(film && { pictures: film }),
    };
  }

  private async tell(entry: BatchEntry): Promise<void> {
    await inStore(() => appendFile(join(this.folder, BATCH_LOG), writeBatchEntry(entry)));
    this.entries.set(entry.path, entry);
  }

  /** Whether all files of a drawing are there as they would be made. */
  private async isCurrent({ files }: BatchDrawing, stamp: string): Promise<boolean> {
    for (const { path, format } of files) {
      const known = this.before.get(path);
      if (!known || known.state === 'failed' || known.stamp !== stamp || known.format !== format)
        return false;
      // What this very batch has made before it was stopped is not made twice.
      if (this.order.again && known.batch !== this.owner) return false;
      const there = await stat(join(this.folder, path)).catch(() => null);
      if (!there?.isFile() || there.size !== known.bytes) return false;
    }
    return true;
  }

  private async leave({ files }: BatchDrawing): Promise<void> {
    for (const { path } of files) {
      const known = this.before.get(path)!;
      if (known.batch === this.owner) this.entries.set(path, known);
      else await this.tell({ ...known, batch: this.owner, state: 'current' });
    }
  }

  /** Writes the files of a drawing aside, and puts them into their places when they are whole. */
  private async write(page: BatchDrawer, drawing: BatchDrawing, scene: Scene, picture: PictureAt) {
    const [first, ...also] = drawing.files;
    const paths = drawing.files.map(({ path }) => join(this.folder, path));
    for (const path of paths) await this.makeFolder(dirname(path));
    await ensureSpace(0);
    for (const path of paths) await inStore(() => rm(`${path}${HALF}`, { force: true }));
    const { passes, transparent } = this.order.settings;
    const drawn = await page.make(
      {
        run: drawing.run,
        scene,
        step: 0,
        ...picture,
        ...drawing.size,
        passes,
        transparent,
        format: first.format,
        also: also.map((f) => f.format),
      },
      (piece, of) => inStore(() => appendFile(`${paths[of]}${HALF}`, piece)),
    );
    for (const path of paths) await inStore(() => rename(`${path}${HALF}`, path));
    const sizes = [drawn, ...drawn.also];
    const written = drawing.files.map((file, i) => ({ ...file, bytes: sizes[i].bytes }));
    return { written, mismatches: drawn.mismatches, preflight: saidOf(drawn.findings) };
  }

  /** Draws a film aside, where it goes on behind the last picture that is whole, and puts its files into their places. */
  private async writeFilm(
    page: BatchDrawer,
    { run, size, files }: BatchDrawing,
    scene: Scene,
    at: JobContext,
  ) {
    const { passes } = this.order.settings;
    const films = files.map(({ format }) => ({ format, quality: 'good' as const }));
    const { mismatches } = await drawFilm({ run, scene, ...size, passes, films }, page, at);
    const written = [];
    for (const [i, file] of files.entries()) {
      const path = join(this.folder, file.path);
      await this.makeFolder(dirname(path));
      const half = `${path}${HALF}`;
      // The folder of a batch may lie on another disk.
      await inStore(async () => copyFile((await filmPath(at.owner, i))!, half));
      await inStore(() => rename(half, path));
      written.push({ ...file, bytes: (await stat(path)).size });
    }
    await inStore(() => rm(folderOfJob(at.owner), { recursive: true, force: true }));
    return { written, mismatches, preflight: [] };
  }

  /** @throws ReadError where it would lie outside the folder of the batch */
  private async makeFolder(folder: string): Promise<void> {
    await inStore(() => mkdir(folder, { recursive: true }));
    const [real, base] = await Promise.all([realpath(folder), realpath(this.folder)]);
    if (!isWithin(base, real))
      throw new ReadError(
        'the file would lie outside the folder of the batch',
        'its name',
        'Remove the link that leads out of the folder.',
      );
  }

  /** What was found out of scales is kept, so that pictures made before a crash and after it agree. */
  private async ends(page: BatchDrawer, at: JobContext): Promise<EndsOfShots> {
    const known = await endsOfBatch(this.owner);
    if (known) return known;
    const file = fileOfEnds(this.owner);
    const ends = await this.scenes.ends(page, (done) => {
      at.signal.throwIfAborted();
      at.progress(ENDS * done, ENDS * done);
    });
    await inStore(async () => {
      await mkdir(dirname(file), { recursive: true });
      await writeFile(`${file}${HALF}`, JSON.stringify([...ends]));
      await rename(`${file}${HALF}`, file);
    });
    return ends;
  }
}

/** What the preflight has to say of a picture, but for what could only be better. */
const saidOf = (findings: readonly Finding[]): string[] =>
  openFindings(findings)
    .filter((f) => f.severity !== 'minor')
    .map((f) => `${f.says} ${f.remedy}`);

import { existsSync, readdirSync, readFileSync, realpathSync, statSync } from 'node:fs';
import { open, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { LRUCache } from 'lru-cache';
import { memorySource } from '#core/formats/bytes/byte-source.ts';
import type { FileFormat, Opened, OpenedCollection, ReadTools } from '#core/formats/format.ts';
import { detectFormat, openSource } from '#core/formats/registry.ts';
import {
  filesOfPlan,
  folderName,
  type KnownFile,
  normalPath,
  planRuns,
  troublesOfRows,
} from '#core/formats/series.ts';
import { type FileProblem, problemOf, ReadError } from '#core/model/read-error.ts';
import type { RunPlan } from '#core/model/run-plan.ts';
import type { TableReading } from '#core/model/table-reading.ts';
import { allowedFile } from './allowed-files.ts';
import { fastTools, fileSource } from './file-source.ts';
import { openHierarchy } from './hierarchy.ts';
import type { NamedFile } from './named-file.ts';
import { isWithin } from './paths.ts';
import { signFile } from './reading-signs.ts';
import { unpack } from './unpack.ts';

/** Where files are found, and what else may be read for them. */
export interface FileBase {
  /** Where each named file is read from. */
  paths: Record<string, string>;
  /** Real paths of folders beside which files may be looked for; null allows every folder. */
  lookIn: string[] | null;
  /** Real paths of folders whose files may be opened at all; null allows every place. */
  roots: string[] | null;
}

/** For a person's own command: every place they can read themselves. */
export const anywhere: Pick<FileBase, 'lookIn' | 'roots'> = { lookIn: null, roots: null };

/** Opens files by their names and keeps the youngest open. */
export class FileOpener {
  private readonly opened: LRUCache<string, Promise<Opened>>;

  /** @param kept how many files stay open */
  constructor(
    private readonly base: FileBase,
    kept = 16,
  ) {
    this.opened = new LRUCache({ max: kept });
  }

  open(name: string, reading?: TableReading | null): Promise<Opened> {
    const key = `${name}|${reading ? JSON.stringify(reading) : ''}`;
    const opening = this.opened.get(key) ?? this.openNew(name, reading ?? undefined);
    this.opened.set(key, opening);
    return opening;
  }

  bytes = async (name: string): Promise<Uint8Array> => new Uint8Array(readFileSync(this.pathOf(name)));

  pathOf(name: string): string {
    const path = Object.hasOwn(this.base.paths, name) ? this.base.paths[name] : '';
    return allowedFile(path, name, this.base.roots);
  }

  private async openNew(name: string, reading?: TableReading): Promise<Opened> {
    signFile(name);
    const path = this.pathOf(name);
    return openSource(fileSource(path), this.toolsFor(name, path), reading);
  }

  /** The tools to read one file with, which know what lies around it. */
  private toolsFor(name: string, path: string): ReadTools {
    const named = (relative: string): string => normalPath(join(folderName(name), relative));
    return {
      ...fastTools,
      name,
      hierarchy: openHierarchy,
      beside: (relative) => {
        const wanted = named(relative);
        const known =
          Object.keys(this.base.paths).find((n) => normalPath(n) === wanted) ??
          onlyOne(
            Object.keys(this.base.paths).filter((n) => n.split('/').pop() === relative.split('/').pop()),
          );
        const place = known ? this.base.paths[known] : this.allowed(join(dirname(path), relative));
        if (!place || !existsSync(place) || !statSync(place).isFile()) return null;
        return fileSource(allowedFile(place, relative, this.base.roots));
      },
      listBeside: (folder) => {
        const prefix = `${named(folder)}/`.replace(/^\.?\//, '');
        const names = new Set<string>();
        for (const n of Object.keys(this.base.paths)) {
          const normal = normalPath(n);
          if (normal.startsWith(prefix)) names.add(normal.slice(prefix.length).split('/')[0]);
        }
        const place = this.allowed(join(dirname(path), folder));
        if (place && existsSync(place) && statSync(place).isDirectory())
          for (const n of readdirSync(place)) names.add(n);
        return [...names].sort();
      },
    };
  }

  /** The path when it may be read, or null. */
  private allowed(path: string): string | null {
    if (this.base.lookIn === null) return path;
    if (!existsSync(path)) return null;
    const real = realpathSync(path);
    return this.base.lookIn.some((folder) => isWithin(folder, real)) ? real : null;
  }
}

const onlyOne = (list: string[]): string | undefined => (list.length === 1 ? list[0] : undefined);

export interface Understanding {
  plans: RunPlan[];
  /** What is known of each result file, for putting them together in another way. */
  known: KnownFile[];
  base: FileBase;
  problems: FileProblem[];
}

/**
 * Finds out what a set of files is: unpacks archives, detects formats, follows lists of files, and plans runs.
 *
 * @param place where files may be opened, and where those that are named by others may be looked for
 * @param scratch a folder for what archives hold
 */
export async function understandFiles(
  files: NamedFile[],
  { lookIn, roots }: Pick<FileBase, 'lookIn' | 'roots'>,
  scratch: string,
): Promise<Understanding> {
  const problems: FileProblem[] = [];
  const unpacked = await unpack(files, scratch, problems, roots);
  const base: FileBase = { paths: Object.fromEntries(unpacked.map((f) => [f.name, f.path])), lookIn, roots };
  const opener = new FileOpener(base, 64);
  const formats = new Map<string, FileFormat>();
  const collections = new Map<string, OpenedCollection>();
  const waiting = unpacked.map((f) => f.name);
  for (let name = waiting.shift(); name !== undefined; name = waiting.shift()) {
    try {
      signFile(name);
      const format = await formatOf(opener.pathOf(name), name);
      formats.set(name, format);
      if (!listFormats.has(format.id) && format.id !== TABLE) continue;
      const opened = await opener.open(name);
      if (opened.kind === 'collection') collections.set(name, opened);
      for (const file of filesListedIn(opened)) {
        const listed = normalPath(join(folderName(name), file));
        const path = join(dirname(base.paths[name]), file);
        if (Object.hasOwn(base.paths, listed) || !isFile(path)) continue;
        if (lookIn !== null && !lookIn.some((folder) => isWithin(folder, realpathSync(path)))) {
          if (lookIn.length > 0) problems.push(problemOf(listed, outside(listed)));
          continue;
        }
        base.paths[listed] = path;
        waiting.push(listed);
      }
    } catch (error) {
      problems.push(problemOf(name, error));
    }
  }
  const known = await knowFiles(formats, opener, collections, problems);
  const plans = planRuns(known, collections);
  problems.push(...unused(known, plans));
  const paths = [...known.map((file) => file.path), ...collections.keys()];
  for (const table of known)
    problems.push(...troublesOfRows(table, paths).map((trouble) => problemOf(table.path, trouble)));
  return { plans, known, base, problems };
}

/** Files that were understood and that no run takes. */
function unused(known: KnownFile[], plans: RunPlan[]): FileProblem[] {
  const used = new Set(
    plans.flatMap((p) => [...filesOfPlan(p), ...p.fieldFiles, ...p.tables, ...p.pictures]),
  );
  // A table that names the files of runs has done its work.
  const done = (file: KnownFile): boolean =>
    used.has(file.path) || (file.kind === 'table' && (file.rows?.length ?? 0) > 0);
  return known
    .filter((file) => !done(file))
    .map((file) =>
      problemOf(
        file.path,
        file.kind === 'fields'
          ? new ReadError(
              'the file holds fields without a mesh, and no mesh they could belong to is there',
              'whole file',
              'Bring it in together with the file of its mesh.',
            )
          : new ReadError('no run takes this file', 'whole file', 'Bring it in by itself.'),
      ),
    );
}

/**
 * Who is to blame when a run cannot be read: the files that cannot be read by themselves either, or, where each can,
 * the run as a whole.
 */
export async function blamed(
  name: string,
  files: string[],
  opener: FileOpener,
  error: unknown,
): Promise<FileProblem[]> {
  const out: FileProblem[] = [];
  for (const file of new Set(files)) {
    const own = await whyUnreadable(opener, file);
    if (own) out.push(problemOf(file, own));
  }
  return out.length > 0 ? out : [problemOf(files.length === 1 ? files[0] : name, error)];
}

const isFile = (path: string): boolean => existsSync(path) && statSync(path).isFile();

/** The format of tables, of which some list the files of runs. */
const TABLE = 'table';

/** Files that are brought in along with one that names them. */
function filesListedIn(opened: Opened): string[] {
  if (opened.kind === 'collection') return opened.entries.map(({ file }) => file);
  if (opened.kind === 'table' && opened.guess.as === 'runs')
    return (opened.runRows?.() ?? []).map(({ file }) => file);
  return [];
}

const listFormats = new Set(['pvd', 'vtk-parallel', 'vtm', 'series']);

const outside = (name: string): ReadError =>
  new ReadError('the file lies outside the folders the server may read', name, 'Move it there.');

async function formatOf(path: string, name: string): Promise<FileFormat> {
  const head = await readHead(path);
  if (head.length === 0) throw new ReadError('the file is empty', 'byte 0', 'Copy or write it again.');
  return detectFormat(head, name);
}

/** Opens what must be opened to plan runs, and leaves out what belongs to another file. */
async function knowFiles(
  formats: Map<string, FileFormat>,
  opener: FileOpener,
  collections: Map<string, OpenedCollection>,
  problems: FileProblem[],
): Promise<KnownFile[]> {
  const known: KnownFile[] = [];
  const used = new Set<string>();
  const companions: [string, string][] = [];
  const troubles: FileProblem[] = [];
  for (const [name, format] of formats) {
    if (collections.has(name) || listFormats.has(format.id)) continue;
    if (format.companion) {
      companions.push([name, format.companion]);
      continue;
    }
    if (!format.manySteps) {
      known.push({ path: name, kind: 'run', steps: [null] });
      continue;
    }
    try {
      const opened = await opener.open(name);
      const uses = 'uses' in opened ? opened.uses : [];
      for (const file of uses) used.add(normalPath(join(folderName(name), file)));
      if (opened.kind === 'run' || opened.kind === 'fields') {
        known.push({
          path: name,
          kind: opened.kind,
          steps: opened.steps,
          title: opened.kind === 'run' ? opened.title : null,
        });
      } else if (opened.kind === 'table') {
        const rows = opened.guess.as === 'runs' ? opened.runRows?.() : undefined;
        known.push({ path: name, kind: 'table', steps: opened.steps, reading: opened.guess, rows });
      } else if (opened.kind === 'picture')
        known.push({ path: name, kind: 'picture', steps: [null], placed: opened.uses.length > 0 });
    } catch (error) {
      troubles.push(problemOf(name, error));
    }
  }
  // A file that another one reads through needs no reading of its own.
  problems.push(...troubles.filter((t) => !used.has(normalPath(t.file))));
  const whole = known.some((f) => f.title);
  for (const [name, of] of companions) {
    if (used.has(normalPath(name)) || whole) continue;
    problems.push(
      problemOf(name, new ReadError(`the file is only a part of ${of}`, name, `Bring in ${of}.`)),
    );
  }
  return known.filter((f) => !used.has(normalPath(f.path)));
}

async function readHead(path: string): Promise<Uint8Array> {
  const file = await open(path, 'r');
  try {
    const head = new Uint8Array(65536);
    const { bytesRead } = await file.read(head, 0, head.length, 0);
    return head.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

/** Why a file cannot be read, or null when it can. */
async function whyUnreadable(opener: FileOpener, name: string): Promise<unknown> {
  try {
    const opened = await opener.open(name);
    if (opened.kind === 'run') for (const part of opened.parts) part.at(0)?.readMesh();
    return null;
  } catch (error) {
    return error;
  }
}

/** Size and time of change of each file, to tell later whether it is still the same. */
export async function stampsOf(
  base: Pick<FileBase, 'paths'>,
  names: string[],
): Promise<Record<string, string>> {
  const out: Record<string, string> = {};
  for (const name of names) {
    const found = await stat(Object.hasOwn(base.paths, name) ? base.paths[name] : '').catch(() => null);
    if (found?.isFile()) out[name] = `${found.size}-${Math.round(found.mtimeMs)}`;
  }
  return out;
}

/** A file in memory, opened as the disk would be; for tests and small conversions. */
export const openBytes = (bytes: Uint8Array, name = 'file', reading?: TableReading): Promise<Opened> =>
  openSource(
    memorySource(bytes),
    { ...fastTools, name, hierarchy: openHierarchy, beside: () => null, listBeside: () => [] },
    reading,
  );

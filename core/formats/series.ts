import { ReadError } from '../model/read-error.ts';
import { type Arrangement, emptyPlan, type PlannedStep, type RunPlan } from '../model/run-plan.ts';
import type { TableReading } from '../model/table-reading.ts';
import type { CollectionEntry, OpenedCollection } from './format.ts';

/** What planning knows about a file. */
export interface KnownFile {
  path: string;
  kind: 'run' | 'fields' | 'table' | 'picture';
  /** Times of the steps within the file. */
  steps: (number | null)[];
  /** What the run is called when the name of the file tells nothing. */
  title?: string | null;
  /** How a table would be read. */
  reading?: TableReading;
  /** Whether a file beside a picture says where it lies. */
  placed?: boolean;
  /** Of a table of runs: the result file and the parameters of each row. */
  rows?: { file: string; parameters: Record<string, number | string> }[];
}

const slashes = (path: string): string => path.replaceAll('\\', '/');
export const baseName = (path: string): string => slashes(path).split('/').pop() ?? path;
export const folderName = (path: string): string => slashes(path).split('/').slice(0, -1).join('/');
export const stem = (path: string): string => baseName(path).replace(/\.[^.]+$/, '');

/** Every result file of a plan once, in the order of its steps. */
export const filesOfPlan = (plan: RunPlan): string[] => [
  ...new Set([
    ...plan.steps.flatMap((s) => s.files.map((f) => f.path)),
    ...plan.tables,
    ...plan.fieldFiles,
    ...plan.pictures,
  ]),
];

/**
 * Proposes runs from a set of files: collections first, then tables of runs, then numbered names, then single files.
 * Each file goes into one run only.
 *
 * @param collections opened files that list others, by path
 */
export function planRuns(files: KnownFile[], collections: Map<string, OpenedCollection>): RunPlan[] {
  const free = new Map(files.map((f) => [f.path, f]));
  const plans: RunPlan[] = [];
  const listed = new Set<string>();
  for (const [path, c] of collections)
    for (const e of c.entries) {
      const found = findListed(e.file, folderName(path), collections);
      if (found) listed.add(found);
    }
  const collected = new Map<string, RunPlan>();
  for (const [path, collection] of collections) {
    if (!listed.has(path)) collected.set(path, planCollection(path, collection, free, collections));
  }
  const ofTables = files.flatMap((table) => (table.rows ? planTableOfRuns(table, free, collected) : []));
  plans.push(...collected.values(), ...ofTables);
  const loose = [...free.values()];
  const results = loose.filter((f) => f.kind === 'run' || (f.kind === 'table' && f.reading?.as === 'points'));
  plans.push(...planLoose(results));
  for (const table of loose) {
    if (table.kind === 'table' && !results.includes(table)) {
      plans.push({ ...emptyPlan(stem(table.path)), tables: [table.path], reading: table.reading ?? null });
    }
  }
  for (const picture of loose.filter((f) => f.kind === 'picture')) {
    const backdropOf = picture.placed ? onlyRunBeside(picture.path, plans) : null;
    if (backdropOf) backdropOf.pictures.push(picture.path);
    else plans.push({ ...emptyPlan(stem(picture.path)), pictures: [picture.path] });
  }
  joinFieldFiles(
    loose.filter((f) => f.kind === 'fields'),
    plans,
  );
  return plans.filter(
    (p) => p.collection !== null || p.steps.length + p.tables.length + p.pictures.length > 0,
  );
}

/**
 * Files of fields go to the one run with a mesh, or to the one of the same folder. A mesh of one step gets the steps
 * of its fields.
 */
function joinFieldFiles(files: KnownFile[], plans: RunPlan[]): void {
  const withMesh = plans.filter((p) => p.steps.length > 0);
  const targets = new Map<RunPlan, KnownFile[]>();
  for (const file of [...files].sort((a, b) => byNumbers(a.path, b.path))) {
    const target = onlyRunBeside(file.path, withMesh);
    if (target) targets.set(target, [...(targets.get(target) ?? []), file]);
  }
  for (const [plan, list] of targets) {
    list.sort((a, b) => (a.steps[0] ?? 0) - (b.steps[0] ?? 0));
    plan.fieldFiles = list.map((f) => f.path);
    const times = list.length === 1 ? list[0].steps : list.map((f) => f.steps[0] ?? null);
    if (plan.steps.length === 1 && new Set(times).size === times.length && times.length > 1)
      plan.steps = times.map((time) => ({ ...plan.steps[0], time }));
  }
}

/** The one run with a mesh, or the one of the same folder; null where there is none or more than one. */
function onlyRunBeside(path: string, plans: RunPlan[]): RunPlan | null {
  const withMesh = plans.filter((p) => p.steps.length > 0);
  const near = withMesh.filter((p) => folderName(p.steps[0].files[0].path) === folderName(path));
  return withMesh.length === 1 ? withMesh[0] : near.length === 1 ? near[0] : null;
}

const byNumbers = (a: string, b: string): number => a.localeCompare(b, 'en', { numeric: true });

function planCollection(
  path: string,
  collection: OpenedCollection,
  free: Map<string, KnownFile>,
  collections: Map<string, OpenedCollection>,
): RunPlan {
  const warnings = [...collection.findings.list];
  const missing: string[] = [];
  const flat = flatten(path, collection, free, collections, missing);
  const steps = new Map<number | null, PlannedStep>();
  const partFiles = new Map<string, string>();
  for (const { entry, file } of flat) {
    const states = free.get(file)?.steps ?? [null];
    for (const [step, own] of states.entries()) {
      const time = states.length > 1 ? own : entry.time;
      const planned = steps.get(time) ?? { time, files: [] };
      planned.files.push({ path: file, part: entry.part, piece: entry.piece, step });
      steps.set(time, planned);
    }
    if (!partFiles.has(entry.part)) partFiles.set(entry.part, file);
  }
  for (const { file } of flat) free.delete(file);
  if (missing.length > 0) {
    const shown = missing.slice(0, 3).join(', ');
    warnings.push(
      `${missing.length} of ${flat.length + missing.length} files named in the collection are not there: ${shown}${missing.length > 3 ? ' ...' : ''}`,
    );
  }
  const name = stem(path).replace(/\.[^.]+$/, '');
  const single = partFiles.size === 1;
  const ordered = [...steps.values()].sort((a, b) => (a.time ?? 0) - (b.time ?? 0));
  for (const step of ordered) {
    for (const f of step.files) {
      if (f.part === null) continue;
      if (single) f.part = name;
      else if (/^\d+$/.test(f.part)) {
        f.part = stem(partFiles.get(f.part)!).replace(/[_\-. ]*\d+$/, '') || `part ${f.part}`;
      }
    }
  }
  const pieces = ordered.some((s) => s.files.some((f) => f.piece !== null));
  return {
    ...emptyPlan(name),
    steps: ordered,
    warnings,
    collection: path,
    arrangement: pieces ? (ordered.length > 1 ? 'steps of pieces' : 'pieces') : 'steps',
  };
}

/** The files a collection leads to, through collections it lists, as deep as eight levels. */
function flatten(
  path: string,
  collection: OpenedCollection,
  free: Map<string, KnownFile>,
  collections: Map<string, OpenedCollection>,
  missing: string[],
  level = 0,
): { entry: CollectionEntry; file: string }[] {
  const out: { entry: CollectionEntry; file: string }[] = [];
  const folder = folderName(path);
  for (const entry of collection.entries) {
    const inner = level < 8 ? findListed(entry.file, folder, collections) : null;
    if (inner && inner !== path) {
      for (const below of flatten(inner, collections.get(inner)!, free, collections, missing, level + 1)) {
        const named = below.entry.part !== '0';
        const part = named
          ? entry.part === '0'
            ? below.entry.part
            : `${entry.part} / ${below.entry.part}`
          : entry.part;
        out.push({
          file: below.file,
          entry: {
            ...below.entry,
            part,
            time: entry.time ?? below.entry.time,
            piece: below.entry.piece ?? entry.piece,
          },
        });
      }
      continue;
    }
    const file = findListed(entry.file, folder, free);
    if (file) out.push({ entry, file });
    else missing.push(entry.file);
  }
  return out;
}

/** Known files by their normal paths and by their names; made once for each set of files. */
interface PathIndex {
  normal: Map<string, string>;
  names: Map<string, string[]>;
}

const indexes = new WeakMap<ReadonlyMap<string, unknown>, PathIndex>();

function indexOf(known: ReadonlyMap<string, unknown>): PathIndex {
  let index = indexes.get(known);
  if (!index) {
    index = { normal: new Map(), names: new Map() };
    for (const path of known.keys()) {
      if (!index.normal.has(normalPath(path))) index.normal.set(normalPath(path), path);
      const same = index.names.get(baseName(path));
      if (same) same.push(path);
      else index.names.set(baseName(path), [path]);
    }
    indexes.set(known, index);
  }
  return index;
}

/**
 * Finds a listed file by its path beside the list, or by its name where that is unique. Files that were taken out of
 * `known` since are not found.
 */
function findListed(file: string, folder: string, known: ReadonlyMap<string, unknown>): string | null {
  const { normal, names } = indexOf(known);
  const beside = normal.get(normalPath(folder ? `${folder}/${file}` : file));
  if (beside !== undefined && known.has(beside)) return beside;
  const same = (names.get(baseName(file)) ?? []).filter((path) => known.has(path));
  return same.length === 1 ? same[0] : null;
}

/** A path without `.` and `..`. */
export function normalPath(path: string): string {
  const out: string[] = [];
  for (const piece of slashes(path).split('/')) {
    if (piece === '..' && out.length > 0 && out[out.length - 1] !== '..') out.pop();
    else if (piece !== '.' && (piece !== '' || out.length === 0)) out.push(piece);
  }
  return out.join('/');
}

/** So many rows of a table are named in what is told of them. */
const SAID_ROWS = 5;

/**
 * What a table of runs asks for and cannot be given, told once for all rows it holds for; the other rows are runs.
 *
 * @param paths of all files there are, those that list others too
 */
export function troublesOfRows(table: KnownFile, paths: readonly string[]): ReadError[] {
  const known = new Map(paths.map((path) => [path, path]));
  const rows = (table.rows ?? []).map(({ file }, i) => ({
    number: i + 1,
    file,
    found: findListed(file, folderName(table.path), known),
  }));
  const taken = new Set<string>();
  const twins = rows.filter(({ found }) => {
    if (!found) return false;
    const isTwin = taken.has(found);
    taken.add(found);
    return isTwin;
  });
  const missing = rows.filter((r) => !r.found);
  const some = (texts: readonly string[]): string =>
    texts.length > SAID_ROWS
      ? `${texts.slice(0, SAID_ROWS).join(', ')} and ${texts.length - SAID_ROWS} more`
      : texts.length > 1
        ? `${texts.slice(0, -1).join(', ')} and ${texts[texts.length - 1]}`
        : texts[0];
  const said = (of: typeof rows): string =>
    `${of.length === 1 ? 'row' : 'rows'} ${some(of.map((r) => String(r.number)))}`;
  const troubles: ReadError[] = [];
  if (missing.length > 0) {
    const is = missing.length === 1 ? 'names a file that is' : 'name files that are';
    troubles.push(
      new ReadError(
        `${said(missing)} ${is} not there: ${some(missing.map((r) => r.file))}`,
        said(missing),
        'Bring those files in together with the table, or correct their names in it.',
      ),
    );
  }
  if (twins.length > 0)
    troubles.push(
      new ReadError(
        `${said(twins)} ${twins.length === 1 ? 'names' : 'name'} a file that an earlier row names already: ${some([...new Set(twins.map((r) => normalPath(r.file)))])}`,
        said(twins),
        'The first row is taken. Correct the others, or take them out.',
      ),
    );
  return troubles;
}

/** @param collected plans of files that list others, by path: a row may name such a file too, and takes it away */
function planTableOfRuns(
  table: KnownFile,
  free: Map<string, KnownFile>,
  collected: Map<string, RunPlan>,
): RunPlan[] {
  const plans: RunPlan[] = [];
  for (const row of table.rows ?? []) {
    const parameters = Object.entries(row.parameters);
    const folder = folderName(table.path);
    const list = findListed(row.file, folder, collected);
    const file = list === null ? findListed(row.file, folder, free) : null;
    if (list !== null) {
      plans.push({ ...collected.get(list)!, parameters });
      collected.delete(list);
    } else if (file !== null) {
      const known = free.get(file)!;
      free.delete(file);
      plans.push({ ...arrange([known], 'steps'), parameters });
    }
  }
  if (plans.length > 0) free.delete(table.path);
  return plans;
}

interface Numbered {
  file: KnownFile;
  numbers: { value: number; digits: string }[];
  key: string;
}

/** Numbers at the end of a name, and of a folder named like a process, from the left. */
function numbered(file: KnownFile): Numbered {
  const name = stem(file.path);
  const match = /^(.*?)((?:[_\-.]?\d+)+)$/.exec(name);
  const numbers = [...(match?.[2] ?? '').matchAll(/\d+(?:\.\d+)?/g)]
    .slice(-2)
    .map((m) => ({ value: Number(m[0]), digits: m[0] }));
  const head = match ? name.slice(0, name.length - tailLength(match[2], numbers.length)) : name;
  return { file, numbers, key: `${folderName(file.path)}/${head.replace(/[_\-. ]+$/, '')}` };
}

function tailLength(tail: string, numbers: number): number {
  const parts = tail.match(/[_\-.]?\d+(?:\.\d+)?/g) ?? [];
  return parts.slice(-numbers).join('').length;
}

function planLoose(files: KnownFile[]): RunPlan[] {
  const plans: RunPlan[] = [];
  const groups = new Map<string, Numbered[]>();
  const divided = new Map<string, KnownFile[]>();
  for (const file of files) {
    const key = file.path.replace(/(^|\/)processors?\d+(?=\/)/, '$1processor');
    if (key !== file.path) divided.set(key, [...(divided.get(key) ?? []), file]);
  }
  for (const list of divided.values()) plans.push(arrange(list, 'pieces'));
  const whole = files.filter((f) => ![...divided.values()].some((list) => list.includes(f)));
  for (const entry of whole.map(numbered)) {
    const key = entry.numbers.length > 0 ? entry.key : entry.file.path;
    groups.set(key, [...(groups.get(key) ?? []), entry]);
  }
  for (const group of groups.values()) {
    if (isMatrix(group))
      plans.push(
        arrange(
          group.map((e) => e.file),
          'steps of pieces',
        ),
      );
    else plans.push(...splitByFirst(group));
  }
  return plans;
}

/** Two numbers in every name that fill a whole table of steps and partitions. */
function isMatrix(group: Numbered[]): boolean {
  if (group.length < 4 || group.some((e) => e.numbers.length < 2)) return false;
  const first = new Set(group.map((e) => e.numbers[0].value));
  const second = new Set(group.map((e) => e.numbers[1].value));
  return first.size > 1 && second.size > 1 && first.size * second.size === group.length;
}

/** Names whose first of two numbers differs are different series: `rack_2_001` does not follow `rack_1_009`. */
function splitByFirst(group: Numbered[]): RunPlan[] {
  const series = new Map<string, KnownFile[]>();
  for (const e of group) {
    const key = e.numbers.length > 1 ? e.numbers[0].digits : '';
    series.set(key, [...(series.get(key) ?? []), e.file]);
  }
  return [...series.values()].flatMap((list) =>
    timesRise(list) ? [arrange(list, 'steps')] : list.map((file) => arrange([file], 'steps')),
  );
}

/** Whether files with steps of their own follow each other in time; files that state none are taken to. */
function timesRise(files: KnownFile[]): boolean {
  const times = arrange(files, 'steps').steps.map((s) => s.time);
  return times.every((t, i) => i === 0 || t === null || times[i - 1] === null || t > times[i - 1]!);
}

/** The name files have in common, without what counts them. */
function commonName(files: KnownFile[]): string {
  const titled = files.find((f) => f.title)?.title;
  if (titled) return titled;
  if (files.length === 1) return stem(files[0].path);
  const names = files.map((f) => stem(f.path));
  let n = 0;
  while (n < names[0].length && names.every((s) => s[n] === names[0][n])) n++;
  return (
    names[0].slice(0, n).replace(/[_\-. \d]+$/, '') ||
    baseName(folderName(files[0].path)) ||
    stem(files[0].path)
  );
}

/**
 * Puts files together as one run (or, as runs, as the first of them): one after the other in time, side by side as
 * parts, as partitions of one part, or as steps of partitions by the two numbers in their names.
 */
export function arrange(files: KnownFile[], as: Arrangement): RunPlan {
  const list = files.map(numbered);
  const order = (e: Numbered, from: number): number => e.numbers.at(from)?.value ?? 0;
  list.sort((a, b) => order(a, -1) - order(b, -1) || byNumbers(a.file.path, b.file.path));
  const name = commonName(files);
  const plan: RunPlan = {
    ...emptyPlan(name),
    arrangement: as,
    reading: files.find((f) => f.reading)?.reading ?? null,
  };
  const partOf = (file: KnownFile): string | null =>
    file.steps.length > 0 && files.length > 1 ? stem(file.path) : null;
  if (as === 'steps') {
    for (const { file } of list) {
      for (const [step, time] of file.steps.entries())
        plan.steps.push({ time, files: [{ path: file.path, part: null, piece: null, step }] });
    }
    plan.warnings = gaps(list.map((e) => order(e, -1)));
    return plan;
  }
  if (as === 'steps of pieces') {
    list.sort((a, b) => order(a, -2) - order(b, -2) || order(a, -1) - order(b, -1));
    const steps = new Map<number, PlannedStep>();
    for (const e of list) {
      const step = steps.get(order(e, -2)) ?? { time: null, files: [] };
      step.files.push({ path: e.file.path, part: name, piece: order(e, -1), step: 0 });
      steps.set(order(e, -2), step);
    }
    plan.steps = [...steps.values()];
    return plan;
  }
  const longest = Math.max(1, ...files.map((f) => f.steps.length));
  for (let n = 0; n < longest; n++) {
    plan.steps.push({
      time: files.find((f) => f.steps.length > n && f.steps[n] !== null)?.steps[n] ?? null,
      files: list
        .filter(({ file }) => file.steps.length > n || file.steps.length === 1)
        .map(({ file }, i) => ({
          path: file.path,
          part: as === 'pieces' ? name : partOf(file),
          piece: as === 'pieces' ? i : null,
          step: Math.min(n, file.steps.length - 1),
        })),
    });
  }
  return plan;
}

/** How the steps of a plan get their times where the files state none, or against what they state. */
export type TimeChoice =
  | { kind: 'stated' }
  | { kind: 'names' }
  | { kind: 'typed'; start: number; interval: number };

/** The plan with times as chosen; times that stay null are counted when the run is built. */
export function withTimes(plan: RunPlan, choice: TimeChoice): RunPlan {
  if (choice.kind === 'stated') return plan;
  const steps = plan.steps.map((step, i) => {
    if (choice.kind === 'typed') return { ...step, time: choice.start + i * choice.interval };
    return { ...step, time: timeInName(step.files[0].path) ?? step.time };
  });
  return { ...plan, steps };
}

/** The number a name ends with, decimals included: `oven_0.25.vtu` is 0.25. */
export function timeInName(path: string): number | null {
  const match = /(-?\d+(?:\.\d+)?(?:e[-+]?\d+)?)$/i.exec(stem(path).replace(/[_]+(?=[-\d])/g, ' '));
  return match ? Number(match[1]) : null;
}

function gaps(numbers: number[]): string[] {
  if (numbers.length < 3 || !numbers.every(Number.isInteger)) return [];
  const strides = numbers.slice(1).map((n, i) => n - numbers[i]);
  const stride = Math.min(...strides.filter((s) => s > 0));
  const missing: number[] = [];
  for (let i = 0; i < strides.length; i++) {
    for (let n = numbers[i] + stride; n < numbers[i + 1] && missing.length < 100; n += stride)
      missing.push(n);
  }
  if (missing.length === 0 || missing.length > numbers.length) return [];
  return [
    `the numbering has gaps: ${missing.slice(0, 8).join(', ')}${missing.length > 8 ? ' ...' : ''} missing`,
  ];
}

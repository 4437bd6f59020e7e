import type { OpenedCollection } from './format.ts';

/** One file of one part at one step. */
export interface PlannedFile {
  path: string;
  part: string;
}

export interface PlannedStep {
  /** From a collection; null when the files themselves or their order must tell. */
  time: number | null;
  files: PlannedFile[];
}

/** A run proposed from files: which file is which step and part. */
export interface RunPlan {
  name: string;
  steps: PlannedStep[];
  warnings: string[];
  /** Set when a collection file is the source. */
  collection: string | null;
}

const slashes = (path: string): string => path.replaceAll('\\', '/');
const baseName = (path: string): string => slashes(path).split('/').pop() ?? path;
const folderName = (path: string): string => slashes(path).split('/').slice(0, -1).join('/');
const stem = (path: string): string => baseName(path).replace(/\.[^.]+$/, '');

/**
 * Proposes runs from a set of mesh files and collections: collections first, then numbered names, then single
 * files. Each file goes into one run only.
 *
 * @param meshFiles paths of files that hold meshes
 * @param collections opened collections by path
 */
export function planRuns(meshFiles: string[], collections: Map<string, OpenedCollection>): RunPlan[] {
  const free = new Set(meshFiles);
  const plans: RunPlan[] = [];
  for (const [path, collection] of collections) plans.push(planCollection(path, collection, free));
  const numbered = new Map<string, { number: number; digits: string; path: string }[]>();
  for (const path of free) {
    const match = /^(.*?)(\d+)$/.exec(stem(path));
    const key = match ? `${folderName(path)}/${match[1]}` : `${path}`;
    const list = numbered.get(key) ?? [];
    list.push({ number: match ? Number(match[2]) : 0, digits: match?.[2] ?? '', path });
    numbered.set(key, list);
  }
  for (const [key, list] of numbered) {
    list.sort((a, b) => a.number - b.number || a.path.localeCompare(b.path));
    const name = list.length > 1 ? baseName(key).replace(/[_\-. ]+$/, '') || 'run' : stem(list[0].path);
    plans.push({
      name,
      steps: list.map((f) => ({ time: null, files: [{ path: f.path, part: name }] })),
      warnings: gaps(list.map((f) => f.number)),
      collection: null,
    });
  }
  return plans;
}

function planCollection(path: string, collection: OpenedCollection, free: Set<string>): RunPlan {
  const warnings = [...collection.findings.list];
  const folder = folderName(path);
  const steps = new Map<number, PlannedStep>();
  const partFiles = new Map<string, string>();
  const missing: string[] = [];
  for (const entry of collection.entries) {
    const found = resolve(entry.file, folder, free);
    if (!found) {
      missing.push(entry.file);
      continue;
    }
    const step = steps.get(entry.time) ?? { time: entry.time, files: [] };
    step.files.push({ path: found, part: entry.part });
    if (!partFiles.has(entry.part)) partFiles.set(entry.part, found);
    steps.set(entry.time, step);
  }
  for (const step of steps.values()) for (const f of step.files) free.delete(f.path);
  if (missing.length > 0) {
    const shown = missing.slice(0, 3).join(', ');
    warnings.push(
      `${missing.length} of ${collection.entries.length} files named in the collection are not there: ${shown}${missing.length > 3 ? ' ...' : ''}`,
    );
  }
  const name = stem(path);
  const single = partFiles.size === 1;
  const ordered = [...steps.values()].sort((a, b) => a.time! - b.time!);
  for (const step of ordered) {
    for (const f of step.files) {
      if (single) f.part = name;
      else if (/^\d+$/.test(f.part)) {
        f.part = stem(partFiles.get(f.part)!).replace(/[_\-. ]*\d+$/, '') || `part ${f.part}`;
      }
    }
  }
  return { name, steps: ordered, warnings, collection: path };
}

function resolve(file: string, folder: string, free: Set<string>): string | null {
  const direct = folder ? `${folder}/${slashes(file)}` : slashes(file);
  if (free.has(direct)) return direct;
  const normal = normalise(direct);
  for (const path of free) if (normalise(path) === normal) return path;
  const same = [...free].filter((path) => baseName(path) === baseName(file));
  return same.length === 1 ? same[0] : null;
}

function normalise(path: string): string {
  const out: string[] = [];
  for (const piece of slashes(path).split('/')) {
    if (piece === '..' && out.length > 0) out.pop();
    else if (piece !== '.' && piece !== '') out.push(piece);
  }
  return out.join('/');
}

function gaps(numbers: number[]): string[] {
  if (numbers.length < 3) return [];
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

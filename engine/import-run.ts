import type { NumberArray, OpenedMesh, RawMesh } from '#core/formats/format.ts';
import type { PlannedFile, RunPlan } from '#core/formats/series.ts';
import { fieldStatistics, joinFieldStatistics } from '#core/measure/statistics.ts';
import { type Bounds, boundsDiagonal, boundsOf, cellsByType, meshDimension } from '#core/model/mesh.ts';
import { type FileProblem, problemOf } from '#core/model/read-error.ts';
import { guessRole } from '#core/model/roles.ts';
import type { ArrayRef, RunDescription, RunField, RunPart, StoredMesh } from '#core/model/run.ts';
import { fieldKey } from '#core/model/run.ts';

/** Takes arrays and gives each a name made from its content; equal arrays get equal names. */
export interface ArraySink {
  put(data: NumberArray): Promise<ArrayRef>;
}

export interface ImportChoices {
  name?: string;
  timeUnit?: string | null;
  lengthUnit?: string | null;
  /** Units set by hand, by field key. */
  units?: Record<string, string | null>;
}

export interface ImportHost {
  open(path: string): Promise<OpenedMesh>;
  sink: ArraySink;
  /** Called with the part of the work done, 0..1. */
  progress?(done: number): void;
  signal?: AbortSignal;
}

export interface ImportResult {
  run: RunDescription;
  /** Files that could not be read; their steps are left out and named in the run's warnings. */
  problems: FileProblem[];
}

/**
 * Reads every file of a planned run once, stores its arrays and describes the run.
 *
 * @throws the first problem when no file at all can be read; an AbortError when cancelled
 */
export async function importRun(
  plan: RunPlan,
  choices: ImportChoices,
  host: ImportHost,
): Promise<ImportResult> {
  const builder = new RunBuilder(plan, choices, host.sink);
  const problems: FileProblem[] = [];
  const total = plan.steps.reduce((n, s) => n + s.files.length, 0);
  let done = 0;
  let firstError: unknown;
  for (const step of plan.steps) {
    let time = step.time;
    const read: { file: PlannedFile; opened: OpenedMesh; mesh: RawMesh }[] = [];
    for (const file of step.files) {
      host.signal?.throwIfAborted();
      try {
        const opened = await host.open(file.path);
        time ??= opened.time;
        read.push({ file, opened, mesh: opened.readMesh() });
      } catch (error) {
        firstError ??= error;
        problems.push(problemOf(file.path, error));
      }
      host.progress?.(++done / total);
    }
    if (read.length === 0) continue;
    const index = builder.beginStep(time);
    for (const { file, opened, mesh } of read) {
      const failed = await builder.addPart(index, file, opened, mesh);
      if (failed) problems.push(failed);
      host.signal?.throwIfAborted();
    }
  }
  if (builder.stepCount === 0) throw firstError ?? new Error('The run has no steps.');
  return { run: builder.finish(problems), problems };
}

class RunBuilder {
  private readonly parts = new Map<string, RunPart>();
  private readonly fields = new Map<string, RunField>();
  private readonly times: (number | null)[] = [];
  private readonly warnings: string[];
  private origin: [number, number, number] | null = null;
  private lengthUnit: string | null = null;
  private timeUnit: string | null = null;

  constructor(
    private readonly plan: RunPlan,
    private readonly choices: ImportChoices,
    private readonly sink: ArraySink,
  ) {
    this.warnings = [...plan.warnings];
  }

  get stepCount(): number {
    return this.times.length;
  }

  beginStep(time: number | null): number {
    this.times.push(time);
    for (const part of this.parts.values()) part.steps.push(null);
    for (const field of this.fields.values()) field.perStep.push(null);
    return this.times.length - 1;
  }

  /** Adds what one file holds; returns the problem when one of its fields is damaged. */
  async addPart(
    step: number,
    file: PlannedFile,
    opened: OpenedMesh,
    raw: RawMesh,
  ): Promise<FileProblem | null> {
    let part = this.parts.get(file.part);
    if (!part) {
      part = { name: file.part, kind: 'mesh', meshes: [], steps: this.times.map(() => null) };
      this.parts.set(file.part, part);
    }
    const mesh = await this.storeMesh(part, raw);
    const fields: Record<string, ArrayRef> = {};
    let problem: FileProblem | null = null;
    for (let i = 0; i < opened.fields.length; i++) {
      const header = opened.fields[i];
      try {
        const data = opened.readField(i);
        const key = fieldKey(header.location, header.name);
        if (!this.noteField(step, key, header, data)) continue;
        fields[key] = await this.sink.put(data);
      } catch (error) {
        problem ??= problemOf(file.path, error);
      }
    }
    part.steps[step] = { mesh, fields };
    this.lengthUnit ??= opened.lengthUnit;
    this.timeUnit ??= opened.timeUnit;
    for (const finding of opened.findings.list) this.warn(finding);
    return problem;
  }

  finish(problems: FileProblem[]): RunDescription {
    const parts = [...this.parts.values()];
    const steps = this.settleTimes();
    this.noteGaps(parts);
    for (const p of problems) this.warn(`${p.file}: ${p.reason} (${p.where}); left out`);
    return {
      name: this.choices.name?.trim() || this.plan.name,
      dimension: this.dimension(parts),
      origin: this.origin ?? [0, 0, 0],
      timeUnit: this.choices.timeUnit === undefined ? this.timeUnit : this.choices.timeUnit,
      lengthUnit: this.choices.lengthUnit === undefined ? this.lengthUnit : this.choices.lengthUnit,
      parts,
      steps,
      fields: [...this.fields.values()],
      warnings: this.warnings,
      sources: this.plan.steps.flatMap((s) => s.files.map((f) => f.path)),
    };
  }

  private warn(text: string): void {
    if (!this.warnings.includes(text)) this.warnings.push(text);
  }

  private settleTimes(): { index: number; time: number }[] {
    if (this.times.length > 1 && this.times.every((t) => t === null)) {
      this.warn('the files state no times: steps are counted 0, 1, 2, ...');
    }
    return this.times.map((time, index) => ({ index, time: time ?? index }));
  }

  private dimension(parts: RunPart[]): number {
    const highest = Math.max(...parts.flatMap((p) => p.meshes.map((m) => m.dimension)));
    if (highest !== 2) return highest;
    const all = parts.flatMap((p) => p.meshes.map((m) => m.bounds));
    const size = [0, 2, 4].map(
      (k) => Math.max(...all.map((b) => b[k + 1])) - Math.min(...all.map((b) => b[k])),
    );
    // A curved surface fills space; only a flat one is a 2D result.
    return Math.min(...size) <= 1e-6 * Math.max(...size) ? 2 : 3;
  }

  private noteGaps(parts: RunPart[]): void {
    for (const part of parts) {
      const absent = part.steps.filter((s) => s === null).length;
      if (absent > 0) this.warn(`${part.name} is absent in ${absent} of ${part.steps.length} steps`);
      if (part.meshes.length > 1)
        this.warn(`${part.name} has ${part.meshes.length} different meshes over the steps`);
      for (const field of this.fields.values()) {
        const having = part.steps.filter((s) => s?.fields[field.key]).length;
        const there = part.steps.length - absent;
        if (having > 0 && having < there)
          this.warn(`${field.name} is missing in ${there - having} of ${there} steps of ${part.name}`);
      }
    }
    for (const field of this.fields.values()) {
      const bad = field.overall.components.reduce((n, s) => n + s.nanCount, 0);
      if (bad > 0)
        this.warn(`${field.name} has ${bad} values that are not a number; they are left out of ranges`);
    }
  }

  private async storeMesh(part: RunPart, raw: RawMesh): Promise<number> {
    const bounds = boundsOf(raw.points);
    this.origin ??= chooseOrigin(bounds);
    const stored: StoredMesh = {
      points: await this.sink.put(relativePoints(raw.points, this.origin)),
      types: await this.sink.put(raw.types),
      offsets: await this.sink.put(raw.offsets),
      connectivity: await this.sink.put(raw.connectivity),
      pointCount: raw.points.length / 3,
      cellCount: raw.types.length,
      cellsByType: cellsByType(raw.types),
      dimension: meshDimension(raw.types),
      bounds: Number.isFinite(bounds[0]) ? bounds : [0, 0, 0, 0, 0, 0],
    };
    const known = part.meshes.findIndex((m) => meshKey(m) === meshKey(stored));
    if (known >= 0) return known;
    part.meshes.push(stored);
    return part.meshes.length - 1;
  }

  /** Joins the statistics of a field; false when it contradicts a field of the same name. */
  private noteField(
    step: number,
    key: string,
    header: OpenedMesh['fields'][number],
    data: NumberArray,
  ): boolean {
    const stats = fieldStatistics(data, header.components);
    let field = this.fields.get(key);
    if (!field) {
      field = {
        key,
        ...header,
        unit: this.choices.units && key in this.choices.units ? this.choices.units[key] : header.unit,
        role: guessRole(header.name, header.components),
        perStep: this.times.map(() => null),
        overall: stats,
      };
      this.fields.set(key, field);
    } else {
      if (field.components !== header.components) {
        this.warn(
          `${header.name} changes from ${field.components} to ${header.components} components; the changed steps are left out`,
        );
        return false;
      }
      field.overall = joinFieldStatistics(field.overall, stats);
    }
    const before = field.perStep[step];
    field.perStep[step] = before ? joinFieldStatistics(before, stats) : stats;
    return true;
  }
}

export const meshKey = (m: StoredMesh): string =>
  `${m.points.hash}-${m.types.hash}-${m.offsets.hash}-${m.connectivity.hash}`;

/**
 * Far from zero, 32-bit coordinates lose the detail of the model (24 bits of precision): then the middle of the
 * first mesh becomes the origin.
 */
function chooseOrigin(bounds: Bounds): [number, number, number] {
  const diagonal = boundsDiagonal(bounds);
  const far = Math.max(...bounds.map(Math.abs));
  if (!Number.isFinite(far) || far <= 100 * diagonal) return [0, 0, 0];
  return [(bounds[0] + bounds[1]) / 2, (bounds[2] + bounds[3]) / 2, (bounds[4] + bounds[5]) / 2];
}

function relativePoints(points: Float32Array | Float64Array, origin: readonly number[]): Float32Array {
  if (points instanceof Float32Array && origin.every((v) => v === 0)) return points;
  const out = new Float32Array(points.length);
  for (let i = 0; i < points.length; i++) out[i] = points[i] - origin[i % 3];
  return out;
}

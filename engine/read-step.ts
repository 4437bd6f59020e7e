import { Findings } from '#core/formats/door/findings.ts';
import { joinComponents } from '#core/formats/door/join-components.ts';
import { wholeMesh } from '#core/formats/door/join-pieces.ts';
import type { OpenedFields, OpenedMesh, OpenedRun, RawMesh, StepName } from '#core/formats/format.ts';
import type { NumberArray } from '#core/model/arrays.ts';
import type { FieldHeader } from '#core/model/field.ts';
import { type Bounds, boundsDiagonal, boundsOf, cellsByType, meshDimension } from '#core/model/mesh.ts';
import { type FileProblem, problemOf } from '#core/model/read-error.ts';
import { guessRole } from '#core/model/roles.ts';
import { absoluteVelocity, fitTurning, type RotatingFrame } from '#core/model/rotating-frame.ts';
import { type ArrayRef, fieldKey, type RunPart, type StoredMesh } from '#core/model/run.ts';
import type { PlannedFile, PlannedStep } from '#core/model/run-plan.ts';
import { type FieldStatistics, fieldStatistics } from '#core/model/statistics.ts';
import { fileProblem, isStoreError } from '#core/model/store-error.ts';
import { unitChange } from '#core/model/units.ts';

/** Takes arrays and gives each a name made from its content; equal arrays get equal names. */
export interface ArraySink {
  put(data: NumberArray): Promise<ArrayRef>;
}

/** What is taken of a step, and what was settled by the steps before. */
export interface StepOptions {
  /** Added to stored coordinates; null lets this step choose it. */
  origin: [number, number, number] | null;
  fields: string[] | null;
  parts: string[] | null;
  frames: Record<string, RotatingFrame>;
  /** Quantities whose components are kept as scalars. */
  apart: readonly string[];
  /** Name of parts that neither the plan nor the file names. */
  name: string;
}

export interface PartRecord {
  name: string;
  kind: RunPart['kind'];
  mesh: StoredMesh;
  fields: { header: FieldHeader; ref: ArrayRef; statistics: FieldStatistics }[];
  groups: { name: string; cells: ArrayRef; count: number }[];
}

/** What reading one step gave; arrays are in the store already. */
export interface StepRecord {
  time: number | null;
  /** What the file says the step is. */
  named: StepName | null;
  origin: [number, number, number];
  parts: PartRecord[];
  leftOut: FieldHeader[];
  lengthUnit: string | null;
  timeUnit: string | null;
  facts: Record<string, number>;
  sets: { name: string; parts: string[] }[];
  findings: string[];
  problems: FileProblem[];
}

export interface StepHost {
  /** Opens a file, or gives the one opened before. */
  open(path: string): Promise<OpenedRun>;
  openFields(path: string): Promise<OpenedFields>;
  sink: ArraySink;
  /** Meshes stored before, by what the file calls the same. */
  meshes: Map<string, StoredMesh>;
}

const emptyRecord = (step: PlannedStep, origin: [number, number, number]): StepRecord => ({
  time: step.time,
  named: null,
  origin,
  parts: [],
  leftOut: [],
  lengthUnit: null,
  timeUnit: null,
  facts: {},
  sets: [],
  findings: [],
  problems: [],
});

/** What is known of a step that could not be read at all. */
export const failedStep = (step: PlannedStep, problem: FileProblem): StepRecord => ({
  ...emptyRecord(step, [0, 0, 0]),
  problems: [problem],
});

/** A mesh whose lengths are in another unit than those of the run. */
function timesFactor(mesh: OpenedMesh, factor: number): OpenedMesh {
  const { meshKey, points, cells, fields } = mesh;
  return {
    points,
    cells,
    fields,
    meshKey: meshKey && `${meshKey} × ${factor}`,
    readMesh: () => {
      const read = mesh.readMesh();
      return { ...read, points: read.points.map((v) => v * factor) };
    },
    readField: (index) => mesh.readField(index),
    ...(mesh.readGroups && { readGroups: () => mesh.readGroups!() }),
  };
}

interface State {
  file: PlannedFile;
  kind: RunPart['kind'];
  mesh: OpenedMesh;
}

/**
 * Reads one step of a plan: opens its files, joins partitions, drops ghost cells, stores meshes and fields.
 * Files that cannot be read are told of in `problems`; the others are taken.
 */
export async function readStep(
  step: PlannedStep,
  fieldFiles: { path: string; step: number }[],
  options: StepOptions,
  host: StepHost,
): Promise<StepRecord> {
  const record = emptyRecord(step, options.origin ?? [0, 0, 0]);
  const states = new Map<string, State[]>();
  const findings = new Findings();
  const runs: OpenedRun[] = [];
  const unitless: string[] = [];
  for (const file of step.files) {
    try {
      const opened = await host.open(file.path);
      runs.push(opened);
      record.time ??= opened.steps[file.step] ?? null;
      record.named ??= opened.stepNames?.[file.step] ?? null;
      const unit = file.lengthUnit ?? opened.lengthUnit;
      if (unit === null) unitless.push(file.part ?? file.path);
      record.lengthUnit ??= unit;
      const factor = unit && record.lengthUnit ? (unitChange(unit, record.lengthUnit)?.factor ?? 1) : 1;
      record.timeUnit ??= opened.timeUnit;
      Object.assign(record.facts, opened.facts);
      record.sets.push(...opened.sets);
      for (const part of opened.parts) {
        const stated = part.at(file.step);
        if (!stated) continue;
        const mesh = factor === 1 ? stated : timesFactor(stated, factor);
        const name = partName(file, part.name, opened.parts.length, options.name);
        if (options.parts && !options.parts.includes(name)) continue;
        states.set(name, [...(states.get(name) ?? []), { file, kind: part.kind, mesh }]);
      }
      for (const finding of opened.findings.list) findings.add(finding);
    } catch (error) {
      record.problems.push(fileProblem(file.path, error));
    }
  }
  if (record.lengthUnit !== null && unitless.length > 0 && unitless.length < step.files.length)
    findings.add(
      `${[...new Set(unitless)].join(', ')}: states no unit of length; taken to be in ${record.lengthUnit} like what it was put together with`,
    );
  const extra = await openFieldFiles(fieldFiles, host, record);
  let origin = options.origin;
  for (const [name, list] of states) {
    const path = list[0].file.path;
    try {
      const pieces = list.map((s) => s.mesh);
      const joined = wholeMesh(pieces, findings);
      const whole = joinComponents(withFields(joined, extra, findings), options.apart);
      const reader = new PartReader(name, list, whole, host, options);
      origin = await reader.chooseOrigin(origin);
      record.parts.push(await reader.read(origin, record, path, findings));
    } catch (error) {
      if (isStoreError(error)) throw error;
      record.problems.push(problemOf(path, await ownTrouble(list, error)));
    }
  }
  record.origin = origin ?? [0, 0, 0];
  for (const { opened } of extra) for (const finding of opened.findings.list) findings.add(finding);
  // Reading has found more in the meantime.
  for (const opened of runs) for (const finding of opened.findings.list) findings.add(finding);
  record.findings = findings.list;
  return record;
}

/** Of several partitions, the trouble of the one that cannot be read by itself. */
async function ownTrouble(list: State[], error: unknown): Promise<unknown> {
  if (list.length === 1) return error;
  for (const { mesh } of list) {
    try {
      mesh.readMesh();
    } catch (own) {
      return own;
    }
  }
  return error;
}

/** The name of a part of a file within the run. */
export function partName(file: PlannedFile, own: string | null, parts: number, run: string): string {
  if (own === null) return file.part ?? run;
  if (file.part === null || (file.piece !== null && parts > 1)) return own;
  return parts > 1 ? `${file.part} / ${own}` : file.part;
}

interface ExtraFields {
  path: string;
  step: number;
  opened: OpenedFields;
}

async function openFieldFiles(
  files: { path: string; step: number }[],
  host: StepHost,
  record: StepRecord,
): Promise<ExtraFields[]> {
  const out: ExtraFields[] = [];
  for (const { path, step } of files) {
    try {
      out.push({ path, step, opened: await host.openFields(path) });
    } catch (error) {
      record.problems.push(fileProblem(path, error));
    }
  }
  return out;
}

/** A mesh with the fields of other files that fit its number of points or cells. */
function withFields(mesh: OpenedMesh, extra: ExtraFields[], findings: Findings): OpenedMesh {
  if (extra.length === 0) return mesh;
  const sources = mesh.fields.map((header, i) => ({ header, read: () => mesh.readField(i) }));
  for (const { path, opened, step } of extra) {
    const state = opened.at(step);
    for (const [i, header] of state.fields.entries()) {
      const size = header.location === 'point' ? state.points : state.cells;
      const own = header.location === 'point' ? mesh.points : mesh.cells;
      if (size > own) {
        findings.add(
          `${path}: ${header.name} has ${size} values for ${own} ${header.location}s and is left out`,
        );
        continue;
      }
      sources.push({ header, read: () => filled(state.readField(i), own * header.components) });
    }
  }
  return {
    get points() {
      return mesh.points;
    },
    get cells() {
      return mesh.cells;
    },
    fields: sources.map((s) => s.header),
    meshKey: mesh.meshKey,
    readMesh: () => mesh.readMesh(),
    readField: (i) => sources[i].read(),
    readGroups: () => mesh.readGroups?.() ?? [],
  };
}

function filled(values: NumberArray, length: number): NumberArray {
  if (values.length === length) return values;
  const out = new Float64Array(length).fill(Number.NaN);
  out.set(values);
  return out;
}

/** Reads one part at one step into the store. */
class PartReader {
  private raw: RawMesh | null = null;

  constructor(
    private readonly name: string,
    private readonly states: State[],
    private readonly mesh: OpenedMesh,
    private readonly host: StepHost,
    private readonly options: StepOptions,
  ) {}

  private rawMesh(): RawMesh {
    this.raw ??= this.mesh.readMesh();
    return this.raw;
  }

  async chooseOrigin(origin: [number, number, number] | null): Promise<[number, number, number]> {
    return origin ?? chooseOrigin(boundsOf(this.rawMesh().points));
  }

  async read(
    origin: [number, number, number],
    record: StepRecord,
    path: string,
    findings: Findings,
  ): Promise<PartRecord> {
    const stored = await this.storeMesh(origin);
    const part: PartRecord = {
      name: this.name,
      kind: this.states[0].kind,
      mesh: stored,
      fields: [],
      groups: [],
    };
    const seen = new Set<string>();
    for (let i = 0; i < this.mesh.fields.length; i++) {
      const header = this.mesh.fields[i];
      const key = fieldKey(header.location, header.name);
      if (seen.has(key)) continue;
      seen.add(key);
      const { frames } = this.options;
      const frame = Object.hasOwn(frames, this.name) ? frames[this.name] : null;
      const absolute =
        frame && isVelocity(header) ? fieldKey(header.location, absoluteName(header.name)) : null;
      const wanted = this.options.fields === null || this.options.fields.includes(key);
      if (!wanted && !(absolute && this.options.fields?.includes(absolute))) {
        record.leftOut.push(header);
        continue;
      }
      try {
        const data = this.mesh.readField(i);
        if (wanted) part.fields.push(await this.stored(header, data));
        else record.leftOut.push(header);
        if (frame && absolute) part.fields.push(await this.absolute(header, data, frame));
        else this.noteTurning(header, data, findings);
      } catch (error) {
        record.problems.push(fileProblem(path, error));
      }
    }
    for (const group of this.mesh.readGroups?.() ?? []) {
      part.groups.push({
        name: group.name,
        cells: await this.host.sink.put(group.cells),
        count: group.cells.length,
      });
    }
    return part;
  }

  private async stored(header: FieldHeader, data: NumberArray): Promise<PartRecord['fields'][number]> {
    return {
      header,
      ref: await this.host.sink.put(data),
      statistics: fieldStatistics(data, header.components),
    };
  }

  private async absolute(header: FieldHeader, data: NumberArray, frame: RotatingFrame) {
    const places = header.location === 'point' ? this.rawMesh().points : cellCentres(this.rawMesh());
    const values = absoluteVelocity(data, places, frame);
    return this.stored({ ...header, name: absoluteName(header.name) }, values);
  }

  private noteTurning(header: FieldHeader, data: NumberArray, findings: Findings): void {
    if (!this.raw || header.location !== 'point' || !isVelocity(header)) return;
    const { share, rate } = fitTurning(data, this.raw.points);
    if (share < 0.6) return;
    findings.add(
      `the ${header.name} of ${this.name} turns as one body (${Math.round(100 * share)} % of it, ${Math.hypot(...rate).toPrecision(3)} rad a unit of time): if it is relative to a rotating frame, state the axis and speed to get the absolute one`,
    );
  }

  private async storeMesh(origin: [number, number, number]): Promise<StoredMesh> {
    const keys = this.states.map((s) =>
      s.mesh.meshKey === null ? null : `${s.file.path}|${this.name}|${s.mesh.meshKey}`,
    );
    const key = keys.includes(null) ? null : `${keys.join('+')}|${origin.join()}`;
    const known = key === null ? undefined : this.host.meshes.get(key);
    if (known) return known;
    const stored = await storeMesh(this.rawMesh(), origin, this.host.sink);
    if (key !== null) this.host.meshes.set(key, stored);
    return stored;
  }
}

const isVelocity = (header: FieldHeader): boolean =>
  header.components === 3 && /velocity/.test(guessRole(header.name, 3));

/** The name of the field that a stated rotating frame adds. */
export const absoluteName = (name: string): string => `${name} (absolute)`;

/** Puts a mesh into the store, its points relative to an origin. */
export async function storeMesh(
  raw: RawMesh,
  origin: readonly number[],
  sink: ArraySink,
): Promise<StoredMesh> {
  const bounds = boundsOf(raw.points);
  return {
    points: await sink.put(relativePoints(raw.points, origin)),
    types: await sink.put(raw.types),
    offsets: await sink.put(raw.offsets),
    connectivity: await sink.put(raw.connectivity),
    faces: raw.polyhedra ? await sink.put(raw.polyhedra.faces) : null,
    faceStarts: raw.polyhedra ? await sink.put(raw.polyhedra.starts) : null,
    pointCount: raw.points.length / 3,
    cellCount: raw.types.length,
    cellsByType: cellsByType(raw.types),
    dimension: meshDimension(raw.types),
    bounds: Number.isFinite(bounds[0]) ? bounds : [0, 0, 0, 0, 0, 0],
  };
}

/** The mean of the nodes of each cell. */
export function cellCentres(mesh: Pick<RawMesh, 'points' | 'offsets' | 'connectivity'>): Float64Array {
  const { points, offsets, connectivity } = mesh;
  const out = new Float64Array(3 * (offsets.length - 1));
  for (let c = 0; c + 1 < offsets.length; c++) {
    const n = offsets[c + 1] - offsets[c] || 1;
    for (let i = offsets[c]; i < offsets[c + 1]; i++) {
      for (let k = 0; k < 3; k++) out[3 * c + k] += points[3 * connectivity[i] + k] / n;
    }
  }
  return out;
}

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

import type { StepName } from '#core/formats/format.ts';
import { filesOfPlan } from '#core/formats/series.ts';
import { cellTypeName } from '#core/model/cell-types.ts';
import { cleanName } from '#core/model/clean-text.ts';
import type { FieldHeader } from '#core/model/field.ts';
import { missingNotes } from '#core/model/missing-notes.ts';
import { type FileProblem, ReadError } from '#core/model/read-error.ts';
import { complexPairs, guessRole } from '#core/model/roles.ts';
import {
  type ArrayRef,
  fieldKey,
  type ImportChoices,
  type PartSet,
  type RunDescription,
  type RunField,
  type RunPart,
  type RunStep,
  type RunTable,
  type StepKind,
  type StoredMesh,
} from '#core/model/run.ts';
import { RUN_VERSION } from '#core/model/run-migrations.ts';
import type { RunPlan } from '#core/model/run-plan.ts';
import { joinFieldStatistics } from '#core/model/statistics.ts';
import type { PartRecord, StepRecord } from './read-step.ts';

export const meshKey = (m: StoredMesh): string =>
  [m.points, m.types, m.offsets, m.connectivity, ...(m.faces ? [m.faces] : [])]
    .map((a) => a.hash)
    .join('-')
    .concat(m.towards ? `-${m.towards.points.hash}*${m.towards.share}` : '');

/** Most notes a run carries. */
const MOST_WARNINGS = 500;

/** Puts the records of steps together, in order, to the description of a run. */
export class RunBuilder {
  private readonly parts = new Map<string, RunPart>();
  private readonly fields = new Map<string, RunField>();
  private readonly sets = new Map<string, PartSet>();
  private readonly leftOut = new Map<string, FieldHeader>();
  private readonly partSets = new Map<string, string[]>();
  private readonly times: (number | null)[] = [];
  private readonly facts: Record<string, number>[] = [];
  private readonly warnings: string[];
  private origin: [number, number, number] | null = null;
  private readonly named: (StepName | null)[] = [];
  private lengthUnit: string | null = null;
  private timeUnit: string | null = null;

  constructor(
    private readonly plan: RunPlan,
    private readonly choices: ImportChoices,
  ) {
    this.warnings = [...plan.warnings];
  }

  get stepCount(): number {
    return this.times.length;
  }

  add(record: StepRecord): void {
    this.origin ??= record.origin;
    this.times.push(record.time);
    this.named.push(record.named);
    this.facts.push(record.facts);
    for (const part of this.parts.values()) part.steps.push(null);
    for (const field of this.fields.values()) field.perStep.push(null);
    for (const part of record.parts) this.addPart(this.times.length - 1, part);
    this.lengthUnit ??= record.lengthUnit;
    this.timeUnit ??= record.timeUnit;
    for (const header of record.leftOut) this.leftOut.set(fieldKey(header.location, header.name), header);
    for (const finding of record.findings) this.warn(finding);
    for (const set of record.sets) this.partSets.set(set.name, set.parts);
  }

  /** Adds a part that stays the same at every step. */
  addSteadyPart(part: Omit<RunPart, 'steps'>): void {
    if (this.times.length === 0) this.times.push(null);
    this.parts.set(part.name, { ...part, steps: this.times.map(() => ({ mesh: 0, fields: {} })) });
  }

  finish(problems: FileProblem[], tables: RunTable[]): RunDescription {
    const parts = [...this.parts.values()];
    const steps = this.settleSteps();
    this.noteGaps(parts);
    for (const p of problems) this.warn(`${p.file}: ${p.reason} (${p.where}); left out`);
    const fields = [...this.fields.values()];
    const pairs = complexPairs(fields);
    for (const field of fields) field.pair = pairs.get(field.key) ?? null;
    const run: RunDescription = {
      version: RUN_VERSION,
      name: cleanName(this.choices.name ?? '', cleanName(this.plan.name, 'run')),
      dimension: this.dimension(parts),
      origin: this.origin ?? [0, 0, 0],
      timeUnit: this.choices.timeUnit === undefined ? this.timeUnit : this.choices.timeUnit,
      lengthUnit: this.choices.lengthUnit === undefined ? this.lengthUnit : this.choices.lengthUnit,
      parts,
      steps,
      fields,
      sets: [...this.setsOfParts(), ...this.sets.values()],
      tables,
      parameters: { ...this.steadyFacts(), ...Object.fromEntries(this.plan.parameters) },
      measured: {},
      warnings: this.warnings,
      notes: [],
      sources: filesOfPlan(this.plan),
      source: null,
    };
    return { ...run, notes: missingNotes(run) };
  }

  /** Sets of whole parts, as far as the parts are there. */
  private setsOfParts(): PartSet[] {
    return [...this.partSets].flatMap(([name, names]) => {
      const parts = names.flatMap((part) => {
        const found = this.parts.get(part);
        return found ? [{ part, cells: null, count: found.meshes[0]?.cellCount ?? 0 }] : [];
      });
      return parts.length > 0 ? [{ name, parts }] : [];
    });
  }

  get fieldsLeftOut(): FieldHeader[] {
    return [...this.leftOut.entries()].filter(([key]) => !this.fields.has(key)).map(([, header]) => header);
  }

  private steadyFacts(): Record<string, number> {
    const out: Record<string, number> = {};
    for (const [name, value] of Object.entries(this.facts[0] ?? {}))
      if (this.facts.every((f) => f[name] === value)) out[name] = value;
    return out;
  }

  private warn(text: string): void {
    if (this.warnings.length < MOST_WARNINGS && !this.warnings.includes(text)) this.warnings.push(text);
  }

  private addPart(step: number, record: PartRecord): void {
    let part = this.parts.get(record.name);
    if (!part) {
      part = {
        name: record.name,
        kind: record.kind,
        meshes: [],
        frame: this.choices.frames?.[record.name] ?? null,
        picture: null,
        steps: this.times.map(() => null),
      };
      this.parts.set(record.name, part);
    }
    let mesh = part.meshes.findIndex((m) => meshKey(m) === meshKey(record.mesh));
    if (mesh < 0) mesh = part.meshes.push(record.mesh) - 1;
    const fields: Record<string, ArrayRef> = {};
    for (const field of record.fields) {
      const key = fieldKey(field.header.location, field.header.name);
      if (this.noteField(step, key, field)) fields[key] = field.ref;
    }
    part.steps[step] = { mesh, fields };
    for (const group of record.groups) {
      const set = this.sets.get(group.name) ?? { name: group.name, parts: [] };
      if (!set.parts.some((p) => p.part === part.name))
        set.parts.push({ part: part.name, cells: group.cells, count: group.count });
      this.sets.set(group.name, set);
    }
  }

  private settleSteps(): RunStep[] {
    const { stepKind } = this.choices;
    const counted = this.times.every((t) => t === null);
    if (counted && this.times.length > 1 && !stepKind)
      this.warn('the files state no times: steps are counted as frames 1, 2, 3, ...');
    const seen = new Map<StepKind, number>();
    const steps = this.times.map((time, index): RunStep => {
      const named = this.named[index];
      const kind = stepKind ?? named?.kind ?? (counted && this.times.length > 1 ? 'frame' : 'time');
      const place = (seen.get(kind) ?? 0) + 1;
      seen.set(kind, place);
      return { index, time: time ?? index, kind, number: (stepKind ? null : named?.number) ?? place };
    });
    const back = steps.findIndex(
      (s, i) => i > 0 && s.kind === 'time' && steps[i - 1].kind === 'time' && !(s.time > steps[i - 1].time),
    );
    if (back > 0) this.refuseTwice(steps[back].time, steps[back - 1].time, back);
    return steps;
  }

  /** Times that run backwards or twice are two runs in one, unless one file states them so itself. */
  private refuseTwice(time: number, before: number, step: number): void {
    const files = new Set(filesOfPlan(this.plan));
    const what = `step ${step + 1} is at t = ${time} behind t = ${before}`;
    if (files.size < 2 || this.plan.collection !== null) {
      this.warn(`the times do not rise: ${what}`);
      return;
    }
    throw new ReadError(
      `the files do not follow each other in time: ${what}`,
      this.plan.name,
      'They may be several runs: say so where they are put together (as runs, as parts), or give them times there.',
    );
  }

  private dimension(parts: RunPart[]): number {
    const meshes = parts.flatMap((p) => p.meshes);
    if (meshes.length === 0) return 0;
    const highest = Math.max(...meshes.map((m) => m.dimension));
    if (highest === 3) return 3;
    const all = meshes.map((m) => m.bounds);
    const size = [0, 2, 4].map(
      (k) => Math.max(...all.map((b) => b[k + 1])) - Math.min(...all.map((b) => b[k])),
    );
    // A curved surface or a cloud of points fills space; only a flat one is a 2D result.
    const flat = Math.min(...size) <= 1e-6 * Math.max(...size);
    if (highest === 2 || parts.some((p) => p.kind !== 'mesh')) return flat ? 2 : 3;
    return highest;
  }

  private noteGaps(parts: RunPart[]): void {
    for (const part of parts) {
      const absent = part.steps.filter((s) => s === null).length;
      if (absent > 0) this.warn(`${part.name} is absent in ${absent} of ${part.steps.length} steps`);
      if (part.meshes.length > 1 && part.kind === 'mesh')
        this.warn(`${part.name} has ${part.meshes.length} different meshes over the steps`);
      if (part.meshes.some((m) => m.cellsByType[cellTypeName(42)]) && part.kind === 'mesh')
        this.warn(`${part.name} has polyhedral cells; they are cut and shown by their faces`);
      for (const field of this.fields.values()) {
        const having = part.steps.filter((s) => s?.fields[field.key]).length;
        const there = part.steps.length - absent;
        if (having > 0 && having < there) {
          const lacking = part.steps.flatMap((s, i) => (s && !s.fields[field.key] ? [i + 1] : []));
          const named = lacking.slice(0, 6).join(', ') + (lacking.length > 6 ? ' ...' : '');
          this.warn(
            `${field.name} is missing in ${there - having} of ${there} steps of ${part.name} (step ${named})`,
          );
        }
      }
    }
    for (const field of this.fields.values()) {
      const bad = field.overall.components.reduce((n, s) => n + s.nanCount, 0);
      if (bad > 0)
        this.warn(`${field.name} has ${bad} values that are not a number; they are left out of ranges`);
    }
  }

  /** Joins the statistics of a field; false when it contradicts a field of the same name. */
  private noteField(
    step: number,
    key: string,
    { header, statistics }: PartRecord['fields'][number],
  ): boolean {
    let field = this.fields.get(key);
    if (!field) {
      const units = this.choices.units;
      field = {
        key,
        ...header,
        unit: units && Object.hasOwn(units, key) ? units[key] : header.unit,
        role: guessRole(header.name, header.components),
        pair: null,
        perStep: this.times.map(() => null),
        overall: statistics,
      };
      this.fields.set(key, field);
    } else {
      if (field.components !== header.components) {
        this.warn(
          `${header.name} changes from ${field.components} to ${header.components} components; the changed steps are left out`,
        );
        return false;
      }
      field.overall = joinFieldStatistics(field.overall, statistics);
    }
    const before = field.perStep[step];
    field.perStep[step] = before ? joinFieldStatistics(before, statistics) : statistics;
    return true;
  }
}

import { missingNotes } from '#core/model/missing-notes.ts';
import type { RunDescription, RunField, RunPart, RunStep } from '#core/model/run.ts';
import { joinFieldStatistics } from '#core/model/statistics.ts';
import { meshKey } from './run-builder.ts';

/**
 * A run with more fields, read from the same steps of the same files. Meshes and fields that are there stay.
 */
export function addFields(run: RunDescription, more: RunDescription): RunDescription {
  const parts = run.parts.map((part): RunPart => {
    const other = more.parts.find((p) => p.name === part.name);
    if (!other) return part;
    return {
      ...part,
      frame: other.frame ?? part.frame,
      steps: part.steps.map((step, i) =>
        step ? { ...step, fields: { ...other.steps[i]?.fields, ...step.fields } } : null,
      ),
    };
  });
  const known = new Set(run.fields.map((f) => f.key));
  return noted({
    ...run,
    parts,
    fields: [...run.fields, ...more.fields.filter((f) => !known.has(f.key))],
    warnings: united(run.warnings, more.warnings),
  });
}

/** What it lacks is told of the whole. */
const noted = (run: RunDescription): RunDescription => ({ ...run, notes: missingNotes(run) });

/** A run with the steps of another behind its own; parts and fields follow by name. */
export function addSteps(run: RunDescription, more: RunDescription): RunDescription {
  const before = run.steps.length;
  const after = more.steps.length;
  const absent = (n: number): null[] => new Array<null>(n).fill(null);
  const names = united(
    run.parts.map((p) => p.name),
    more.parts.map((p) => p.name),
  );
  const parts = names.map((name): RunPart => {
    const old = run.parts.find((p) => p.name === name);
    const added = more.parts.find((p) => p.name === name);
    if (!added) return { ...old!, steps: [...old!.steps, ...absent(after)] };
    const meshes = [...(old?.meshes ?? [])];
    const place = added.meshes.map((mesh) => {
      const known = meshes.findIndex((m) => meshKey(m) === meshKey(mesh));
      return known >= 0 ? known : meshes.push(mesh) - 1;
    });
    const steps = added.steps.map((s) => s && { ...s, mesh: place[s.mesh] });
    return { ...added, ...old, meshes, steps: [...(old?.steps ?? absent(before)), ...steps] };
  });
  const keys = united(
    run.fields.map((f) => f.key),
    more.fields.map((f) => f.key),
  );
  const fields = keys.map((key): RunField => {
    const old = run.fields.find((f) => f.key === key);
    const added = more.fields.find((f) => f.key === key);
    if (!added) return { ...old!, perStep: [...old!.perStep, ...absent(after)] };
    if (!old) return { ...added, perStep: [...absent(before), ...added.perStep] };
    return {
      ...old,
      perStep: [...old.perStep, ...added.perStep],
      overall: joinFieldStatistics(old.overall, added.overall),
    };
  });
  return noted({
    ...run,
    parts,
    fields,
    // Ranges over all steps are asked for anew.
    measured: {},
    shares: {},
    numbers: {},
    steps: joinedSteps(run.steps, more.steps),
    warnings: united(run.warnings, more.warnings),
    sources: united(run.sources, more.sources),
  });
}

/** Steps behind others: those that only have their place in order go on counting. */
function joinedSteps(before: RunStep[], more: RunStep[]): RunStep[] {
  const counted = (list: RunStep[]): boolean => list.every((s) => s.time === s.index);
  const own = counted(before) && counted(more);
  const last = (kind: RunStep['kind']): number =>
    Math.max(0, ...before.filter((s) => s.kind === kind).map((s) => s.number));
  const added = more.map((s, i) => {
    const index = before.length + i;
    // A single step that states no time looks like one at t = 0: it is what those before it are.
    const kind = own ? before[before.length - 1].kind : s.kind;
    return { index, time: own ? index : s.time, kind, number: last(kind) + s.number };
  });
  return [...before, ...added];
}

const united = (a: string[], b: string[]): string[] => [...new Set([...a, ...b])];

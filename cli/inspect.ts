import { resolve } from 'node:path';
import { type InspectedRun, type InspectReport, inspectRun } from '#core/measure/inspect-report.ts';
import { problemOf } from '#core/model/read-error.ts';
import { sayNumber } from '#core/scene/sentence.ts';
import { importRun } from '#engine/import-run.ts';
import { refOf } from '#web/server/array-store.ts';
import { openMesh, understandFiles, whyUnreadable } from '#web/server/reading.ts';

/** Reads every step of the given files; returns the exit code: 1 when something could not be read. */
export async function inspectFiles(files: string[], json: boolean): Promise<number> {
  const report = await inspect(files);
  console.log(json ? JSON.stringify(report, finite, 1) : inWords(report));
  return report.errors.length > 0 || report.runs.length === 0 ? 1 : 0;
}

export async function inspect(files: string[]): Promise<InspectReport> {
  const { plans, paths, problems } = await understandFiles(
    files.map((name) => ({ name, path: resolve(name) })),
    true,
  );
  const report: InspectReport = { runs: [], errors: [...problems] };
  for (const plan of plans) {
    try {
      const { run, problems: found } = await importRun(
        plan,
        {},
        { open: (name) => openMesh(paths[name]), sink: { put: async (data) => refOf(data) } },
      );
      report.runs.push(inspectRun(run));
      report.errors.push(...found);
    } catch (error) {
      for (const { path } of plan.steps.flatMap((s) => s.files)) {
        const own = await whyUnreadable(paths[path]);
        if (own ?? plan.steps.length === 1) report.errors.push(problemOf(path, own ?? error));
      }
    }
  }
  return report;
}

/** JSON has no infinite numbers. */
const finite = (_key: string, value: unknown): unknown =>
  typeof value === 'number' && !Number.isFinite(value) ? null : value;

function inWords(report: InspectReport): string {
  const errors = report.errors.map(
    (e) => `${e.file}: ${e.reason}\n  where: ${e.where}\n  what to do: ${e.remedy}`,
  );
  return [...report.runs.map(runInWords), ...errors].join('\n\n');
}

function runInWords(run: InspectedRun): string {
  const times = run.steps.map((s) => s.time);
  const parts = run.parts.map((p) => {
    const cells = Object.entries(p.cellsByType).map(([type, n]) => `${n} ${type}`);
    return `  part ${p.name}: ${p.points} points, ${cells.join(', ')}`;
  });
  const fields = run.fields.map(
    (f) =>
      `  field ${f.name} on ${f.location}s, ${f.components} component${f.components > 1 ? 's' : ''}${f.unit ? `, ${f.unit}` : ''}: ` +
      (f.min === null
        ? 'no single range'
        : `${sayNumber(f.min)} to ${sayNumber(f.max!)}, mean ${sayNumber(f.mean!)}`),
  );
  const warnings = run.warnings.map((w) => `  note: ${w}`);
  const steps =
    times.length > 1
      ? `${times.length} steps, t = ${sayNumber(times[0])} to ${sayNumber(times[times.length - 1])}`
      : 'one step';
  return [`${run.name}: ${run.dimension}D, ${steps}`, ...parts, ...fields, ...warnings].join('\n');
}

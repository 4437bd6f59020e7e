import { sayNumber } from '#core/language/sentence.ts';
import { type InspectedRun, type InspectReport, inspectRun } from '#core/measure/inspect-report.ts';
import { saySteps } from '#core/motion/step-text.ts';
import { readRuns } from './read-runs.ts';

/** Reads every step of the given files; returns the exit code: 1 when something could not be read. */
export async function inspectFiles(files: string[], json: boolean): Promise<number> {
  const report = await inspect(files);
  console.log(json ? JSON.stringify(report, finite, 1) : inWords(report));
  return report.errors.length > 0 || report.runs.length === 0 ? 1 : 0;
}

export async function inspect(files: string[]): Promise<InspectReport> {
  const { runs, errors } = await readRuns(files);
  return { runs: runs.map(inspectRun), errors };
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
  const parts = run.parts.map((p) => {
    const cells = Object.entries(p.cellsByType).map(([type, n]) => `${n} ${type}`);
    return `  part ${p.name}: ${p.points} points, ${cells.join(', ')}`;
  });
  const fields = run.fields.map(
    (f) =>
      `  field ${f.name} on ${f.location}s, ${f.components} component${f.components > 1 ? 's' : ''}${f.joinedFrom.length > 0 ? ` (${f.joinedFrom.join(', ')})` : ''}${f.unit ? `, ${f.unit}` : ''}: ` +
      (f.min === null
        ? 'no single range'
        : `${sayNumber(f.min)} to ${sayNumber(f.max!)}, mean ${sayNumber(f.mean!)}`),
  );
  const tables = run.tables.flatMap((t) => [
    `  table ${t.name}: ${t.rows} rows of ${t.columns.length} columns${t.time ? ` over ${t.time}` : ''}`,
    ...t.columns.map(
      (c) =>
        `    ${c.name}: ${c.min === null ? 'no numbers' : `${sayNumber(c.min)} to ${sayNumber(c.max!)}`}`,
    ),
  ]);
  const parameters = Object.entries(run.parameters).map(
    ([name, value]) => `  ${name} = ${typeof value === 'number' ? sayNumber(value) : value}`,
  );
  const sets = run.sets.map(
    (s) => `  set ${s.name}: ${s.parts.map((p) => `${p.cells} cells of ${p.part}`).join(', ')}`,
  );
  const warnings = run.warnings.map((w) => `  note: ${w}`);
  const steps = saySteps(run.steps, null);
  const kind = run.parts.length === 0 ? 'a table' : `${run.dimension}D, ${steps}`;
  return [`${run.name}: ${kind}`, ...parts, ...fields, ...sets, ...tables, ...parameters, ...warnings].join(
    '\n',
  );
}

import { sayValue } from '../../language/phrase.ts';
import { sayNumber } from '../../language/sentence.ts';
import { type LineEnd, sayEnd } from '../tracing/trace-line.ts';
import type { OperationReport } from './operation.ts';

/** Counts of several parts as one; a range is where any of them would have given something. */
export function joinReports(reports: readonly OperationReport[]): OperationReport {
  const out: OperationReport = {};
  for (const r of reports) {
    for (const key of ['kept', 'of', 'missing', 'broken'] as const)
      if (r[key] !== undefined) out[key] = (out[key] ?? 0) + r[key];
    out.what ??= r.what;
    out.lacking ??= r.lacking;
    if (r.within) {
      const { low, high } = out.within ?? r.within;
      out.within = { ...r.within, low: Math.min(low, r.within.low), high: Math.max(high, r.within.high) };
    }
    out.coarser ??= r.coarser;
    if (r.landed) out.landed = [...(out.landed ?? []), ...r.landed];
    if (r.lines) out.lines = joinLines(out.lines, r.lines);
    if (r.error && (!out.error || r.error.worst > out.error.worst)) out.error = r.error;
  }
  return out;
}

/** What two operations say of which one works on what the other made: of what is kept twice both are told at once. */
export function followReport(first: OperationReport, then: OperationReport): OperationReport {
  const joined = joinReports([first, then]);
  if (first.kept === undefined || then.kept === undefined) return joined;
  const { kept, of, what } = then;
  if (kept === of) return { ...joined, kept: first.kept, of: first.of, what: first.what };
  return { ...joined, kept, of: of === first.kept ? first.of : of, what };
}

function joinLines(a: OperationReport['lines'], b: NonNullable<OperationReport['lines']>) {
  const ends = { ...a?.ends };
  for (const [end, n] of Object.entries(b.ends) as [LineEnd, number][]) ends[end] = (ends[end] ?? 0) + n;
  return { count: (a?.count ?? 0) + b.count, seeds: (a?.seeds ?? 0) + b.seeds, ends };
}

/** `38 lines from 40 seeds; 2 seeds lie outside. Ends: 30 leave the body, 8 stand still.` */
function sayLines({ count: n, seeds, ends }: NonNullable<OperationReport['lines']>): string[] {
  const outside = ends.outside ?? 0;
  if (n === 0)
    return [
      outside > 0
        ? `${seeds === 1 ? 'Its one seed lies' : `All ${count(seeds)} seeds lie`} outside of what flows. Move seeds into it.`
        : 'The flow stands still at every seed. Move the seeds, or choose another quantity.',
    ];
  const others = (Object.entries(ends) as [LineEnd, number][])
    .filter(([end]) => end !== 'outside')
    .sort((a, b) => b[1] - a[1]);
  const said = others.map(([end, times]) => `${count(times)} where ${sayEnd(end)}`).join(', ');
  return [
    `${count(n)} ${n === 1 ? 'line' : 'lines'} from ${count(seeds)} ${seeds === 1 ? 'seed' : 'seeds'}; ends: ${said}.`,
    ...(ends.gap
      ? [
          'Faces of neighbouring parts do not meet where lines end between them: have the solver write both sides of that interface with the same nodes, or begin lines in each part.',
        ]
      : []),
    ...(outside > 0
      ? [`${count(outside)} ${outside === 1 ? 'seed lies' : 'seeds lie'} outside of what flows.`]
      : []),
  ];
}

/** `Landed: 812 of 1,500 on walls (0.9 per m²), 31 on racks (12 per m²).` */
function sayLanded(landed: NonNullable<OperationReport['landed']>, unit: string | null): string[] {
  const each = landed.map(({ part, count: n, area }) => {
    const density = area > 0 && unit ? ` (${sayNumber(n / area, 3)} per ${unit}²)` : '';
    return `${count(n)} on ${part}${density}`;
  });
  const [{ of }] = landed;
  return [
    `Landed of ${count(of)}: ${each.join(', ')}.`,
    ...(landed.every((l) => l.count === 0)
      ? ['None lies so near to a face: let them count within a larger distance.']
      : []),
  ];
}

const count = (n: number): string => n.toLocaleString('en-GB');

/**
 * What a layer's operations have to say, as short sentences.
 *
 * @param empty whether the layer shows nothing at all
 */
export function sayReport(
  report: OperationReport,
  empty: boolean,
  units: { length: string | null; field: string | null },
): string[] {
  const out: string[] = [];
  const {
    kept,
    of,
    what = 'cells',
    missing,
    broken,
    within,
    error,
    lacking,
    lines,
    coarser,
    landed,
  } = report;
  if (empty) {
    if (within && Number.isFinite(within.low) && within.low <= within.high) {
      const unit = within.unit ? units[within.unit] : null;
      out.push(
        `Nothing to show: choose ${within.of} between ${sayValue(within.low, unit)} and ${sayValue(within.high, unit)}.`,
      );
    } else if (lacking) out.push(`Nothing to show: these parts have no ${lacking}.`);
    else out.push('Nothing to show.');
  }
  if (lines && !lacking) out.push(...sayLines(lines));
  if (landed) out.push(...sayLanded(landed, units.length));
  if (coarser) {
    const [asked, drawn] = [coarser.asked, coarser.drawn].map((size) => sayValue(size, units.length));
    out.push(
      `Drawn in grains of ${drawn}, not ${asked}: so fine there would be too many. Show less of the body.`,
    );
  }
  if (kept !== undefined && of !== undefined) out.push(`Keeps ${count(kept)} of ${count(of)} ${what}.`);
  if (missing) out.push(`${count(missing)} cells without a value are cut away.`);
  if (broken) out.push(`${count(broken)} cells have no volume or are turned inside out.`);
  if (error)
    out.push(
      `On a grid of ${count(error.cells)} cells: differs from the mesh by ${sayNumber(100 * error.mean, 2)} % of the range on average, ${sayNumber(100 * error.worst, 2)} % at worst.`,
    );
  return out;
}

import type { AlongSteps } from '../model/along-steps.ts';
import type { Mark } from '../model/mark.ts';
import { fieldStatistics, joinStatistics, meanOf, type Statistics } from '../model/statistics.ts';

/** What is known of the points of a line at one step. */
export interface PointsAtStep {
  /** Counted from 0. */
  step: number;
  points: number;
  /** Of the quantity they are coloured by, in its own unit; null where they have one colour. */
  values: Statistics | null;
}

/** What is counted, with the words for it. */
export const POINT_FIGURES = [
  { id: 'points', of: ({ points }: PointsAtStep) => points },
  { id: 'sum', of: ({ values }: PointsAtStep) => values?.sum ?? null },
  { id: 'mean', of: ({ values }: PointsAtStep) => (values?.count ? meanOf(values) : null) },
  { id: 'lowest', of: ({ values }: PointsAtStep) => (values?.count ? values.min : null) },
  { id: 'highest', of: ({ values }: PointsAtStep) => (values?.count ? values.max : null) },
] as const;

export type PointFigure = (typeof POINT_FIGURES)[number]['id'];

/** How many lone points marks show. */
export const pointsShown = (marks: readonly Mark[]): number =>
  marks.reduce((sum, mark) => sum + (elementsOf(mark)?.length ?? 0), 0);

/**
 * The points that marks show, dots and spheres alike, and the statistics of their values.
 *
 * @param values for each mark one number a vertex; null where it shows none
 */
export function pointsOfMarks(
  marks: readonly Mark[],
  values: readonly (Float32Array | null)[],
): Pick<PointsAtStep, 'points' | 'values'> {
  let statistics: Statistics | null = null;
  for (const [i, mark] of marks.entries()) {
    const elements = elementsOf(mark);
    const own = values[i];
    if (!elements || !own) continue;
    const [found] = fieldStatistics(
      Float64Array.from(elements, (v) => own[v]),
      1,
    ).components;
    statistics = statistics ? joinStatistics(statistics, found) : found;
  }
  return { points: pointsShown(marks), values: statistics };
}

const elementsOf = (mark: Mark): Uint32Array | null =>
  mark.kind === 'dot' ? mark.dots : mark.kind === 'sphere' ? mark.spheres : null;

/**
 * A table of them for other programs: comma-separated, with a heading.
 *
 * @param quantity name and unit of what they are coloured by; null where they have one colour
 * @param along of all steps of the run
 */
export function pointsCsv(
  rows: readonly PointsAtStep[],
  quantity: { name: string; unit: string | null } | null,
  along: AlongSteps,
): string {
  const withUnit = (name: string, unit: string | null | undefined): string =>
    unit ? `${name} (${unit})` : name;
  const figures = POINT_FIGURES.filter(({ id }) => id === 'points' || quantity !== null);
  const heading = [
    'step',
    ...(along.name === 'step' ? [] : [withUnit(along.name, along.unit)]),
    ...figures.map(({ id }) =>
      id === 'points' ? id : withUnit(`${id} of ${quantity!.name}`, quantity!.unit),
    ),
  ];
  const lines = rows.map((row) => [
    row.step + 1,
    ...(along.name === 'step' ? [] : [along.values[row.step]]),
    ...figures.map(({ of }) => of(row) ?? ''),
  ]);
  return [heading.map(quoted), ...lines].map((line) => `${line.join(',')}\r\n`).join('');
}

/** As RFC 4180 has it. */
const quoted = (text: string): string => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

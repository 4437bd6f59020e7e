import type { PointsReading, TableReading } from '#core/model/table-reading.ts';

/** A first reading of a kind; the columns are chosen from there. */
export function startOf(as: TableReading['as'], columns: { numeric: boolean }[]): TableReading {
  const numeric = columns.flatMap((c, i) => (c.numeric ? [i] : []));
  const text = columns.findIndex((c) => !c.numeric);
  if (as === 'history') return { as, time: numeric[0] ?? 0 };
  if (as === 'runs') return { as, file: text < 0 ? null : text };
  return {
    as,
    x: numeric[0] ?? 0,
    y: numeric[1] ?? 0,
    z: numeric[2] ?? null,
    vectors: [],
    diameter: null,
    step: null,
    id: null,
  };
}

const axes = ['x', 'y', 'z'] as const;
const OTHER = { history: 'quantity', points: 'field', runs: 'parameter' } as const;

const vectorNames = (reading: PointsReading): string[] => [
  ...new Set([...reading.vectors.map((v) => v.name), 'velocity', 'vector']),
];

/** What a column may mean. */
export function meanings(reading: TableReading): string[] {
  if (reading.as === 'history') return ['quantity', 'time'];
  if (reading.as === 'runs') return ['parameter', 'result file'];
  const vectors = vectorNames(reading).flatMap((n) => axes.map((a) => `${n} ${a}`));
  return ['field', ...axes, ...vectors, 'diameter', 'step', 'number'];
}

export function meaningOf(reading: TableReading, column: number): string {
  if (reading.as === 'history') return reading.time === column ? 'time' : OTHER.history;
  if (reading.as === 'runs') return reading.file === column ? 'result file' : OTHER.runs;
  for (const a of axes) if (reading[a] === column) return a;
  for (const v of reading.vectors) {
    const k = v.columns.indexOf(column);
    if (k >= 0) return `${v.name} ${axes[k]}`;
  }
  if (reading.diameter === column) return 'diameter';
  if (reading.step === column) return 'step';
  return reading.id === column ? 'number' : OTHER.points;
}

/** The reading with another meaning of a column; what had that meaning before becomes plain. */
export function withMeaning(reading: TableReading, column: number, meaning: string): TableReading {
  if (reading.as === 'history') return meaning === 'time' ? { ...reading, time: column } : reading;
  if (reading.as === 'runs') return { ...reading, file: meaning === 'result file' ? column : null };
  const next: PointsReading = {
    ...reading,
    vectors: reading.vectors
      .map((v) => ({ ...v, columns: [...v.columns] as (typeof v)['columns'] }))
      // A vector needs its first two components.
      .filter((v) => v.columns[0] !== column && v.columns[1] !== column)
      .map((v) => ({
        ...v,
        columns: [v.columns[0], v.columns[1], v.columns[2] === column ? null : v.columns[2]],
      })),
    diameter: reading.diameter === column ? null : reading.diameter,
    step: reading.step === column ? null : reading.step,
    id: reading.id === column ? null : reading.id,
  };
  if (next.z === column) next.z = null;
  if (meaning === 'x' || meaning === 'y' || meaning === 'z') {
    // The two columns change places where one of the needed axes would be left empty.
    const before = next[meaning];
    for (const a of ['x', 'y'] as const)
      if (a !== meaning && next[a] === column && before !== null) next[a] = before;
    next[meaning] = column;
  } else if (meaning === 'diameter') next.diameter = column;
  else if (meaning === 'step') next.step = column;
  else if (meaning === 'number') next.id = column;
  else if (meaning !== OTHER.points) {
    const axis = axes.indexOf(meaning.slice(-1) as 'x');
    const name = meaning.slice(0, -2);
    const old = next.vectors.find((v) => v.name === name);
    const columns: (typeof next.vectors)[number]['columns'] = old ? [...old.columns] : [column, column, null];
    if (axis === 2) columns[2] = column;
    else columns[axis] = column;
    next.vectors = [...next.vectors.filter((v) => v !== old), { name, columns }];
  }
  return next;
}

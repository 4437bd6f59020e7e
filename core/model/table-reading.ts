/** How the columns of a table are to be understood. Columns are counted from 0. */
export type TableReading = HistoryReading | PointsReading | RunsReading;

/** One quantity after the other over time. */
export interface HistoryReading {
  as: 'history';
  time: number;
}

/** One point, droplet, tracer or atom a row; columns that are not named here become fields by themselves. */
export interface PointsReading {
  as: 'points';
  x: number;
  y: number;
  /** Null for points in a plane. */
  z: number | null;
  vectors: { name: string; columns: [number, number, number | null] }[];
  diameter: number | null;
  /** Rows with equal values here are one step. */
  step: number | null;
  id: number | null;
}

/** One run a row, with its parameters. */
export interface RunsReading {
  as: 'runs';
  /** The column that names the result file of each run. */
  file: number | null;
}

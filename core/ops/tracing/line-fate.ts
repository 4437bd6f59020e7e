import type { LineEnd } from './trace-line.ts';

/** What became of a line. */
export interface LineFate {
  seed: readonly number[];
  /** Where it ends against the flow, and with it; null where it was not followed. */
  back: LineEnd | null;
  ahead: LineEnd | null;
  /** Its points are those from here on, as many as this. */
  first: number;
  points: number;
}

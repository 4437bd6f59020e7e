import { GrowingFloat32, GrowingUint32 } from '../../model/arrays.ts';
import { LINE, VERTEX } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';
import { copyOf, weighted } from '../../model/recipe.ts';
import type { OperationResult } from '../chain/operation.ts';
import type { LineRun } from './line-runs.ts';

/** A line whose points carry a number that grows along it. */
export interface MeasuredRun extends LineRun {
  /** One for each of its points. */
  along: Float64Array;
}

/**
 * Runs in the direction in which a number grows; what it does not know, and where it does not grow, measures the length
 * from the beginning.
 *
 * @param time what grows, at each point of the mesh; null for nothing
 * @param by what is measured
 */
export function measuredRun(
  run: LineRun,
  { points }: Mesh,
  time: ArrayLike<number> | null,
  by: 'time' | 'length',
): MeasuredRun {
  const [first, last] = [run.points[0], run.points[run.points.length - 1]];
  const back = time !== null && time[last] < time[first];
  const list = back ? [...run.points].reverse() : run.points;
  const cells = back ? [...run.cells].reverse() : run.cells;
  const along = new Float64Array(list.length);
  if (by === 'time' && time) for (const [i, p] of list.entries()) along[i] = time[p];
  else
    for (let i = 1; i < list.length; i++) {
      const [a, b] = [3 * list[i - 1], 3 * list[i]];
      along[i] =
        along[i - 1] +
        Math.hypot(points[b] - points[a], points[b + 1] - points[a + 1], points[b + 2] - points[a + 2]);
    }
  return { points: list, cells, along };
}

/** A piece of a line, as its measure tells. */
export interface Piece {
  from: number;
  to: number;
  /** Where it would begin if the line did not begin within it. */
  whole: number;
}

/** Where pieces of a line begin and end: `size` long, one every `every`, from `offset` on; at its ends they are cut off. */
export function piecesAlong(
  { along }: Pick<MeasuredRun, 'along'>,
  { every, size, offset }: { every: number; size: number; offset: number },
): Piece[] {
  const [begin, end] = [along[0], along[along.length - 1]];
  const out: Piece[] = [];
  const last = Math.floor((end - offset) / every);
  for (let k = Math.ceil((begin - offset - size) / every); k <= last; k++) {
    const whole = offset + k * every;
    const from = Math.max(begin, whole);
    const to = Math.min(end, whole + size);
    if (to >= from) out.push({ from, to, whole });
  }
  return out;
}

/** Gathers places on lines, each between two points of the mesh. */
export class PlacesOnLines {
  readonly points = new GrowingFloat32();
  private readonly index = new GrowingUint32();
  private readonly weight = new GrowingFloat32();
  private readonly connectivity = new GrowingUint32();
  private readonly cells = new GrowingUint32();
  /** How far each is between the ends of its piece. */
  readonly share = new GrowingFloat32();

  constructor(private readonly mesh: Mesh) {}

  /** The segment of a run in which a measure lies: its first point. */
  private static at({ along }: MeasuredRun, value: number): number {
    let [low, high] = [0, along.length - 1];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (along[middle] <= value) low = middle;
      else high = middle;
    }
    return low;
  }

  /** Adds a place; gives its number. */
  private place(run: MeasuredRun, value: number, share: number): number {
    const i = PlacesOnLines.at(run, value);
    const gap = run.along[i + 1] - run.along[i];
    const w = gap > 0 ? Math.min(1, Math.max(0, (value - run.along[i]) / gap)) : 0;
    const [a, b] = [run.points[i], run.points[i + 1]];
    const p = this.mesh.points;
    for (let k = 0; k < 3; k++) this.points.push((1 - w) * p[3 * a + k] + w * p[3 * b + k]);
    this.index.push(a);
    this.index.push(b);
    this.weight.push(1 - w);
    this.weight.push(w);
    this.share.push(share);
    return this.share.length - 1;
  }

  /** A lone point on a line. */
  point(run: MeasuredRun, value: number): void {
    this.connectivity.push(this.place(run, value, 1));
    this.cells.push(run.cells[PlacesOnLines.at(run, value)]);
  }

  /**
   * A piece of a line with all the points on the way.
   *
   * @param size of the whole piece
   */
  piece(run: MeasuredRun, { from, to, whole }: Piece, size: number): void {
    const shareAt = (v: number): number => (size > 0 ? (v - whole) / size : 1);
    const first = PlacesOnLines.at(run, from);
    let before = this.place(run, from, shareAt(from));
    const lineTo = (value: number, cell: number): void => {
      const next = this.place(run, value, shareAt(value));
      this.connectivity.push(before);
      this.connectivity.push(next);
      this.cells.push(cell);
      before = next;
    };
    let i = first + 1;
    for (; i < run.along.length && run.along[i] < to; i++)
      if (run.along[i] > from) lineTo(run.along[i], run.cells[i - 1]);
    lineTo(to, run.cells[Math.min(i, run.along.length - 1) - 1]);
  }

  result(of: 'points' | 'lines'): OperationResult {
    const corners = of === 'points' ? 1 : 2;
    const n = this.cells.length;
    return {
      mesh: {
        points: this.points.toArray(),
        types: new Uint8Array(n).fill(of === 'points' ? VERTEX : LINE),
        offsets: Uint32Array.from({ length: n + 1 }, (_, i) => corners * i),
        connectivity: this.connectivity.toArray(),
      },
      recipe: {
        points: weighted(2, this.index.toArray(), this.weight.toArray()),
        cells: copyOf(this.cells.toArray()),
      },
    };
  }
}

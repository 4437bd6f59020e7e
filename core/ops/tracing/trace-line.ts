import { type Asked, type Flow, HERE, NO_VALUE, OUTSIDE } from './flow.ts';

/** Why a line ends where it does. */
export type LineEnd =
  | 'outside'
  | 'left'
  | 'gap'
  | 'length'
  | 'time'
  | 'steps'
  | 'still'
  | 'stuck'
  | 'no value';

const ends: Record<LineEnd, string> = {
  outside: 'its seed lies outside',
  left: 'it leaves the body',
  gap: 'parts leave a gap between them',
  length: 'its length is reached',
  time: 'its time is over',
  steps: 'it has as many steps as a line may have',
  still: 'the flow stands still',
  stuck: 'it comes no farther',
  'no value': 'the flow has no value there',
};

/** In words that follow on "ends because". */
export const sayEnd = (end: LineEnd): string => ends[end];

export interface TraceLimits {
  /** Largest error of a step, in the unit of places. */
  tolerance: number;
  length: number;
  time: number;
  steps: number;
}

export interface TraceStart {
  place: readonly number[];
  time: number;
  /** 1 with the flow, -1 against it. */
  sense: 1 | -1;
}

/** Gets every point of a line; the flow was asked there last. */
export type OnPoint = (x: number, y: number, z: number, time: number, length: number) => void;

/** Dormand, Prince: A family of embedded Runge-Kutta formulae, J. Comp. Appl. Math. 6 (1980) 19, table 2; from memory. */
const C = [0, 1 / 5, 3 / 10, 4 / 5, 8 / 9, 1, 1];
const A = [
  [],
  [1 / 5],
  [3 / 40, 9 / 40],
  [44 / 45, -56 / 15, 32 / 9],
  [19372 / 6561, -25360 / 2187, 64448 / 6561, -212 / 729],
  [9017 / 3168, -355 / 33, 46732 / 5247, 49 / 176, -5103 / 18656],
  [35 / 384, 0, 500 / 1113, 125 / 192, -2187 / 6784, 11 / 84],
].map((row) => Float64Array.from(row));
/** Difference of the orders five and four. */
const E = Float64Array.of(71 / 57600, 0, -71 / 16695, 71 / 1920, -17253 / 339200, 22 / 525, -1 / 40);

/** A line bends no more than this from one point to the next, in radians. */
const BEND = 0.12;
const MOST_BETWEEN = 12;
/** Parts of a cell size: a last step that is shorter ends at the wall. */
const AT_WALL = 0.02;
/** The same: where there is something again so little farther on, faces do not meet that should. Narrower gaps are
 * mostly stepped over. */
const GAPS = [0.05, 0.1, 0.2, 0.3, 0.4];
/** A step leads no farther than so many cell sizes, even where the flow gets faster on the way. */
const FARTHEST = 2;
/** So many steps that lead no farther than this part of a cell size lead nowhere: the flow runs together there from both
 * sides, as along an edge of a wall, or turns in less than can be resolved. */
const NOWHERE = { steps: 200, reach: 0.25 };
/** Points within a step are no closer than this part of a cell size. */
const LEAST_BETWEEN = 0.02;
/** Where nothing moves yet, so many steps are waited at most until it may. */
const FIRST_WAITS = 50;
/** Of the highest speed: below it a flow stands still. */
const STILL = 1e-7;

/**
 * Follows a flow from a place by the method of Dormand and Prince, of order 5(4), with steps as long as the error lets them
 * be and no longer than what is resolved. One tracer serves many lines.
 */
export class LineTracer {
  private readonly slope = Array.from({ length: 7 }, () => new Float64Array(3));
  private readonly place = new Float64Array(3);
  private readonly next = new Float64Array(3);
  private readonly scratch = new Float64Array(3);
  private readonly on = new Float64Array(3);
  /** Where the line was some steps ago. */
  private readonly before = new Float64Array(3);

  constructor(
    private readonly flow: Flow,
    private readonly limits: TraceLimits,
  ) {}

  /** @returns why it ends; the seed itself is its first point unless it lies outside */
  trace({ place: seed, time: begin, sense }: TraceStart, onPoint: OnPoint): LineEnd {
    const { flow, limits, slope, place, next } = this;
    const still = STILL * flow.fastest;
    place.set(seed as number[]);
    let time = begin;
    let length = 0;
    let steps = 0;
    const first = this.ask(place, time, sense, slope[0]);
    if (first !== HERE) return first === OUTSIDE ? 'outside' : 'no value';
    flow.settle?.(place);
    onPoint(place[0], place[1], place[2], time, 0);
    let speed = norm(slope[0]);
    if (!flow.changes && !(speed > still)) return 'still';
    let reach = flow.reach();
    let h = speed > still ? (0.25 * reach) / speed : limits.time / FIRST_WAITS;
    let nearWall = false;
    this.before.set(place);
    let farthest = 0;
    for (;;) {
      if (steps >= limits.steps) return 'steps';
      const left = limits.time - Math.abs(time - begin);
      if (left < Infinity && left <= 1e-9 * limits.time) return 'time';
      const way = limits.length - length;
      if (way < Infinity && way <= 1e-6 * limits.length) return 'length';
      h = Math.min(h, left);
      if (speed > still) h = Math.min(h, way / speed, reach / speed);
      const asked = this.step(place, time, h, sense);
      // Of a flow that begins to move within the step the speed at its begin says nothing.
      const moved = Math.max(
        speed * h,
        Math.hypot(next[0] - place[0], next[1] - place[1], next[2] - place[2]),
      );
      if (asked === HERE && moved > FARTHEST * reach) {
        h *= 0.5;
        continue;
      }
      if (asked !== HERE) {
        h *= 0.5;
        nearWall = true;
        if (moved < AT_WALL * reach)
          return asked === NO_VALUE ? 'no value' : this.isBeforeGap(place, time, reach) ? 'gap' : 'left';
        continue;
      }
      const error = this.error(h);
      if (error > limits.tolerance && moved > 1e-6 * reach) {
        h *= Math.max(0.2, 0.9 * (limits.tolerance / error) ** 0.2);
        continue;
      }
      steps++;
      length += this.between({ time, h, sense, length, reach }, onPoint);
      time += sense * h;
      // The flow was asked elsewhere meanwhile; its answer at the new place is needed by whoever gets the point.
      if (this.ask(next, time, sense, slope[0]) !== HERE) return 'left';
      place.set(next);
      flow.settle?.(place);
      onPoint(place[0], place[1], place[2], time, length);
      speed = norm(slope[0]);
      if (!flow.changes && !(speed > still)) return 'still';
      reach = flow.reach();
      farthest = Math.max(farthest, distance(this.before, place));
      if (!flow.changes && steps % NOWHERE.steps === 0) {
        if (farthest < NOWHERE.reach * reach) return 'stuck';
        this.before.set(place);
        farthest = 0;
      }
      // At a wall a longer step would only be tried in vain.
      if (!nearWall) h *= Math.min(5, 0.9 * (limits.tolerance / Math.max(error, 1e-300)) ** 0.2);
      nearWall = false;
    }
  }

  /**
   * Whether another piece goes on a little farther along: then its face does not meet that of the one that was left. The same
   * piece behind a thin wall or an edge is only met again.
   */
  private isBeforeGap(place: Float64Array, time: number, reach: number): boolean {
    const { flow, next, scratch, slope } = this;
    const speed = norm(slope[0]);
    const pieceAt = (at: Float64Array): number | null =>
      flow.piece && flow.at(at[0], at[1], at[2], time, scratch) === HERE ? flow.piece() : null;
    return GAPS.some((gap) => {
      for (let k = 0; k < 3; k++) next[k] = place[k] + (gap * reach * slope[0][k]) / speed;
      // Pieces of a large mesh take a while to tell: only where there is something ahead.
      const ahead = pieceAt(next);
      if (ahead === null) return false;
      const left = pieceAt(place);
      return left !== null && left !== ahead;
    });
  }

  private ask(at: Float64Array, time: number, sense: 1 | -1, out: Float64Array): Asked {
    const found = this.flow.at(at[0], at[1], at[2], time, out);
    if (sense < 0) {
      out[0] = -out[0];
      out[1] = -out[1];
      out[2] = -out[2];
    }
    return found;
  }

  /** Tries a step: slopes at its stages, and the place it leads to in `next`. */
  private step(from: Float64Array, time: number, h: number, sense: 1 | -1): Asked {
    const { slope, next } = this;
    for (let stage = 1; stage < 7; stage++) {
      const row = A[stage];
      let x = 0;
      let y = 0;
      let z = 0;
      for (let j = 0; j < stage; j++) {
        const a = row[j];
        const k = slope[j];
        x += a * k[0];
        y += a * k[1];
        z += a * k[2];
      }
      next[0] = from[0] + h * x;
      next[1] = from[1] + h * y;
      next[2] = from[2] + h * z;
      const asked = this.ask(next, time + sense * C[stage] * h, sense, slope[stage]);
      if (asked !== HERE) return asked;
    }
    return HERE;
  }

  private error(h: number): number {
    let sum = 0;
    for (let k = 0; k < 3; k++) {
      let e = 0;
      for (let j = 0; j < 7; j++) e += E[j] * this.slope[j][k];
      sum += e * e;
    }
    return h * Math.sqrt(sum);
  }

  /**
   * Points within a step where the line bends, on the cubic through both ends with their slopes (Hermite).
   *
   * @returns the length of the step
   */
  private between({ time, h, sense, length, reach }: StepTaken, onPoint: OnPoint): number {
    const { place, next, scratch, on } = this;
    const [a, b] = [this.slope[0], this.slope[6]];
    const cosine = (a[0] * b[0] + a[1] * b[1] + a[2] * b[2]) / (norm(a) * norm(b));
    const bend = Math.acos(Math.max(-1, Math.min(1, cosine)));
    const room = Math.max(1, distance(place, next) / (LEAST_BETWEEN * reach));
    const pieces = bend > BEND ? Math.min(MOST_BETWEEN, Math.ceil(bend / BEND), Math.ceil(room)) : 1;
    // An arc is longer than its chord.
    const half = bend / pieces / 2;
    const longer = half > 1e-4 ? half / Math.sin(half) : 1;
    let gone = 0;
    let [x, y, z] = place;
    for (let i = 1; i <= pieces; i++) {
      const s = i / pieces;
      const [p0, p1] = [(1 + 2 * s) * (1 - s) * (1 - s), s * s * (3 - 2 * s)];
      const [m0, m1] = [h * s * (1 - s) * (1 - s), h * s * s * (s - 1)];
      const [nx, ny, nz] = [0, 1, 2].map((k) => p0 * place[k] + p1 * next[k] + m0 * a[k] + m1 * b[k]);
      gone += longer * Math.hypot(nx - x, ny - y, nz - z);
      [x, y, z] = [nx, ny, nz];
      const when = time + sense * s * h;
      if (i === pieces || this.flow.at(x, y, z, when, scratch) !== HERE) continue;
      on.set([x, y, z]);
      this.flow.settle?.(on);
      onPoint(on[0], on[1], on[2], when, length + gone);
    }
    return gone;
  }
}

/** A step that is taken: where it begins in time and along the line, how long it is, and the cell size there. */
interface StepTaken {
  time: number;
  h: number;
  sense: 1 | -1;
  length: number;
  reach: number;
}

const distance = (a: Float64Array, b: Float64Array): number =>
  Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2);

const norm = (v: Float64Array): number => Math.sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2]);

import type { Mesh } from '../../model/mesh.ts';
import { PairTable } from '../../model/pair-table.ts';
import { randomNumbers } from '../../model/random-numbers.ts';
import type { FineTriangles } from './fine-triangles.ts';

/** A streak is drawn on for so many times its length, before and behind where it was begun. */
const DRAWN_ON = 3;
/** Where the noise begins; any number does. */
const NOISE = 1993;
/** Triangles a line may go through to one side. */
const MOST_CROSSED = 20_000;
/** Slower than this part of the fastest, it stands still. */
const STILL = 1e-6;
/** Grains lie this many standard deviations to both sides of the middle grey. */
const SPREAD = 1.9;

/**
 * Noise drawn out along the lines of a flow over triangles, one number from 0 to 1 for each point: neighbours along a line
 * are alike, neighbours beside it are not. Half where nothing flows.
 *
 * Method: line integral convolution with a box as kernel (Cabral and Leedom 1993, "Imaging vector fields using line integral
 * convolution"); a line serves all the triangles it goes through (Stalling and Hege 1995, "Fast and resolution independent
 * line integral convolution"), on surfaces of triangles (Battke, Stalling and Hege 1997). Within a triangle the flow is
 * linear, and crossed by the rule of the middle.
 *
 * @param triangles about as large as a grain; what lies at one place is one grain, whichever part it is of
 * @param vectors three numbers for each point; what is across the triangle is left out
 * @param streak length of a streak to both sides, in the unit of the points
 */
export function lineConvolution(
  { mesh, same }: FineTriangles,
  vectors: ArrayLike<number>,
  streak: number,
): Float32Array {
  const noise = Float32Array.from(same, randomNumbers(NOISE));
  const walk = new TriangleWalk(mesh, vectors, same);
  const gathered = new Gathered(mesh, same, noise);
  const done = new Uint8Array(mesh.types.length);
  const [ahead, back, line] = [new Strand(), new Strand(), new Strand()];
  for (let t = 0; t < done.length; t++) {
    if (done[t] > 0) continue;
    walk.follow(t, 1, (DRAWN_ON + 1) * streak, ahead);
    walk.follow(t, -1, (DRAWN_ON + 1) * streak, back);
    line.join(back, ahead);
    gathered.add(line, streak, back.cut, ahead.cut, done);
  }
  return gathered.inGreys();
}

/** Pieces of a line: for each the triangle, how it lies at its middle, and its length. */
class Strand {
  triangles = new Uint32Array(256);
  /** How much the second and the third corner weigh at the middle. */
  shares = new Float64Array(512);
  lengths = new Float64Array(256);
  count = 0;
  /** Whether it would have gone on. */
  cut = false;

  clear(): void {
    this.count = 0;
    this.cut = false;
  }

  push(triangle: number, v: number, w: number, length: number): void {
    if (this.count === this.triangles.length) this.grow();
    const i = this.count++;
    this.triangles[i] = triangle;
    this.shares[2 * i] = v;
    this.shares[2 * i + 1] = w;
    this.lengths[i] = length;
  }

  /** The first one backwards, then the second. */
  join(back: Strand, ahead: Strand): void {
    this.clear();
    for (let i = back.count - 1; i >= 0; i--)
      this.push(back.triangles[i], back.shares[2 * i], back.shares[2 * i + 1], back.lengths[i]);
    for (let i = 0; i < ahead.count; i++)
      this.push(ahead.triangles[i], ahead.shares[2 * i], ahead.shares[2 * i + 1], ahead.lengths[i]);
  }

  private grow(): void {
    const { triangles, shares, lengths } = this;
    this.triangles = new Uint32Array(2 * triangles.length);
    this.triangles.set(triangles);
    this.shares = new Float64Array(2 * shares.length);
    this.shares.set(shares);
    this.lengths = new Float64Array(2 * lengths.length);
    this.lengths.set(lengths);
  }
}

/** Goes over triangles from side to side along a flow that is linear in each. */
class TriangleWalk {
  /** The triangle behind each side, or -1; sides are in the order of the corners they begin at. */
  private readonly beside: Int32Array;
  private readonly still: number;
  /** The triangle it is in. */
  private triangle = 0;
  /** There, the flow at each corner as the second and the third corner gain by it. */
  private readonly flow = new Float64Array(6);
  private readonly way = { v: 0, w: 0, side: 0 };
  private readonly place = { v: 0, w: 0 };

  /** @param same for each point, the first one at its place */
  constructor(
    private readonly mesh: Mesh,
    private readonly vectors: ArrayLike<number>,
    private readonly same: Uint32Array,
  ) {
    this.beside = trianglesBeside(mesh, same);
    let most = 0;
    for (let i = 0; i < vectors.length; i += 3) {
      const squares = vectors[i] ** 2 + vectors[i + 1] ** 2 + vectors[i + 2] ** 2;
      if (squares > most) most = squares;
    }
    this.still = STILL * Math.sqrt(most);
  }

  /** From the middle of a triangle one way, at most so far. */
  follow(triangle: number, sense: 1 | -1, far: number, into: Strand): void {
    into.clear();
    const { place, beside } = this;
    place.v = 1 / 3;
    place.w = 1 / 3;
    let t = triangle;
    let gone = 0;
    let turned = 0;
    for (let crossed = 0; crossed < MOST_CROSSED; crossed++) {
      if (!this.enter(t) || !this.leave(place.v, place.w, sense)) return;
      // Once more with the flow at the middle of that way.
      this.leave(place.v + 0.5 * this.way.v, place.w + 0.5 * this.way.w, sense);
      const { v, w, side } = this.way;
      const length = this.lengthOf(v, w);
      // Where two triangles lead into the side between them, it ends.
      turned = length > 0 ? 0 : turned + 1;
      if (turned > 2) return;
      into.push(t, place.v + 0.5 * v, place.w + 0.5 * w, length);
      gone += length;
      if (gone >= far) {
        into.cut = true;
        return;
      }
      const next = beside[3 * t + side];
      if (next < 0) return;
      place.v += v;
      place.w += w;
      this.cross(t, side, next);
      t = next;
    }
  }

  /** The flow at the corners of a triangle; false where it is not known. */
  private enter(t: number): boolean {
    const { points, connectivity } = this.mesh;
    const { vectors, flow } = this;
    this.triangle = t;
    const a = 3 * connectivity[3 * t];
    const b = 3 * connectivity[3 * t + 1];
    const c = 3 * connectivity[3 * t + 2];
    let bb = 0;
    let bc = 0;
    let cc = 0;
    for (let k = 0; k < 3; k++) {
      const e = points[b + k] - points[a + k];
      const f = points[c + k] - points[a + k];
      bb += e * e;
      bc += e * f;
      cc += f * f;
    }
    const det = bb * cc - bc * bc;
    if (!(det > 0)) return false;
    let known = 0;
    for (let i = 0; i < 3; i++) {
      const corner = i === 0 ? a : i === 1 ? b : c;
      let e = 0;
      let f = 0;
      for (let k = 0; k < 3; k++) {
        e += vectors[corner + k] * (points[b + k] - points[a + k]);
        f += vectors[corner + k] * (points[c + k] - points[a + k]);
      }
      flow[2 * i] = (cc * e - bc * f) / det;
      flow[2 * i + 1] = (bb * f - bc * e) / det;
      known += flow[2 * i] + flow[2 * i + 1];
    }
    return Number.isFinite(known);
  }

  /**
   * Finds the way from where it is to the side through which it leaves, with the flow at a place; false where that stands
   * still.
   */
  private leave(v: number, w: number, sense: 1 | -1): boolean {
    const { flow, way, place } = this;
    const u = 1 - v - w;
    const fv = sense * (u * flow[0] + v * flow[2] + w * flow[4]);
    const fw = sense * (u * flow[1] + v * flow[3] + w * flow[5]);
    if (!(this.lengthOf(fv, fw) > this.still)) return false;
    const fu = -fv - fw;
    // Behind each side lies the place where the corner opposite of it weighs nothing.
    const first = fw < 0 ? Math.max(0, place.w) / -fw : Infinity;
    const second = fu < 0 ? Math.max(0, 1 - place.v - place.w) / -fu : Infinity;
    const third = fv < 0 ? Math.max(0, place.v) / -fv : Infinity;
    const least = Math.min(first, second, third);
    way.side = least === first ? 0 : least === second ? 1 : 2;
    way.v = least * fv;
    way.w = least * fw;
    return true;
  }

  /** The length of a way in the triangle it is in. */
  private lengthOf(v: number, w: number): number {
    const { points, connectivity } = this.mesh;
    const a = 3 * connectivity[3 * this.triangle];
    const b = 3 * connectivity[3 * this.triangle + 1];
    const c = 3 * connectivity[3 * this.triangle + 2];
    let squares = 0;
    for (let k = 0; k < 3; k++) {
      const d = v * (points[b + k] - points[a + k]) + w * (points[c + k] - points[a + k]);
      squares += d * d;
    }
    return Math.sqrt(squares);
  }

  /** A place on a side as the triangle behind it sees it. */
  private cross(from: number, side: number, to: number): void {
    const { place, same, beside } = this;
    const { connectivity } = this.mesh;
    const weights = [1 - place.v - place.w, place.v, place.w];
    const [one, other] = [weights[side], weights[(side + 1) % 3]];
    const all = one + other || 1;
    const start = same[connectivity[3 * from + side]];
    let back = 0;
    while (back < 2 && beside[3 * to + back] !== from) back++;
    const facing = same[connectivity[3 * to + back]] === start;
    const into = [0, 0, 0];
    into[back] = (facing ? one : other) / all;
    into[(back + 1) % 3] = (facing ? other : one) / all;
    place.v = into[1];
    place.w = into[2];
  }
}

/** Behind each side of each triangle the one that shares it, or -1. */
function trianglesBeside({ connectivity }: Mesh, same: Uint32Array): Int32Array {
  const beside = new Int32Array(connectivity.length).fill(-1);
  const sides = new PairTable(connectivity.length);
  const waiting = new Int32Array(connectivity.length).fill(-1);
  for (let i = 0; i < connectivity.length; i++) {
    const t = Math.floor(i / 3);
    const a = same[connectivity[i]];
    const b = same[connectivity[3 * t + ((i + 1) % 3)]];
    const pair = sides.at(Math.min(a, b), Math.max(a, b));
    const other = waiting[pair];
    if (other < 0) waiting[pair] = i;
    // Of more than two that meet, the first two go on in each other.
    else if (beside[other] < 0 && Math.floor(other / 3) !== t) {
      beside[other] = t;
      beside[i] = Math.floor(other / 3);
    }
  }
  return beside;
}

/** What has been gathered of the streaks at each point. */
class Gathered {
  readonly sums: Float64Array;
  readonly weights: Float64Array;

  constructor(
    private readonly mesh: Mesh,
    private readonly same: Uint32Array,
    private readonly noise: Float32Array,
  ) {
    this.sums = new Float64Array(noise.length);
    this.weights = new Float64Array(noise.length);
  }

  private means = new Float64Array(512);

  /**
   * To the points a line passes the mean of the noise along it, as far as a streak reaches to both sides; nothing where
   * that is not known because the line was cut.
   *
   * @param done gets the triangles that were served
   */
  add(line: Strand, streak: number, cutBefore: boolean, cutBehind: boolean, done: Uint8Array): void {
    const { count, lengths, triangles, shares } = line;
    if (this.means.length <= count) this.means = new Float64Array(2 * count);
    const upTo = this.means;
    const { connectivity } = this.mesh;
    let all = 0;
    upTo[0] = 0;
    for (let i = 0; i < count; i++) {
      upTo[i + 1] = upTo[i] + lengths[i] * this.noiseAt(line, i);
      all += lengths[i];
    }
    let [from, to] = [0, 0];
    let [begin, end, middle] = [0, 0, 0];
    for (let i = 0; i < count; i++) {
      middle += 0.5 * lengths[i];
      while (from < i && begin + 0.5 * lengths[from] < middle - streak) begin += lengths[from++];
      while (to < count && end + 0.5 * lengths[to] <= middle + streak) end += lengths[to++];
      const known = !(cutBefore && middle < streak) && !(cutBehind && middle > all - streak);
      if (known && end > begin) {
        const mean = (upTo[to] - upTo[from]) / (end - begin);
        const t = triangles[i];
        done[t] = 1;
        const [v, w] = [shares[2 * i], shares[2 * i + 1]];
        for (let k = 0; k < 3; k++) {
          const weight = Math.max(0, k === 0 ? 1 - v - w : k === 1 ? v : w);
          const point = this.same[connectivity[3 * t + k]];
          this.sums[point] += weight * mean;
          this.weights[point] += weight;
        }
      }
      middle += 0.5 * lengths[i];
    }
  }

  private noiseAt({ triangles, shares }: Strand, i: number): number {
    const { noise, same } = this;
    const { connectivity } = this.mesh;
    const t = 3 * triangles[i];
    const [v, w] = [shares[2 * i], shares[2 * i + 1]];
    return (
      (1 - v - w) * noise[same[connectivity[t]]] +
      v * noise[same[connectivity[t + 1]]] +
      w * noise[same[connectivity[t + 2]]]
    );
  }

  /** From dark to light as they lie around their mean; the middle where nothing was gathered. */
  inGreys(): Float32Array {
    const { sums, weights, same } = this;
    const means = new Float64Array(sums.length);
    let count = 0;
    let sum = 0;
    for (let i = 0; i < sums.length; i++) {
      if (weights[i] === 0) continue;
      means[i] = sums[i] / weights[i];
      sum += means[i];
      count++;
    }
    const mean = sum / Math.max(1, count);
    let squares = 0;
    for (let i = 0; i < sums.length; i++) if (weights[i] > 0) squares += (means[i] - mean) ** 2;
    const deviation = Math.sqrt(squares / Math.max(1, count)) || 1;
    return Float32Array.from(sums, (_, i) => {
      const p = same[i];
      if (weights[p] === 0) return 0.5;
      return Math.min(1, Math.max(0, 0.5 + (means[p] - mean) / (2 * SPREAD * deviation)));
    });
  }
}

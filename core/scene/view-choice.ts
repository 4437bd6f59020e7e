import { add, cross, dot, subtract, times, type Vector } from '../model/vectors.ts';
import { cameraAxes, straight } from './camera.ts';
import type { Layer } from './document.ts';
import type { Camera } from './things/lens.ts';

/** Something that is seen: points a camera must not cut off, and faces for choosing where to stand. */
export interface Body {
  /** Three numbers a point, in the coordinates of the files. */
  positions: Float32Array;
  /** Three points each; none for lines and dots. */
  triangles: Uint32Array;
  /** How much it matters that it is seen. */
  weight: number;
  sides: Layer['sides'];
}

/** The part of a picture that is free for bodies, as shares of its width and height around its middle. */
export interface Room {
  width: number;
  height: number;
}

/** Directions tried, the usual one first: from eight sides, from above. */
const DIRECTIONS: readonly Vector[] = [
  [0.62, -1, 0.5],
  [-0.62, -1, 0.5],
  [1, -0.62, 0.5],
  [-1, -0.62, 0.5],
  [0.62, 1, 0.5],
  [-0.62, 1, 0.5],
  [1, 0.62, 0.5],
  [-1, 0.62, 0.5],
];

/** Another direction must be better than the usual one by this share. */
const BETTER = 1.04;

/**
 * The direction among eight from which most is seen: of every body the share of its faces that nothing hides and that
 * are not seen edge-on, by its weight.
 */
export function bestDirection(bodies: readonly Body[]): Vector {
  const samples = samplesOf(bodies);
  let best = DIRECTIONS[0];
  let most = -Infinity;
  for (const [i, direction] of DIRECTIONS.entries()) {
    const seen = seenFrom(samples, direction) * (i === 0 ? BETTER : 1);
    if (seen > most) [most, best] = [seen, direction];
  }
  return best;
}

/** Places on faces, spread by area, each with the share of its body it stands for. */
interface Samples {
  count: number;
  places: Float32Array;
  normals: Float32Array;
  shares: Float32Array;
  /** 0: both sides are seen; 1: only the one its normal points away from. */
  inside: Uint8Array;
}

/** About so many places in all. */
const SAMPLES = 24_000;

function samplesOf(bodies: readonly Body[]): Samples {
  const faced = bodies.filter((b) => b.triangles.length > 0);
  const each = Math.max(200, Math.floor(SAMPLES / Math.max(1, faced.length)));
  const made = faced.map((body) => sampled(body, each));
  const count = made.reduce((n, m) => n + m.shares.length, 0);
  const out: Samples = {
    count,
    places: new Float32Array(3 * count),
    normals: new Float32Array(3 * count),
    shares: new Float32Array(count),
    inside: new Uint8Array(count),
  };
  let at = 0;
  for (const [i, m] of made.entries()) {
    out.places.set(m.places, 3 * at);
    out.normals.set(m.normals, 3 * at);
    out.shares.set(m.shares, at);
    out.inside.fill(faced[i].sides === 'inside' ? 1 : 0, at, at + m.shares.length);
    at += m.shares.length;
  }
  return out;
}

/** Places at even steps of the area, at random within each triangle but always the same (the golden ratio twice). */
function sampled({ positions: p, triangles, weight }: Body, wanted: number) {
  const n = triangles.length / 3;
  const corner = (t: number, k: number): Vector => {
    const i = 3 * triangles[3 * t + k];
    return [p[i], p[i + 1], p[i + 2]];
  };
  const areas = new Float64Array(n);
  let whole = 0;
  for (let t = 0; t < n; t++) {
    const [nx, ny, nz] = crossOf(corner(t, 0), corner(t, 1), corner(t, 2));
    whole += areas[t] = Math.hypot(nx, ny, nz) / 2;
  }
  const places: number[] = [];
  const normals: number[] = [];
  let sum = 0;
  for (let t = 0; t < n && whole > 0; t++) {
    const before = Math.floor((sum / whole) * wanted);
    sum += areas[t];
    const after = Math.floor((sum / whole) * wanted);
    if (after === before) continue;
    const [a, b, c] = [corner(t, 0), corner(t, 1), corner(t, 2)];
    const normal = times(crossOf(a, b, c), 1 / (2 * areas[t]));
    for (let k = before; k < after; k++) {
      let [u, v] = [(k * 0.7548776662) % 1, (k * 0.5698402909) % 1];
      if (u + v > 1) [u, v] = [1 - u, 1 - v];
      places.push(...add(a, add(times(subtract(b, a), u), times(subtract(c, a), v))));
      normals.push(...normal);
    }
  }
  const count = places.length / 3;
  return {
    places: Float32Array.from(places),
    normals: Float32Array.from(normals),
    shares: new Float32Array(count).fill(weight / Math.max(1, count)),
  };
}

const crossOf = (a: Vector, b: Vector, c: Vector): Vector => cross(subtract(b, a), subtract(c, a));

/** Cells of the grid that tells what hides what, along the longer side. */
const CELLS = 64;

function seenFrom({ count, places, normals, shares, inside }: Samples, direction: Vector): number {
  const { right, up, back } = cameraAxes({ position: direction, target: [0, 0, 0], up: [0, 0, 1] });
  const across = new Float32Array(3 * count);
  const low = [Infinity, Infinity];
  const high = [-Infinity, -Infinity];
  const facing = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const place: Vector = [places[3 * i], places[3 * i + 1], places[3 * i + 2]];
    across[3 * i] = dot(place, right);
    across[3 * i + 1] = dot(place, up);
    across[3 * i + 2] = dot(place, back);
    facing[i] = normals[3 * i] * back[0] + normals[3 * i + 1] * back[1] + normals[3 * i + 2] * back[2];
    // A shell open to the camera neither is seen nor hides anything with the faces that look at it.
    if (inside[i] && facing[i] > 0) continue;
    for (const k of [0, 1]) {
      low[k] = Math.min(low[k], across[3 * i + k]);
      high[k] = Math.max(high[k], across[3 * i + k]);
    }
  }
  const cell = Math.max(high[0] - low[0], high[1] - low[1], 1e-30) / CELLS;
  const nearest = new Float32Array((CELLS + 1) ** 2).fill(-Infinity);
  const cellOf = (i: number): number =>
    Math.floor((across[3 * i + 1] - low[1]) / cell) * (CELLS + 1) +
    Math.floor((across[3 * i] - low[0]) / cell);
  for (let i = 0; i < count; i++) {
    if (inside[i] && facing[i] > 0) continue;
    const c = cellOf(i);
    if (across[3 * i + 2] > nearest[c]) nearest[c] = across[3 * i + 2];
  }
  let seen = 0;
  for (let i = 0; i < count; i++) {
    if (inside[i] && facing[i] > 0) continue;
    const slope = Math.abs(facing[i]);
    // As deep as its own face falls within a cell, and a little more.
    const slack =
      cell * (0.3 + Math.min(6, (1.2 * Math.sqrt(1 - Math.min(1, slope * slope))) / Math.max(slope, 0.05)));
    if (across[3 * i + 2] >= nearest[cellOf(i)] - slack) seen += shares[i] * Math.min(1, 2.5 * slope);
  }
  return seen;
}

/**
 * A camera that looks along a direction and has all points within the room, as near as that allows.
 *
 * @param direction from the bodies to the camera
 * @param aspect width over height of the picture
 */
export function frameBodies(
  bodies: readonly Body[],
  direction: Vector,
  up: Vector,
  aspect: number,
  room: Room,
  keep: Pick<Camera, 'projection' | 'fieldOfView'>,
): Camera {
  const axes = cameraAxes({ position: direction, target: [0, 0, 0], up });
  const tangent = Math.tan((keep.fieldOfView * Math.PI) / 360);
  const parallel = keep.projection === 'parallel';
  // By how much a point nearer to the camera stands out more, to the right and upwards.
  const reach = [room.width * tangent * aspect, room.height * tangent];
  const most = [-Infinity, -Infinity];
  const least = [Infinity, Infinity];
  let [near, far] = [-Infinity, Infinity];
  for (const { positions: p } of bodies)
    for (let i = 0; i < p.length; i += 3) {
      const depth = p[i] * axes.back[0] + p[i + 1] * axes.back[1] + p[i + 2] * axes.back[2];
      if (depth > near) near = depth;
      if (depth < far) far = depth;
      for (let k = 0; k < 2; k++) {
        const axis = k === 0 ? axes.right : axes.up;
        const side = p[i] * axis[0] + p[i + 1] * axis[1] + p[i + 2] * axis[2];
        const lean = parallel ? 0 : reach[k] * depth;
        if (side + lean > most[k]) most[k] = side + lean;
        if (side - lean < least[k]) least[k] = side - lean;
      }
    }
  const size = Math.max(most[0] - least[0], most[1] - least[1], near - far) || 1;
  const middle = (far + near) / 2;
  const centre = [0, 1].map((k) => (most[k] + least[k]) / 2);
  const at = (distance: number): Vector =>
    add(add(times(axes.right, centre[0]), times(axes.up, centre[1])), times(axes.back, distance));
  const shape = { ...straight, up, ...keep };
  if (parallel) {
    const height =
      Math.max((most[0] - least[0]) / (room.width * aspect), (most[1] - least[1]) / room.height) || size;
    return { ...shape, position: at(near + size), target: at(middle), height };
  }
  const distance = Math.max(
    (most[0] - least[0]) / (2 * reach[0]),
    (most[1] - least[1]) / (2 * reach[1]),
    near + 0.02 * size,
  );
  return { ...shape, position: at(distance), target: at(middle), height: 2 * (distance - middle) * tangent };
}

import { outerFaces } from '../../fields/surfaces/outer-faces.ts';
import { polygonNormals } from '../../model/mark-geometry.ts';
import { boundsOf, boundsSize, type Mesh, meshDimension } from '../../model/mesh.ts';
import { dot, unit, type Vector } from '../../model/vectors.ts';
import type { OperationInput } from '../chain/operation.ts';
import { across, onCircle } from '../kernels/around-axis.ts';
import { spreadOverFaces, spreadThrough } from '../kernels/spread-places.ts';
import { besideSeeds, type SeedOptions } from './seed-options.ts';

/**
 * Places where lines begin, relative to the origin of the run; null where a part or a set is needed that is not there.
 *
 * @param flows whether it flows everywhere in a cell; without it in all
 */
export function placedSeeds(
  input: OperationInput,
  o: SeedOptions,
  flows: ((cell: number) => boolean) | null = null,
): Vector[] | null {
  const relative = (v: readonly number[]): Vector => v.map((x, k) => x - input.origin[k]) as Vector;
  const along = unit(o.liftAlong).map((v) => v * o.lift) as Vector;
  const lifted = (places: Vector[]): Vector[] =>
    o.lift === 0 ? places : places.map((p) => p.map((v, k) => v + along[k]) as Vector);
  switch (o.seeds) {
    case 'line':
      return lifted(evenly(o.count, (t) => mixed(relative(o.from), relative(o.to), t)));
    case 'points':
      return lifted(o.places.map(relative));
    case 'circle':
      return lifted(onCircle(relative(o.centre), unit(o.normal), o.radius, o.count));
    case 'grid':
      return lifted(
        onGrid(input.mesh, unit(o.normal), o.offset - dot(unit(o.normal), input.origin), o.count),
      );
    case 'surface':
      return input.dimension === 3
        ? offSurface(input.outer().mesh, o.count, -o.lift)
        : lifted(triples(spreadOverFaces(input.mesh, o.count).places));
    case 'volume':
      return input.dimension === 3
        ? triples(spreadThrough(input.mesh, input.blocks(), o.count, flows))
        : triples(spreadOverFaces(input.mesh, o.count).places);
    case 'part':
    case 'set': {
      const [what] = besideSeeds(o);
      const mesh = input.beside(what);
      if (!mesh || mesh.points.length === 0) return null;
      return meshDimension(mesh.types) < 2
        ? some(mesh, o.count)
        : offSurface(outerFaces(mesh).mesh, o.count, o.lift);
    }
  }
}

const triples = (places: ArrayLike<number>): Vector[] =>
  Array.from({ length: places.length / 3 }, (_, i) => [places[3 * i], places[3 * i + 1], places[3 * i + 2]]);

const mixed = (a: Vector, b: Vector, t: number): Vector => a.map((v, k) => v + t * (b[k] - v)) as Vector;

/** From one end to the other, both included; a single one in the middle. */
const evenly = (count: number, at: (share: number) => Vector): Vector[] =>
  Array.from({ length: count }, (_, i) => at(count === 1 ? 0.5 : i / (count - 1)));

/** A square grid over the box of a body across a direction, with about so many places in the box. */
function onGrid(mesh: Mesh, normal: Vector, offset: number, count: number): Vector[] {
  const bounds = boundsOf(mesh.points);
  const axes = across(normal);
  const spans = axes.map((axis) => {
    let [low, high] = [0, 0];
    for (let k = 0; k < 3; k++) {
      const ends = [axis[k] * bounds[2 * k], axis[k] * bounds[2 * k + 1]];
      low += Math.min(...ends);
      high += Math.max(...ends);
    }
    return [low, high];
  });
  const [width, height] = spans.map(([low, high]) => high - low);
  // A body without height is crossed in a line.
  const flat = Math.min(width, height) < 1e-6 * Math.max(...boundsSize(bounds));
  const gap = flat ? Math.max(width, height) / count : Math.sqrt((width * height) / count);
  const steps = [width, height].map((w) => Math.max(1, Math.round(w / gap)));
  const out: Vector[] = [];
  for (let j = 0; j < steps[1]; j++)
    for (let i = 0; i < steps[0]; i++) {
      const a = spans[0][0] + (width * (i + 0.5)) / steps[0];
      const b = spans[1][0] + (height * (j + 0.5)) / steps[1];
      out.push(normal.map((n, k) => n * offset + a * axes[0][k] + b * axes[1][k]) as Vector);
    }
  return out;
}

/** Evenly over faces, moved along where these look. */
function offSurface(faces: Mesh, count: number, lift: number): Vector[] {
  const { places, cells } = spreadOverFaces(faces, count);
  if (lift === 0) return triples(places);
  const looks = polygonNormals(faces);
  return triples(places).map((p, i) => {
    const n = looks.subarray(3 * cells[i], 3 * cells[i] + 3);
    return p.map((v, k) => v + lift * n[k]) as Vector;
  });
}

/** Of points, and of curves by theirs, as many as are wanted, from all over the list. */
function some({ points }: Mesh, count: number): Vector[] {
  const n = points.length / 3;
  const wanted = Math.min(n, count);
  return Array.from({ length: wanted }, (_, i) => {
    const at = 3 * Math.floor((i * n) / wanted);
    return [points[at], points[at + 1], points[at + 2]];
  });
}

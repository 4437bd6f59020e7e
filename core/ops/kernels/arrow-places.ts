import { cellMeasures } from '../../fields/cell-measures.ts';
import { CellFinder } from '../../fields/places/cell-finder.ts';
import { GrowingFloat32, GrowingUint32 } from '../../model/arrays.ts';
import { polygonNormals } from '../../model/mark-geometry.ts';
import { boundsDiagonal, boundsOf, boundsSize, isFlat, type Mesh } from '../../model/mesh.ts';
import { copyOf, type Gather, outputCount, type Recipe } from '../../model/recipe.ts';
import type { OperationInput } from '../chain/operation.ts';
import { type LineRun, lineRuns } from './line-runs.ts';
import { loneCells, pointsAlone } from './points-alone.ts';
import { spreadOverFaces, spreadThrough } from './spread-places.ts';
import { thinnedOut } from './thin-out.ts';

/** Where arrows stand, before it is known which are drawn. */
export interface ArrowPlaces {
  recipe: Recipe;
  /** Where the faces look that they stand on; null where there are none. */
  normals: Float32Array | null;
  /** Those of a list, as lone points. */
  only(kept: readonly number[]): { mesh: Mesh; recipe: Recipe };
}

export interface ArrowPlacing {
  at: 'evenly' | 'points' | 'cells' | 'grid';
  count: number;
}

/** Places on whatever a mesh is made of: through bodies, over faces, along lines, among points. */
export function placedArrows(
  input: OperationInput,
  { at, count }: ArrowPlacing,
): ArrowPlaces | { lacking: string } {
  const { mesh, dimension } = input;
  if (at === 'points' || at === 'cells') {
    const { mesh: alone, recipe } = pointsAlone(mesh, at);
    return made(input, alone.points, recipe!);
  }
  if (at === 'grid') {
    if (dimension === 3) return found(input, gridIn(mesh, count));
    if (dimension === 2 && isFlat(boundsOf(mesh.points))) return found(input, gridIn(mesh, count));
    return { lacking: 'regular grid on what is not flat: spread them evenly instead' };
  }
  if (dimension === 3) return found(input, spreadThrough(mesh, input.blocks(), count));
  if (dimension === 2) {
    const { places, cells, recipe } = spreadOverFaces(mesh, count);
    return made(input, places, { points: recipe, cells: copyOf(cells) });
  }
  if (dimension === 1) return alongLines(input, count);
  const { mesh: alone, recipe } = pointsAlone(mesh, 'points');
  const bounds = boundsOf(mesh.points);
  const size = boundsSize(bounds);
  const thick = size.filter((s) => s > 1e-6 * boundsDiagonal(bounds));
  const kept = thinnedOut(
    mesh.points,
    Math.min(count, mesh.points.length / 3),
    thick.reduce((a, b) => a * b, 1),
    Math.max(1, thick.length) as 1 | 2 | 3,
  );
  return made(input, picked(alone.points, kept), {
    points: subset(recipe!.points, kept),
    cells: subset(recipe!.cells, kept),
  });
}

function made({ mesh, dimension }: OperationInput, places: Float32Array, recipe: Recipe): ArrowPlaces {
  return {
    recipe,
    normals: dimension === 2 ? picked(polygonNormals(mesh), firstInputs(recipe.cells)) : null,
    only: (kept) => ({
      mesh: loneCells(picked(places, kept)),
      recipe: { points: subset(recipe.points, kept), cells: subset(recipe.cells, kept) },
    }),
  };
}

function picked(places: Float32Array, kept: ArrayLike<number>): Float32Array {
  const out = new Float32Array(3 * kept.length);
  for (let i = 0; i < kept.length; i++) for (let k = 0; k < 3; k++) out[3 * i + k] = places[3 * kept[i] + k];
  return out;
}

/** The first input of each output: of gathers of cells the only one. */
const firstInputs = (gather: Gather): Uint32Array =>
  Uint32Array.from(
    { length: outputCount(gather) },
    (_, i) => gather.index[gather.starts ? gather.starts[i] : i * gather.width],
  );

/** Some outputs of a gather. */
function subset(gather: Gather, kept: ArrayLike<number>): Gather {
  if (kept.length === outputCount(gather)) return gather;
  const { starts, width, index, weight, turn, turns } = gather;
  const range = (v: number): [number, number] =>
    starts ? [starts[v], starts[v + 1]] : [v * width, (v + 1) * width];
  const ends = new Uint32Array(kept.length + 1);
  for (let i = 0; i < kept.length; i++) {
    const [from, to] = range(kept[i]);
    ends[i + 1] = ends[i] + to - from;
  }
  const total = ends[kept.length];
  const out = {
    index: new Uint32Array(total),
    weight: weight && new Float32Array(total),
    turn: turn && new Uint16Array(total),
  };
  for (let i = 0; i < kept.length; i++) {
    const [from, to] = range(kept[i]);
    out.index.set(index.subarray(from, to), ends[i]);
    out.weight?.set(weight!.subarray(from, to), ends[i]);
    out.turn?.set(turn!.subarray(from, to), ends[i]);
  }
  return { ...out, width: starts ? 0 : width, starts: starts ? ends : null, turns };
}

/** Those of places that lie in a cell, with what they come from. */
function found(input: OperationInput, places: Float32Array): ArrowPlaces {
  const finder = new CellFinder(input.mesh, input.blocks());
  const inside = new GrowingFloat32();
  const cells = new GrowingUint32();
  const index = new GrowingUint32();
  const weight = new GrowingFloat32();
  const starts = new GrowingUint32();
  starts.push(0);
  for (let i = 0; i < places.length; i += 3) {
    if (!finder.find(places[i], places[i + 1], places[i + 2])) continue;
    for (let k = 0; k < 3; k++) inside.push(places[i + k]);
    cells.push(finder.cell);
    for (let k = 0; k < finder.count; k++) {
      index.push(finder.nodes[k]);
      weight.push(finder.weights[k]);
    }
    starts.push(index.length);
  }
  const points = {
    ...copyOf(index.toArray()),
    width: 0,
    starts: starts.toArray(),
    weight: weight.toArray(),
  };
  return made(input, inside.toArray(), { points, cells: copyOf(cells.toArray()) });
}

/** A regular grid over the box of a mesh, about as many places in its cells as are wanted. */
function gridIn(mesh: Mesh, count: number): Float32Array {
  const b = boundsOf(mesh.points);
  const size = boundsSize(b);
  const thick = size.map((s) => s > 1e-6 * boundsDiagonal(b));
  const dimension = thick.filter(Boolean).length || 1;
  const extent = cellMeasures(mesh).reduce((sum, v) => sum + Math.abs(v), 0);
  const gap = (extent / count) ** (1 / dimension);
  const n = size.map((s, k) => (thick[k] ? Math.max(1, Math.round(s / gap)) : 1));
  const out = new Float32Array(3 * n[0] * n[1] * n[2]);
  let at = 0;
  for (let k = 0; k < n[2]; k++)
    for (let j = 0; j < n[1]; j++)
      for (let i = 0; i < n[0]; i++)
        for (const [axis, step] of [i, j, k].entries())
          out[at++] = b[2 * axis] + (size[axis] * (step + 0.5)) / n[axis];
  return out;
}

/** So far apart along lines that there are about as many as wanted. */
function alongLines(input: OperationInput, count: number): ArrowPlaces {
  const { points: p } = input.mesh;
  const runs = lineRuns(input.mesh);
  const between = (a: number, b: number): number =>
    Math.hypot(p[3 * a] - p[3 * b], p[3 * a + 1] - p[3 * b + 1], p[3 * a + 2] - p[3 * b + 2]);
  const lengthOf = ({ points }: LineRun): number =>
    points.reduce((sum, b, i) => (i === 0 ? 0 : sum + between(points[i - 1], b)), 0);
  const gap = runs.reduce((sum, run) => sum + lengthOf(run), 0) / count;
  const places: number[] = [];
  const index: number[] = [];
  const weight: number[] = [];
  const cells: number[] = [];
  for (const { points, cells: own } of runs) {
    let next = gap / 2;
    let gone = 0;
    for (let i = 1; i < points.length; i++) {
      const [a, b] = [points[i - 1], points[i]];
      const length = between(a, b);
      for (; length > 0 && next <= gone + length; next += gap) {
        const t = (next - gone) / length;
        index.push(a, b);
        weight.push(1 - t, t);
        cells.push(own[i - 1]);
        for (let k = 0; k < 3; k++) places.push((1 - t) * p[3 * a + k] + t * p[3 * b + k]);
      }
      gone += length;
    }
  }
  const gather = { ...copyOf(Uint32Array.from(index)), width: 2, weight: Float32Array.from(weight) };
  return made(input, Float32Array.from(places), { points: gather, cells: copyOf(Uint32Array.from(cells)) });
}

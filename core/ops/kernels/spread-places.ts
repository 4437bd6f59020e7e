import { cellMeasures } from '../../fields/cell-measures.ts';
import { CellFinder } from '../../fields/places/cell-finder.ts';
import type { CellBlocks } from '../../model/blocks.ts';
import { cellTypeById } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';
import { randomNumbers } from '../../model/random-numbers.ts';
import { type Gather, weighted } from '../../model/recipe.ts';
import { triangleArea } from '../../model/triangle-area.ts';
import { thinnedOut } from './thin-out.ts';

/** Places on a mesh with what they come from. */
export interface SpreadPlaces {
  /** Three numbers each. */
  places: Float32Array;
  /** Cell each lies in. */
  cells: Uint32Array;
  /** From the points of the mesh. */
  recipe: Gather;
}

/** Places tried for each that is kept; more make the spreading no evener. */
const TRIED = 5;
const SEED = 20250101;

/**
 * Places spread evenly over the faces of a mesh; see `thinnedOut`. They depend on the mesh alone, so that they stay from step
 * to step.
 */
export function spreadOverFaces(mesh: Mesh, count: number): SpreadPlaces {
  const { types, offsets, connectivity, points: p } = mesh;
  const corner: number[] = [];
  const cellOf: number[] = [];
  const sums: number[] = [];
  let area = 0;
  for (let c = 0; c < types.length; c++) {
    const type = cellTypeById[types[c]]!;
    if (type.dimension !== 2) continue;
    const loop = type.loop.length > 0 ? type.loop : null;
    const n = type.corners || offsets[c + 1] - offsets[c];
    const node = (k: number): number => connectivity[offsets[c] + (loop ? loop[k] : k)];
    for (let k = 1; k + 1 < n; k++) {
      const nodes = [node(0), node(k), node(k + 1)] as const;
      const a = triangleArea(p, ...nodes);
      if (!(a > 0)) continue;
      area += a;
      corner.push(...nodes);
      cellOf.push(c);
      sums.push(area);
    }
  }
  const random = randomNumbers(SEED);
  const tried = area > 0 ? TRIED * count : 0;
  const places = new Float32Array(3 * tried);
  const nodes = new Uint32Array(3 * tried);
  const weights = new Float32Array(3 * tried);
  const cells = new Uint32Array(tried);
  for (let i = 0; i < tried; i++) {
    // One in every equal share of the area: evener to begin with than by chance alone.
    const t = firstAtLeast(sums, ((i + random()) / tried) * area);
    let [u, v] = [random(), random()];
    if (u + v > 1) [u, v] = [1 - u, 1 - v];
    weights.set([1 - u - v, u, v], 3 * i);
    cells[i] = cellOf[t];
    for (let k = 0; k < 3; k++) {
      const q = corner[3 * t + k];
      nodes[3 * i + k] = q;
      for (let d = 0; d < 3; d++) places[3 * i + d] += weights[3 * i + k] * p[3 * q + d];
    }
  }
  const kept = thinnedOut(places, count, area, 2);
  return {
    places: picked(places, kept, Float32Array),
    cells: Uint32Array.from(kept, (i) => cells[i]),
    recipe: weighted(3, picked(nodes, kept, Uint32Array), picked(weights, kept, Float32Array)),
  };
}

/**
 * Places spread evenly through the volume cells of a mesh, three numbers each.
 *
 * @param usable whether a cell counts; without it all do
 */
export function spreadThrough(
  mesh: Mesh,
  blocks: CellBlocks,
  count: number,
  usable: ((cell: number) => boolean) | null = null,
): Float32Array {
  const volumes = cellMeasures(mesh);
  const sums: number[] = [];
  const cells: number[] = [];
  let volume = 0;
  for (let c = 0; c < volumes.length; c++) {
    if (cellTypeById[mesh.types[c]]!.dimension !== 3 || !(Math.abs(volumes[c]) > 0)) continue;
    if (usable && !usable(c)) continue;
    volume += Math.abs(volumes[c]);
    sums.push(volume);
    cells.push(c);
  }
  const random = randomNumbers(SEED);
  const finder = new CellFinder(mesh, blocks, usable);
  const found: number[] = [];
  const tried = volume > 0 ? TRIED * count : 0;
  for (let i = 0; i < tried; i++) {
    const cell = cells[firstAtLeast(sums, ((i + random()) / tried) * volume)];
    const place = placeInCell(mesh, cell, finder, random);
    if (place) found.push(...place);
  }
  const places = Float32Array.from(found);
  return picked(places, thinnedOut(places, count, volume, 3), Float32Array);
}

/** A place anywhere in a cell; null where it seems to have no inside. */
function placeInCell(mesh: Mesh, cell: number, finder: CellFinder, random: () => number): number[] | null {
  const { points: p, offsets, connectivity } = mesh;
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let i = offsets[cell]; i < offsets[cell + 1]; i++)
    for (let k = 0; k < 3; k++) {
      const v = p[3 * connectivity[i] + k];
      low[k] = Math.min(low[k], v);
      high[k] = Math.max(high[k], v);
    }
  for (let attempt = 0; attempt < 60; attempt++) {
    const [x, y, z] = low.map((v, k) => v + random() * (high[k] - v));
    if (finder.find(x, y, z) && finder.cell === cell) return [x, y, z];
  }
  return null;
}

/** Index of the first of rising numbers that is no less than a value. */
function firstAtLeast(rising: readonly number[], value: number): number {
  let [from, to] = [0, rising.length - 1];
  while (from < to) {
    const middle = (from + to) >> 1;
    if (rising[middle] < value) from = middle + 1;
    else to = middle;
  }
  return from;
}

function picked<A extends Float32Array | Uint32Array>(
  all: A,
  which: Uint32Array,
  Made: { new (length: number): A },
): A {
  const out = new Made(3 * which.length);
  for (let i = 0; i < which.length; i++) for (let k = 0; k < 3; k++) out[3 * i + k] = all[3 * which[i] + k];
  return out;
}

import { cellCount, type Mesh, pointCount } from '../../model/mesh.ts';
import { type Gather, outputCount } from '../../model/recipe.ts';
import type { OperationResult } from '../chain/operation.ts';
import { joinReports } from '../chain/report.ts';

/** Meshes one after the other, nothing merged. */
export function joinMeshes(meshes: Mesh[]): Mesh {
  const sum = (count: (m: Mesh) => number): number => meshes.reduce((n, m) => n + count(m), 0);
  const points = new Float32Array(sum((m) => m.points.length));
  const types = new Uint8Array(sum(cellCount));
  const offsets = new Uint32Array(types.length + 1);
  const connectivity = new Uint32Array(sum((m) => m.connectivity.length));
  const faced = meshes.some((m) => m.polyhedra);
  const faces = new Uint32Array(sum((m) => m.polyhedra?.faces.length ?? 0));
  const starts = new Uint32Array(faced ? types.length + 1 : 0);
  let [p, c, k, f] = [0, 0, 0, 0];
  for (const m of meshes) {
    points.set(m.points, 3 * p);
    types.set(m.types, c);
    for (let i = 0; i < m.connectivity.length; i++) connectivity[k + i] = m.connectivity[i] + p;
    for (let i = 0; i < m.types.length; i++) offsets[c + i + 1] = k + m.offsets[i + 1];
    if (faced) {
      for (let i = 0; i < m.types.length; i++) starts[c + i + 1] = f + (m.polyhedra?.starts[i + 1] ?? 0);
      if (m.polyhedra) f = copyFaces(m.polyhedra.faces, faces, f, p);
    }
    p += pointCount(m);
    c += m.types.length;
    k += m.connectivity.length;
  }
  return { points, types, offsets, connectivity, polyhedra: faced ? { faces, starts } : null };
}

/** Copies lists of faces with their nodes moved up by `shift`; returns where the next one goes. */
function copyFaces(from: Uint32Array, to: Uint32Array, at: number, shift: number): number {
  let out = at;
  for (let i = 0; i < from.length; ) {
    const n = from[i++];
    to[out++] = n;
    for (let k = 0; k < n; k++) to[out++] = from[i++] + shift;
  }
  return out;
}

/** Outputs of several gathers from the same inputs, one after the other. */
export function joinGathers(gathers: Gather[]): Gather {
  const total = gathers.reduce((n, g) => n + g.index.length, 0);
  const starts = new Uint32Array(gathers.reduce((n, g) => n + outputCount(g), 0) + 1);
  const index = new Uint32Array(total);
  const weight = new Float32Array(total);
  const turned = gathers.some((g) => g.turns);
  const turn = turned ? new Uint16Array(total) : null;
  const turns: number[] = turned ? [1, 0, 0, 0, 1, 0, 0, 0, 1] : [];
  let [at, v] = [0, 0];
  for (const g of gathers) {
    index.set(g.index, at);
    if (g.weight) weight.set(g.weight, at);
    else weight.fill(1, at, at + g.index.length);
    if (turn && g.turn) for (let i = 0; i < g.turn.length; i++) turn[at + i] = g.turn[i] + turns.length / 9;
    if (g.turns) turns.push(...g.turns);
    const n = outputCount(g);
    for (let i = 1; i <= n; i++) starts[v + i] = at + (g.starts ? g.starts[i] : i * g.width);
    at += g.index.length;
    v += n;
  }
  const plain = gathers.every((g) => !g.starts && g.width === 1 && !g.weight);
  if (plain)
    return {
      width: 1,
      starts: null,
      index,
      weight: null,
      turn,
      turns: turned ? Float64Array.from(turns) : null,
    };
  return { width: 0, starts, index, weight, turn, turns: turned ? Float64Array.from(turns) : null };
}

/** Several results of the same input as one. */
export function joinResults(results: OperationResult[]): OperationResult {
  if (results.length === 1) return results[0];
  const labels: OperationResult['labels'] = [];
  let shift = 0;
  for (const { mesh, labels: own } of results) {
    for (const { line, text } of own ?? []) labels.push({ line: line.map((p) => p + shift), text });
    shift += pointCount(mesh);
  }
  return {
    mesh: joinMeshes(results.map((r) => r.mesh)),
    recipe: {
      points: joinGathers(results.map((r) => r.recipe!.points)),
      cells: joinGathers(results.map((r) => r.recipe!.cells)),
    },
    labels: labels.length > 0 ? labels : undefined,
    report: joinReports(results.flatMap((r) => (r.report ? [r.report] : []))),
  };
}

/** More vertices than are ever kept: three such numbers make one that is exact. */
const MOST_KEPT = 200_000;

/**
 * Fewer triangles over the same vertices that stand for a surface: vertices in one cell of a grid become the first of them,
 * and what collapses by that is left out (Rossignac and Borrel 1993, "Multi-resolution 3D approximations for rendering complex
 * scenes"). The cells are as small as the wished number of triangles allows.
 *
 * @param positions three a vertex
 * @param triangles three vertices each; those with a vertex of no place are left out where there are too many
 * @param most so many triangles are wished for at most, up to 100,000
 */
export function coarseTriangles(positions: Float32Array, triangles: Uint32Array, most: number): Uint32Array {
  if (triangles.length <= 3 * most) return triangles;
  const box = boxOf(positions, triangles);
  // A sheet across the box has two triangles for each of its cells; other surfaces have more.
  let cells = Math.max(2, Math.ceil(Math.sqrt(most / 2)));
  for (;;) {
    const found = clustered(positions, triangles, box, cells, cells > 2 ? most : Infinity);
    if (found) return found;
    cells = Math.max(2, Math.floor(0.8 * cells));
  }
}

interface Box {
  low: [number, number, number];
  longest: number;
}

function boxOf(positions: Float32Array, triangles: Uint32Array): Box {
  const low: Box['low'] = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const v of triangles)
    for (let k = 0; k < 3; k++) {
      const x = positions[3 * v + k];
      if (x < low[k]) low[k] = x;
      if (x > high[k]) high[k] = x;
    }
  return { low, longest: Math.max(...high.map((h, k) => h - low[k])) };
}

/** Null where more than `most` would be left. */
function clustered(
  positions: Float32Array,
  triangles: Uint32Array,
  { low, longest }: Box,
  cells: number,
  most: number,
): Uint32Array | null {
  const scale = longest > 0 ? (cells * (1 - 1e-6)) / longest : 0;
  const numbers = new Int32Array(cells ** 3).fill(-1);
  /** The vertex that stands for a cell, by its number. */
  const kept: number[] = [];
  const known = new Int32Array(positions.length / 3).fill(-1);
  const numberOf = (v: number): number => {
    if (known[v] >= 0) return known[v];
    const cell = (k: number): number => Math.floor(scale * (positions[3 * v + k] - low[k]));
    const at = cell(0) + cells * (cell(1) + cells * cell(2));
    if (!(at >= 0)) return -1;
    if (numbers[at] < 0) {
      numbers[at] = kept.length;
      kept.push(v);
    }
    return (known[v] = numbers[at]);
  };
  const made: number[] = [];
  const seen = new Set<number>();
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [numberOf(triangles[t]), numberOf(triangles[t + 1]), numberOf(triangles[t + 2])];
    if (a === b || b === c || c === a || Math.min(a, b, c) < 0) continue;
    // Many become the same three: one for each way round is enough.
    const [x, y, z] = a < b && a < c ? [a, b, c] : b < c ? [b, c, a] : [c, a, b];
    const key = (x * MOST_KEPT + y) * MOST_KEPT + z;
    if (seen.has(key)) continue;
    if (seen.size >= most || kept.length > MOST_KEPT) return null;
    seen.add(key);
    made.push(kept[x], kept[y], kept[z]);
  }
  return Uint32Array.from(made);
}

import { CellFinder } from '../../fields/places/cell-finder.ts';
import { LINE } from '../../model/cell-types.ts';
import { copyOf } from '../../model/recipe.ts';
import type { OperationInput, OperationResult } from '../chain/operation.ts';

/**
 * A line through places, with the values of the cells it meets there; where there is no cell it has gaps.
 *
 * @param at places one after the other, relative to the origin of the run
 * @param closed whether it goes on from the last to the first
 */
export function probedLine(input: OperationInput, at: ArrayLike<number>, closed = false): OperationResult {
  const { mesh } = input;
  const count = at.length / 3;
  const found: number[] = [];
  const [starts, nodes, weights, cells]: number[][] = [[0], [], [], []];
  const kept = new Int32Array(count).fill(-1);
  if (mesh.types.length > 0 && input.dimension >= 2) {
    const finder = new CellFinder(mesh, input.blocks());
    for (let i = 0; i < count; i++) {
      if (!finder.find(at[3 * i], at[3 * i + 1], at[3 * i + 2])) continue;
      kept[i] = found.length;
      found.push(i);
      cells.push(finder.cell);
      for (let k = 0; k < finder.count; k++) {
        nodes.push(finder.nodes[k]);
        weights.push(finder.weights[k]);
      }
      starts.push(nodes.length);
    }
  }
  const lines: number[] = [];
  const from: number[] = [];
  for (let i = 0; i + (closed ? 0 : 1) < count; i++) {
    const [a, b] = [kept[i], kept[(i + 1) % count]];
    if (a < 0 || b < 0) continue;
    lines.push(a, b);
    from.push(cells[a]);
  }
  const n = lines.length / 2;
  return {
    mesh: {
      points: Float32Array.from(found.flatMap((i) => [at[3 * i], at[3 * i + 1], at[3 * i + 2]])),
      types: new Uint8Array(n).fill(LINE),
      offsets: Uint32Array.from({ length: n + 1 }, (_, i) => 2 * i),
      connectivity: Uint32Array.from(lines),
      polyhedra: null,
    },
    recipe: {
      points: {
        ...copyOf(Uint32Array.from(nodes)),
        width: 0,
        starts: Uint32Array.from(starts),
        weight: Float32Array.from(weights),
      },
      cells: copyOf(Uint32Array.from(from)),
    },
    report: found.length < count ? { kept: found.length, of: count, what: 'points' } : null,
  };
}

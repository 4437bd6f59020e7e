/**
 * Where the vertices of a result come from. Output vertex `v` is the weighted sum of the `width` input points
 * `index[v * width + k]` with `weight[v * width + k]`; without weights (width 1) it is a plain copy.
 *
 * A recipe is replayed on any field, component or step of the same mesh without running the operation again.
 */
export interface VertexRecipe {
  width: number;
  index: Uint32Array;
  weight: Float32Array | null;
}

/** Both halves of a result's origin: its vertices and, for each cell, the input cell it was cut from. */
export interface Recipe {
  points: VertexRecipe;
  cells: Uint32Array;
}

export const vertexCount = (recipe: VertexRecipe): number => recipe.index.length / recipe.width;

/** `second` was made from the output of `first`; the result leads from its vertices to the inputs of `first`. */
export function composeVertices(first: VertexRecipe, second: VertexRecipe): VertexRecipe {
  const n = vertexCount(second);
  const width = first.width * second.width;
  const index = new Uint32Array(n * width);
  const weight = first.weight || second.weight ? new Float32Array(n * width) : null;
  for (let v = 0; v < n; v++) {
    for (let j = 0; j < second.width; j++) {
      const middle = second.index[v * second.width + j];
      const w2 = second.weight ? second.weight[v * second.width + j] : 1;
      for (let i = 0; i < first.width; i++) {
        const out = v * width + j * first.width + i;
        index[out] = first.index[middle * first.width + i];
        if (weight) weight[out] = w2 * (first.weight ? first.weight[middle * first.width + i] : 1);
      }
    }
  }
  return { width, index, weight };
}

export function composeCells(first: Uint32Array, second: Uint32Array): Uint32Array {
  const out = new Uint32Array(second.length);
  for (let i = 0; i < second.length; i++) out[i] = first[second[i]];
  return out;
}

export function compose(first: Recipe, second: Recipe): Recipe {
  return {
    points: composeVertices(first.points, second.points),
    cells: composeCells(first.cells, second.cells),
  };
}

/** The recipe that changes nothing, for `points` points and `cells` cells. */
export function identityRecipe(points: number, cells: number): Recipe {
  const index = new Uint32Array(points);
  for (let i = 0; i < points; i++) index[i] = i;
  const cellIndex = new Uint32Array(cells);
  for (let i = 0; i < cells; i++) cellIndex[i] = i;
  return { points: { width: 1, index, weight: null }, cells: cellIndex };
}

/**
 * One number per output vertex from a field of `components` numbers per input point.
 *
 * @param component which component, or `magnitude` for the Euclidean length of the interpolated vector
 */
export function replay(
  recipe: VertexRecipe,
  field: ArrayLike<number>,
  components: number,
  component: number | 'magnitude',
  out = new Float32Array(vertexCount(recipe)),
): Float32Array {
  const { width, index, weight } = recipe;
  const n = out.length;
  if (component !== 'magnitude' || components === 1) {
    const k = component === 'magnitude' ? 0 : component;
    if (!weight) {
      if (components === 1) for (let v = 0; v < n; v++) out[v] = field[index[v]];
      else for (let v = 0; v < n; v++) out[v] = field[index[v] * components + k];
    } else if (width === 2) {
      for (let v = 0, i = 0; v < n; v++, i += 2) {
        out[v] =
          weight[i] * field[index[i] * components + k] + weight[i + 1] * field[index[i + 1] * components + k];
      }
    } else {
      for (let v = 0, i = 0; v < n; v++) {
        let sum = 0;
        for (let j = 0; j < width; j++, i++) sum += weight[i] * field[index[i] * components + k];
        out[v] = sum;
      }
    }
    return out;
  }
  for (let v = 0; v < n; v++) {
    let squares = 0;
    for (let k = 0; k < components; k++) {
      let sum = 0;
      for (let j = 0; j < width; j++) {
        const i = v * width + j;
        sum += (weight ? weight[i] : 1) * field[index[i] * components + k];
      }
      squares += sum * sum;
    }
    out[v] = Math.sqrt(squares);
  }
  return out;
}

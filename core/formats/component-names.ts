import { byName } from '../model/by-name.ts';

/** Scalars whose names say that they are components of one quantity. */
export interface NamedComponents {
  name: string;
  /** Index of the scalar of each component. */
  columns: number[];
}

const vectorEnds = ['x', 'y', 'z'];
const tensorEnds = ['xx', 'yy', 'zz', 'xy', 'yz', 'zx'];
/** Other spellings of the last three. */
const turned = byName({ zx: 'xz', yz: 'zy', xy: 'yx' });

/**
 * Puts names together: `DISPX DISPY DISPZ`, `VelocityX ..`, `stress_xx ..` become a vector or a symmetric tensor
 * (xx yy zz xy yz zx); other names stay alone.
 */
export function componentNames(names: string[]): NamedComponents[] {
  const lower = names.map((n) => n.toLowerCase());
  const used = new Set<number>();
  const out: NamedComponents[] = [];
  const like = (base: string, end: string): number => {
    const at = lower.indexOf(base + end);
    return at >= 0 || !turned[end] ? at : lower.indexOf(base + turned[end]);
  };
  const take = (columns: number[], ending: number): void => {
    for (const c of columns) used.add(c);
    const name = names[columns[0]];
    out.push({ name: name.slice(0, name.length - ending).replace(/[_\s.-]+$/, '') || name, columns });
  };
  // Tensors first: their components end like those of vectors.
  for (const [i, name] of lower.entries()) {
    if (!name.endsWith('xx') || name.length < 3) continue;
    const found = tensorEnds.map((e) => like(name.slice(0, -2), e));
    if (found[0] === i && found.every((c) => c >= 0)) take(found, 2);
  }
  for (const [i, name] of lower.entries()) {
    if (used.has(i)) continue;
    const found =
      name.endsWith('x') && name.length > 1 ? vectorEnds.map((e) => like(name.slice(0, -1), e)) : [];
    if (found[1] >= 0 && !found.some((c) => used.has(c)))
      take(
        found.filter((c) => c >= 0),
        1,
      );
  }
  for (const i of names.keys()) if (!used.has(i)) take([i], 0);
  return out.sort((a, b) => Math.min(...a.columns) - Math.min(...b.columns));
}

/** Node orders of serendipity cells where vertical edges come before the upper ones. */
export const verticalFirst: Record<number, number[]> = {
  25: [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 16, 17, 18, 19, 12, 13, 14, 15],
  26: [0, 1, 2, 3, 4, 5, 6, 7, 8, 12, 13, 14, 9, 10, 11],
};

/** Brings the nodes of uniform cells into our order. */
export function reordered(connectivity: Uint32Array, order: number[] | undefined): Uint32Array {
  if (!order) return connectivity;
  const out = new Uint32Array(connectivity.length);
  const n = order.length;
  for (let i = 0; i + n <= connectivity.length; i += n)
    for (let k = 0; k < n; k++) out[i + k] = connectivity[i + order[k]];
  return out;
}

import type { Polyhedra } from '../../model/mesh.ts';

/**
 * How a level crosses a polyhedron: closed loops of crossing vertices.
 *
 * Every face is walked around; a run of nodes above the level is bounded by the crossing where the walk enters it and
 * the one where it leaves, which are joined, as in the tables of the other cell types. The joints close to loops.
 *
 * @param at makes the crossing vertex between two nodes with their heights
 * @param curved whether faces of four corners join those above where the saddle between them lies above
 */
export function polyhedronLoops(
  { faces, starts }: Polyhedra,
  cell: number,
  height: (node: number) => number,
  at: (a: number, b: number, da: number, db: number) => number,
  curved = false,
): number[][] {
  const next = new Map<number, number[]>();
  const link = (a: number, b: number): void => {
    if (a === b) return;
    next.set(a, [...(next.get(a) ?? []), b]);
    next.set(b, [...(next.get(b) ?? []), a]);
  };
  for (let f = starts[cell]; f < starts[cell + 1]; f += faces[f] + 1) {
    const n = faces[f];
    let begin = 0;
    while (begin < n && height(faces[f + 1 + begin]) >= 0) begin++;
    if (begin === n) continue;
    const crossed: number[] = [];
    for (let i = 0; i < n; i++) {
      const a = faces[f + 1 + ((begin + i) % n)];
      const b = faces[f + 1 + ((begin + i + 1) % n)];
      const da = height(a);
      const db = height(b);
      if (da >= 0 !== db >= 0) crossed.push(at(a, b, da, db));
    }
    const [p, q, r, s] = [0, 1, 2, 3].map((i) => height(faces[f + 1 + ((begin + i) % n)]));
    // Joined, what left one run comes in at the other.
    if (curved && n === 4 && crossed.length === 4 && saddleAbove(p, q, r, s, false))
      crossed.push(crossed.shift()!);
    for (let i = 0; i + 1 < crossed.length; i += 2) link(crossed[i], crossed[i + 1]);
  }
  const loops: number[][] = [];
  for (const first of next.keys()) {
    const loop: number[] = [];
    for (let v: number | undefined = first; v !== undefined; ) {
      const ways: number[] = next.get(v) ?? [];
      const to: number | undefined = ways.pop();
      if (to === undefined) break;
      const back = next.get(to)!;
      back.splice(back.indexOf(v), 1);
      loop.push(v);
      v = to;
      if (v === first) break;
    }
    if (loop.length >= 3) loops.push(loop);
  }
  return loops;
}

/**
 * Whether the saddle of the bilinear function over a face of four corners lies above zero, for corners that are above
 * and below in turn. The same for every cell that has the face, to the last bit.
 *
 * @param firstAbove whether the first and third corners are those above
 */
export function saddleAbove(p: number, q: number, r: number, s: number, firstAbove: boolean): boolean {
  return firstAbove ? p * r > q * s : q * s > p * r;
}

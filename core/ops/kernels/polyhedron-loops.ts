import type { Polyhedra } from '../../model/mesh.ts';

/**
 * How a level crosses a polyhedron: closed loops of crossing vertices.
 *
 * Every face is walked around; a run of nodes above the level is bounded by the crossing where the walk enters it and
 * the one where it leaves, which are joined, as in the tables of the other cell types. The joints close to loops.
 *
 * @param at makes the crossing vertex between two nodes with their heights
 */
export function polyhedronLoops(
  { faces, starts }: Polyhedra,
  cell: number,
  height: (node: number) => number,
  at: (a: number, b: number, da: number, db: number) => number,
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
    let entered = -1;
    for (let i = 0; i < n; i++) {
      const a = faces[f + 1 + ((begin + i) % n)];
      const b = faces[f + 1 + ((begin + i + 1) % n)];
      const da = height(a);
      const db = height(b);
      if (da >= 0 === db >= 0) continue;
      const v = at(a, b, da, db);
      if (entered < 0) entered = v;
      else {
        link(entered, v);
        entered = -1;
      }
    }
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

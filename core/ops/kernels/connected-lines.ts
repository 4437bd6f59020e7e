import type { Mesh } from '../../model/mesh.ts';

/**
 * The line cells of a mesh joined end to end: each line as the points along it. A closed one ends where it began.
 */
export function connectedLines({ connectivity, offsets, types, points }: Mesh): number[][] {
  const n = points.length / 3;
  const neighbours: number[][] = Array.from({ length: n }, () => []);
  for (let c = 0; c < types.length; c++) {
    if (offsets[c + 1] - offsets[c] !== 2) continue;
    const [a, b] = [connectivity[offsets[c]], connectivity[offsets[c] + 1]];
    neighbours[a].push(b);
    neighbours[b].push(a);
  }
  const seen = new Uint8Array(n);
  const lines: number[][] = [];
  const walk = (from: number): void => {
    const line = [from];
    seen[from] = 1;
    for (let at = from; ; ) {
      const next = neighbours[at].find((p) => !seen[p]);
      if (next === undefined) break;
      seen[next] = 1;
      line.push(next);
      at = next;
    }
    if (line.length > 2 && neighbours[line[line.length - 1]].includes(from)) line.push(from);
    if (line.length > 1) lines.push(line);
  };
  // From loose ends first: a walk that began in the middle of a line would cut it in two.
  for (let p = 0; p < n; p++) if (!seen[p] && neighbours[p].length === 1) walk(p);
  for (let p = 0; p < n; p++) if (!seen[p] && neighbours[p].length > 0) walk(p);
  return lines;
}

/** A line with at most so many of its points, its ends among them. */
export function thinned(line: readonly number[], most: number): number[] {
  if (line.length <= most) return [...line];
  return Array.from({ length: most }, (_, i) => line[Math.round((i * (line.length - 1)) / (most - 1))]);
}

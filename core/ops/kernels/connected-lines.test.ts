import { describe, expect, it } from 'vitest';
import { LINE } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';
import { connectedLines, thinned } from './connected-lines.ts';

const meshOf = (pairs: [number, number][]): Mesh => ({
  points: new Float32Array(3 * (1 + Math.max(...pairs.flat()))),
  types: new Uint8Array(pairs.length).fill(LINE),
  offsets: Uint32Array.from({ length: pairs.length + 1 }, (_, i) => 2 * i),
  connectivity: Uint32Array.from(pairs.flat()),
});

describe('lines joined end to end', () => {
  it('run from one loose end to the other, whatever the order of their pieces', () => {
    const [line, ...more] = connectedLines(
      meshOf([
        [2, 3],
        [1, 0],
        [1, 2],
      ]),
    );
    expect(more).toEqual([]);
    expect([line, line.toReversed()]).toContainEqual([0, 1, 2, 3]);
  });
  it('that are closed end where they began', () => {
    const [line] = connectedLines(
      meshOf([
        [0, 1],
        [1, 2],
        [2, 3],
        [3, 0],
      ]),
    );
    expect(line).toHaveLength(5);
    expect(line[4]).toBe(line[0]);
  });
  it('stay apart where they do not meet', () => {
    const lines = connectedLines(
      meshOf([
        [0, 1],
        [2, 3],
        [3, 4],
      ]),
    );
    expect(lines.map((l) => l.length).sort()).toEqual([2, 3]);
  });
  it('keep their ends when they are thinned', () => {
    const line = Array.from({ length: 1000 }, (_, i) => i);
    const few = thinned(line, 7);
    expect(few).toHaveLength(7);
    expect([few[0], few[6]]).toEqual([0, 999]);
    expect(thinned([4, 5], 7)).toEqual([4, 5]);
  });
});

import { describe, expect, it } from 'vitest';
import { VERTEX } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';
import { subsetCells } from '../kernels/subset-cells.ts';
import { sourceOf } from './chain.ts';
import { followReport, joinReports, sayReport } from './report.ts';
import { plainContext, Workpiece } from './workpiece.ts';

const grains = (count: number): Mesh => ({
  points: Float32Array.from({ length: 3 * count }, (_, i) => i),
  types: new Uint8Array(count).fill(VERTEX),
  offsets: Uint32Array.from({ length: count + 1 }, (_, i) => i),
  connectivity: Uint32Array.from({ length: count }, (_, i) => i),
});

/** The first so many of a piece. */
const keep = (piece: Workpiece, kept: number): Workpiece =>
  piece.derive({
    ...subsetCells(
      piece.mesh,
      Uint32Array.from({ length: kept }, (_, i) => i),
    ),
    report: { kept, of: piece.mesh.types.length, what: 'points' },
  });

/** As a layer tells it, once its mesh is there. */
function told(piece: Workpiece): string {
  const empty = piece.mesh.types.length === 0;
  return sayReport(piece.report(), empty, { length: 'm', field: null }).join(' ');
}

describe('what operations one behind the other say', () => {
  const all = sourceOf(grains(1800), plainContext());

  it('of a subset of a subset is how many there are of all', () => {
    expect(told(keep(keep(all, 754), 120))).toBe('Keeps 120 of 1,800 points.');
  });
  it('stays where nothing more is left out', () => {
    expect(told(keep(keep(all, 754), 754))).toBe('Keeps 754 of 1,800 points.');
  });
  it('of something else than what was kept is told of that', () => {
    expect(followReport({ kept: 4, of: 9, what: 'cells' }, { kept: 6, of: 8, what: 'points' })).toMatchObject(
      {
        kept: 6,
        of: 8,
        what: 'points',
      },
    );
  });
  it('beside each other adds up, and what both come from counts once', () => {
    const half = keep(all, 900);
    const both = Workpiece.together([keep(half, 100), keep(half, 200)]);
    expect(both.mesh.types.length).toBe(300);
    expect(both.report()).toMatchObject({ kept: 300, of: 1800 });
    expect(
      joinReports([
        { kept: 1, of: 2 },
        { kept: 3, of: 4 },
      ]),
    ).toMatchObject({ kept: 4, of: 6 });
  });
  it('keeps what else was said on the way', () => {
    const report = followReport({ kept: 3, of: 5, missing: 2 }, { kept: 1, of: 3, lacking: 'heat' });
    expect(report).toMatchObject({ kept: 1, of: 5, missing: 2, lacking: 'heat' });
  });
});

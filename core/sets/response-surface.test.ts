import { describe, expect, it } from 'vitest';
import { responsePlot } from './response-plot.ts';
import { inBox, responseSurface, seenInBox } from './response-surface.ts';
import { runTable } from './run-table.ts';

const FANS = [600, 1200, 1800];
const VENTS = [0, 20, 40];
/** A plane: what a polynomial of the first degree tells without an error. */
const told = (fan: number, vent: number): number => 100 + 0.05 * fan - 0.5 * vent;
const table = runTable(
  FANS.flatMap((fan) =>
    VENTS.map((vent) => ({
      id: `${fan}-${vent}`,
      name: `${fan}-${vent}`,
      parameters: { fan, vent, mean: told(fan, vent) + 1e-9 },
    })),
  ),
  { fan: { role: 'input' }, vent: { role: 'input' }, mean: { role: 'output' } },
);
const rows = table.rows.map((_, i) => i);
const column = (key: string) => table.columns.find((c) => c.key === key)!;
const plotOf = (fit: { kind: string; options: object } | null) =>
  responsePlot(table, rows, {
    output: 'mean',
    across: 'fan',
    group: 'vent',
    stepped: null,
    at: null,
    fit: fit as never,
  })!;

describe('a fit over two inputs', () => {
  it('is a net between their ends that a plane lies in, with every run above its place', () => {
    const found = responseSurface(plotOf({ kind: 'polynomial', options: { degree: 1 } }), column('vent'));
    if (typeof found === 'string') throw new Error(found);
    expect([found.xs[0], found.xs.at(-1), found.ys[0], found.ys.at(-1)]).toEqual([600, 1800, 0, 40]);
    for (const [j, y] of found.ys.entries())
      for (const [i, x] of found.xs.entries()) expect(found.heights[j][i]).toBeCloseTo(told(x, y), 6);
    expect(found.points).toHaveLength(9);
    for (const { z, fitted } of found.points) expect(z).toBeCloseTo(fitted, 6);
    expect(found.ends.z[0]).toBeCloseTo(told(600, 40), 6);
    expect(found.off).toBeNull();
  });
  it('has a band where the fit tells how sure it is', () => {
    const found = responseSurface(plotOf({ kind: 'gaussian-process', options: {} }), column('vent'));
    if (typeof found === 'string') throw new Error(found);
    expect(found.off?.flat().every((v) => v >= 0)).toBe(true);
  });
  it('is told why there is none', () => {
    expect(responseSurface(plotOf(null), column('vent'))).toMatch(/how it is fitted/);
    expect(responseSurface(plotOf(null), null)).toMatch(/second input/);
    const same = { ...column('vent'), values: rows.map(() => 5) };
    expect(responseSurface(plotOf({ kind: 'polynomial', options: { degree: 1 } }), same)).toMatch(
      /both vary/,
    );
  });
});

describe('the box of three axes', () => {
  it('is seen whole, from wherever it is looked at', () => {
    for (let turn = 0; turn < 360; turn += 15)
      for (let rise = 0; rise <= 90; rise += 15)
        for (const x of [-1, 1])
          for (const y of [-1, 1])
            for (const z of [-1, 1]) {
              const seen = seenInBox([x, y, z], { turn, rise });
              expect(Math.hypot(seen.x, seen.y)).toBeLessThanOrEqual(1 + 1e-12);
            }
  });
  it('is a square from above and stands upright from the side', () => {
    const above = seenInBox([1, 1, -1], { turn: 0, rise: 90 });
    expect([above.x, above.y]).toEqual([expect.closeTo(1 / Math.sqrt(3)), expect.closeTo(1 / Math.sqrt(3))]);
    const [low, high] = [-1, 1].map((z) => seenInBox([0, 0, z], { turn: 30, rise: 0 }));
    expect(low.x).toBeCloseTo(high.x, 12);
    expect(high.y).toBeGreaterThan(low.y);
    // What is in front is nearer.
    expect(seenInBox([0, -1, 0], { turn: 0, rise: 20 }).near).toBeGreaterThan(
      seenInBox([0, 1, 0], { turn: 0, rise: 20 }).near,
    );
  });
  it('has values at their shares of the way', () => {
    expect([0, 5, 10].map((v) => inBox(v, [0, 10]))).toEqual([-1, 0, 1]);
  });
});

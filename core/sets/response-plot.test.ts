import { describe, expect, it } from 'vitest';
import { likelyResponse, type ResponseWish, responsePlot } from './response-plot.ts';
import { type RunTable, runTable } from './run-table.ts';

/** Sixteen runs of `power = 3 + 2 fan - vent + fan vent`, whole numbers between 0 and 3. */
const places = [0, 1, 2, 3].flatMap((fan) => [0, 1, 2, 3].map((vent) => ({ fan, vent })));
const power = (fan: number, vent: number): number => 3 + 2 * fan - vent + fan * vent;
const table = (more: (i: number) => Record<string, number | string> = () => ({})): RunTable =>
  runTable(
    places.map(({ fan, vent }, i) => ({
      id: `r${i}`,
      name: `run ${i}`,
      parameters: { fan, vent, power: power(fan, vent), ...more(i) },
    })),
    { power: { role: 'output' } },
  );
const all = places.map((_, i) => i);
const wish: ResponseWish = {
  output: 'power',
  across: 'fan',
  group: 'vent',
  stepped: null,
  at: null,
  fit: { kind: 'polynomial', options: { degree: 2 } },
};

describe('an output against inputs', () => {
  it('is points in curves by a second input, each by the first', () => {
    const { curves, trouble } = responsePlot(table(), [...all].reverse(), wish)!;
    expect(trouble).toBeNull();
    expect(curves.map((c) => c.group)).toEqual([0, 1, 2, 3]);
    expect(curves[1].points).toEqual([0, 1, 2, 3].map((x) => ({ row: 4 * x + 1, x, y: power(x, 1) })));
  });
  it('is fitted over both at once, so that each curve lies on one surface', () => {
    const { curves, fit } = responsePlot(table(), all, wish)!;
    // A polynomial of degree two holds the formula exactly.
    for (const { group, fitted } of curves) {
      expect(fitted).toHaveLength(61);
      for (const { x, y } of fitted) expect(y).toBeCloseTo(power(x, group as number), 9);
    }
    expect(fit!.quality.explained).toBeCloseTo(1, 12);
    expect(fit!.quality.predicted).toBeCloseTo(1, 12);
  });
  it('tells how far off it may be, where the fit can tell', () => {
    const wavy = table((i) => ({ power: Math.sin(2 * places[i].fan) + places[i].vent }));
    const kriged: ResponseWish = { ...wish, fit: { kind: 'gaussian-process', options: {} } };
    const [{ fitted }] = responsePlot(wavy, all, kriged)!.curves;
    const off = (x: number): number => fitted.find((p) => Math.abs(p.x - x) < 1e-9)!.off!;
    // At a run less than a thousandth of all that there is, much more between two of them.
    expect(off(0)).toBeLessThan(4e-3);
    expect(off(0.5)).toBeGreaterThan(10 * off(0));
    expect(responsePlot(table(), all, wish)!.curves[0].fitted[0].off).toBeNull();
  });
  it('stands at one value of an input that is stepped through, and is fitted over all of them', () => {
    const plot = responsePlot(table(), all, { ...wish, group: null, stepped: 'vent', at: 2 })!;
    expect(plot.steps).toEqual([0, 1, 2, 3]);
    expect(plot.curves).toHaveLength(1);
    expect(plot.curves[0].points.map((p) => p.y)).toEqual([0, 1, 2, 3].map((fan) => power(fan, 2)));
    expect(plot.curves[0].fitted[60].y).toBeCloseTo(power(3, 2), 9);
    // A value that is not there is the first one.
    expect(responsePlot(table(), all, { ...wish, group: null, stepped: 'vent', at: 9 })!.at).toBe(0);
  });
  it('says why it is not fitted, and is shown all the same', () => {
    const plot = responsePlot(table(), [0, 1, 2], {
      ...wish,
      fit: { kind: 'polynomial', options: { degree: 5 } },
    })!;
    expect(plot.fit).toBeNull();
    expect(plot.trouble).toMatch(/^No fit: a polynomial of degree 5 has \d+ terms, and there are 3 runs/);
    expect(plot.curves.flatMap((c) => c.points)).toHaveLength(3);
  });
  it('is in curves by texts as well, which are no place on a surface', () => {
    const door = table((i) => ({ door: i % 2 === 0 ? 'open' : 'shut' }));
    const { curves } = responsePlot(door, all, { ...wish, group: 'door' })!;
    expect(curves.map((c) => [c.group, c.points.length, c.fitted.length])).toEqual([
      ['open', 8, 61],
      ['shut', 8, 61],
    ]);
  });
  it('passes over runs that say nothing of it', () => {
    const gaps = table((i): Record<string, string> => (i === 5 ? { power: 'n/a' } : {}));
    const { curves, fit } = responsePlot(gaps, all, wish)!;
    expect(curves.flatMap((c) => c.points)).toHaveLength(15);
    expect(fit!.used).toHaveLength(15);
  });
  it('is none without an output or an input of numbers', () => {
    expect(responsePlot(table(), all, { ...wish, output: 'gone' })).toBeNull();
    const words = table((i) => ({ baker: i % 2 === 0 ? 'Ada' : 'Bo' }));
    expect(responsePlot(words, all, { ...wish, across: 'baker' })).toBeNull();
  });
  it('begins with the first output over the input with the most values, in curves by the one with the fewest', () => {
    expect(likelyResponse(table((i) => ({ door: i % 2 })))).toEqual({
      output: 'power',
      across: 'fan',
      group: 'door',
    });
    // What differs in every run is only its name.
    const named = table((i) => ({ number: i }));
    expect(named.columns.find((c) => c.key === 'number')!.role).toBe('input');
    expect(likelyResponse(named)).toMatchObject({ across: 'fan', group: 'vent' });
    expect(likelyResponse(runTable([]))).toEqual({ output: null, across: null, group: null });
  });
});

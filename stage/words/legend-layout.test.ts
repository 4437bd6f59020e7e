import { beforeAll, describe, expect, it } from 'vitest';
import { CompiledScale } from '#core/colour/compiled-scale.ts';
import { spreadOfTriangles } from '#core/colour/spread.ts';
import type { Bands } from '#core/model/levels.ts';
import type { Scale } from '#core/scene/document.ts';
import { legend as legendThing } from '#core/scene/things/legend.ts';
import { scale as scaleThing } from '#core/scene/things/scale.ts';
import { type LegendFacts, type LegendLayout, layoutLegend, sayShare } from './legend-layout.ts';

const facts: LegendFacts = { title: 'Temperature', unit: '°C', spread: null, ofStep: null, ofAll: null };
/** A letter is as wide as half its height. */
const measure = (text: string, size: number): number => 0.5 * size * text.length;
const size = { width: 900, height: 600, measure };

interface Asked {
  low?: number;
  high?: number;
  bands?: Bands | null;
  scale?: Partial<Scale>;
  legend?: Partial<Scale['legend']>;
  facts?: Partial<LegendFacts>;
  shownTo?: number;
}

function laidOut({
  low = 0,
  high = 100,
  bands = null,
  scale = {},
  legend = {},
  facts: more = {},
  shownTo,
}: Asked) {
  const made: Scale = {
    ...scaleThing.plain,
    ...scale,
    bands,
    legend: { ...legendThing.plain, x: 0.5, ...legend },
  };
  const { map, reversed, below, above, categories } = made;
  const colours = CompiledScale.of({ map, reversed, bands, low, high, below, above, categories, shownTo });
  return { layout: layoutLegend(made, colours, { ...facts, ...more }, size), colours };
}
const numbers = ({ texts }: LegendLayout): string[] => texts.slice(1).map((t) => t.text);
const even = (count: number): Bands => ({ kind: 'count', count, low: null, high: null });
let rising: LegendFacts['spread'];
beforeAll(() => {
  rising = spreadOfTriangles([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0], [0, 1, 2, 0, 2, 3], [0, 100, 100, 0]);
});

describe('the numbers of a legend', () => {
  // Worked out by hand.
  it('of ten values from 0.14 to 0.4 are these ten', () => {
    const { layout } = laidOut({ low: 0.14, high: 0.4, bands: even(9) });
    const exact = Array.from({ length: 10 }, (_, i) => 0.14 + (i * 0.26) / 9);
    expect(numbers(layout)).toHaveLength(10);
    for (const [i, said] of numbers(layout).entries()) expect(Number(said)).toBeCloseTo(exact[i], 3);
  });
  it('of -20 to 20 in 11 values are these', () => {
    const { layout } = laidOut({ low: -20, high: 20, bands: even(10) });
    expect(numbers(layout)).toEqual(['−20', '−16', '−12', '−8', '−4', '0', '4', '8', '12', '16', '20']);
  });
  it('of 101 and of 200 levels are round ones, and the legend stays in the picture', () => {
    for (const count of [100, 199, 255])
      for (const upright of [true, false]) {
        const { layout } = laidOut({ low: 0, high: 200, bands: even(count), legend: { upright } });
        expect(numbers(layout).map((n) => Number(n) % 20)).toEqual(numbers(layout).map(() => 0));
        expect(numbers(layout).length).toBeGreaterThan(4);
        const { x, y, width, height } = layout.box;
        expect(x >= 0 && y >= 0 && x + width <= size.width && y + height <= size.height).toBe(true);
      }
  });
  it('of chosen levels leave out ends that are less round', () => {
    const chosen = laidOut({ low: 30.006, high: 182.57, bands: { kind: 'every', step: 20 } });
    expect(numbers(chosen.layout)).toEqual(['40', '60', '80', '100', '120', '140', '160', '180']);
    const round = laidOut({ low: 20, high: 100, bands: { kind: 'every', step: 20 } });
    expect(numbers(round.layout)).toEqual(['20', '40', '60', '80', '100']);
  });
  it('stand in bands, at tidy places, or only at the ends', () => {
    expect(numbers(laidOut({ bands: even(4), legend: { labels: 'in bands' } }).layout)).toEqual([
      '0 – 25',
      '25 – 50',
      '50 – 75',
      '75 – 100',
    ]);
    expect(numbers(laidOut({ low: 3, high: 97, bands: even(4), legend: { ticks: 'tidy' } }).layout)).toEqual([
      '20',
      '40',
      '60',
      '80',
    ]);
    expect(numbers(laidOut({ bands: even(4), legend: { compact: true } }).layout)).toEqual(['0', '100']);
  });
  it('are names where values have them', () => {
    const categories = ['dough', 'tin'].map((name, value) => ({ value, name, colour: null }));
    const { layout } = laidOut({ scale: { categories, map: 'told-apart' } });
    expect(numbers(layout)).toEqual(['dough', 'tin']);
    expect(layout.ticks).toEqual([]);
  });
  it('are none where nothing has a value', () => {
    const positions = [0, 0, 0, 1, 0, 0, 1, 1, 0];
    const none = spreadOfTriangles(positions, [0, 1, 2], [Number.NaN, Number.NaN, Number.NaN]);
    expect(numbers(laidOut({ low: 0, high: 1, facts: { spread: none } }).layout)).toEqual(['no value']);
    // Elsewhere in the run, or as one chose them, there are some.
    const later = laidOut({ low: 0, high: 1, facts: { spread: none, ofStep: [0, 1] } }).layout;
    expect(numbers(later).length).toBeGreaterThan(3);
    const chosen = laidOut({
      low: 0,
      high: 1,
      scale: { range: { kind: 'fixed', low: 0, high: 1 } },
      facts: { spread: none },
    });
    expect(numbers(chosen.layout).length).toBeGreaterThan(3);
  });
  it('of one value are that value', () => {
    expect(numbers(laidOut({ low: 5, high: 5 }).layout)).toEqual(['5', 'one value']);
  });
});

describe('a legend', () => {
  it('says how much lies beyond, with a pointed end for it', () => {
    const { layout } = laidOut({ low: 10, high: 80, facts: { spread: rising } });
    expect(numbers(layout).slice(-2)).toEqual(['above: 20 % of area', 'below: 10 % of area']);
    expect(layout.ends).toHaveLength(2);
    expect(laidOut({ facts: { spread: rising } }).layout.ends).toEqual([]);
    const cut = laidOut({ low: 10, high: 60, shownTo: 75, facts: { spread: rising } });
    expect(numbers(cut.layout).slice(-3)).toEqual([
      'above: 15 % of area',
      'hidden above: 25 % of area',
      'below: 10 % of area',
    ]);
    expect(laidOut({ scale: { above: '#112233' } }).layout.ends).toHaveLength(1);
  });
  it('draws how much has which value as long as it is', () => {
    const { layout } = laidOut({ bands: even(4), legend: { histogram: true }, facts: { spread: rising } });
    expect(layout.columns).toHaveLength(4);
    for (const c of layout.columns) expect(c.width).toBeCloseTo(layout.columns[0].width, 0);
    for (const c of layout.columns) expect(c.x + c.width).toBeLessThan(layout.bar.x);
  });
  it('marks the lowest and highest where they are', () => {
    const { layout, colours } = laidOut({
      legend: { extremes: true },
      facts: { ofStep: [20, 60], ofAll: [0, 100] },
    });
    expect(layout.marks.map((m) => m.filled)).toEqual([false, false, true, true]);
    const { bar } = layout;
    for (const [i, v] of [0, 100, 20, 60].entries())
      expect(1 - (layout.marks[i].corners[0][1] - bar.y) / bar.height).toBeCloseTo(colours.fraction(v), 6);
    expect(numbers(layout).slice(-2)).toEqual(['this step 20 to 60', 'all steps 0 to 100']);
  });
  it('holds all it writes, in every form, and is never higher than the picture', () => {
    for (const upright of [true, false])
      for (const compact of [true, false])
        for (const histogram of [true, false])
          for (const large of [1, 2, 3]) {
            const { layout } = laidOut({
              low: 10,
              high: 80,
              bands: even(12),
              legend: { upright, compact, histogram, extremes: true, size: large },
              facts: { spread: rising, ofStep: [3, 60], ofAll: [0, 100] },
            });
            const { box } = layout;
            expect(box.y + box.height).toBeLessThanOrEqual(size.height + 1);
            for (const t of layout.texts) {
              const half = measure(t.text, t.size) / 2;
              const left = t.align === 'center' ? t.x - half : t.x;
              expect(left).toBeGreaterThanOrEqual(box.x - 1);
              if (box.width < size.width - 30)
                expect(left + 2 * half).toBeLessThanOrEqual(box.x + box.width + 1);
            }
          }
  });
});

it('shares are said with as many digits as are worth it', () => {
  expect([0.0004, 0.0123, 0.456, 1].map(sayShare)).toEqual(['< 0.1 %', '1.2 %', '45.6 %', '100 %']);
});

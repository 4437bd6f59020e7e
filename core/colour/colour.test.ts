import { converter, differenceCiede2000 } from 'culori';
import inferno from 'scale-color-perceptual/hex/inferno.json';
import magma from 'scale-color-perceptual/hex/magma.json';
import plasma from 'scale-color-perceptual/hex/plasma.json';
import viridis from 'scale-color-perceptual/hex/viridis.json';
import { describe, expect, it } from 'vitest';
import { evenBands } from '../model/levels.ts';
import { fromLinear } from '../model/srgb.ts';
import { labToRgb, type Rgb } from './cielab.ts';
import { CompiledScale, MISSING, mapColour, type ScaleColours, TABLE_SIZE } from './compiled-scale.ts';
import { type MapRole, mapGroups } from './maps/colour-map.ts';
import { colourMapById, colourMaps, mapsFor } from './maps/registry.ts';
import { labelsWithRoom, roundTicks, tickTexts } from './ticks.ts';

// The reference for colour is culori, a general-purpose colour library.
const toLab = converter('lab65');
const lab = ([r, g, b]: Rgb) => toLab({ mode: 'rgb', r, g, b });
const difference = differenceCiede2000();

describe('labels along a line', () => {
  it('are said where they have room, the first and the last before the others', () => {
    expect(labelsWithRoom([0, 10, 20, 30], [8, 8, 8, 8])).toEqual([true, true, true, true]);
    expect(labelsWithRoom([0, 3, 20, 27, 30], [8, 8, 8, 8, 8])).toEqual([true, false, true, false, true]);
    expect(labelsWithRoom([0, 2], [8, 8])).toEqual([true, false]);
    expect(labelsWithRoom([5], [8])).toEqual([true]);
    expect(labelsWithRoom([], [])).toEqual([]);
  });
});

describe('published maps', () => {
  // The tables of the package scale-color-perceptual, which carries the originals.
  for (const [id, table] of Object.entries({ viridis, inferno, magma, plasma }) as [string, string[]][]) {
    it(`${id} is the published table`, () => {
      const { colours } = colourMapById(id);
      expect(table).toHaveLength(256);
      for (const [i, hex] of table.entries()) {
        const rgb = [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16) / 255) as Rgb;
        expect(
          difference(
            { mode: 'rgb', r: rgb[0], g: rgb[1], b: rgb[2] },
            { mode: 'rgb', r: colours[i][0], g: colours[i][1], b: colours[i][2] },
          ),
        ).toBeLessThan(0.7);
      }
    });
  }
});

describe('every map', () => {
  it('has its own name, colours a screen can show, and there are at least fifty, those with even steps first', () => {
    for (const name of ['id', 'name'] as const)
      expect(new Set(colourMaps.map((m) => m[name])).size).toBe(colourMaps.length);
    expect(colourMaps.length).toBeGreaterThanOrEqual(50);
    for (const group of mapGroups) {
      const own = colourMaps.filter((m) => m.group === group);
      expect(own.length, group).toBeGreaterThanOrEqual(3);
      expect(own.map((m) => m.even)).toEqual(own.map((m) => m.even).sort((x, y) => Number(y) - Number(x)));
    }
    for (const { colours, group } of colourMaps) {
      expect(colours.length).toBe(group === 'categorical' ? new Set(colours.map(String)).size : 256);
      for (const c of colours) for (const v of c) expect(v >= 0 && v <= 1).toBe(true);
    }
  });
  it('is offered for what it suits', () => {
    const first = (role: MapRole) => mapsFor(role).map((m) => m.id);
    expect(first('temperature')[0]).toBe('heat');
    expect(first('salt')).toContain('sea-salinity');
    expect(first('phase').every((id) => colourMapById(id).group === 'cyclic')).toBe(true);
    expect(first('signed').every((id) => colourMapById(id).group === 'diverging')).toBe(true);
    expect(first('id').every((id) => colourMapById(id).group === 'categorical')).toBe(true);
  });

  for (const map of colourMaps.filter((m) => m.even && m.group === 'sequential'))
    it(`${map.name} rises steadily in lightness`, () => {
      const lightness = map.colours.map((c) => lab(c).l);
      for (let i = 1; i < 256; i++) expect(lightness[i]).toBeGreaterThan(lightness[i - 1] - 0.15);
    });

  for (const map of colourMaps.filter((m) => m.even && m.group === 'diverging'))
    it(`${map.name} has arms of equal lightness`, () => {
      for (let i = 0; i < 128; i++)
        expect(Math.abs(lab(map.colours[i]).l - lab(map.colours[255 - i]).l)).toBeLessThan(2.5);
    });
});

it('CIE L*a*b* to sRGB agrees with the reference', () => {
  const toRgb = converter('rgb');
  for (const [l, a, b] of [
    [50, 20, -30],
    [95, 0, 12],
    [18, 26, 6],
    [70, -30, 40],
    [5, 0, 0],
  ]) {
    const ours = labToRgb([l, a, b]);
    const theirs = toRgb({ mode: 'lab65', l, a, b });
    for (const [k, v] of [theirs.r, theirs.g, theirs.b].entries()) expect(ours[k]).toBeCloseTo(v, 3);
  }
});

const colourOf = (scale: ScaleColours, value: number): Rgb => CompiledScale.of(scale).colour(value);
const scalePosition = (scale: ScaleColours, value: number): number => CompiledScale.of(scale).position(value);

describe('a scale', () => {
  const scale = { map: 'heat', reversed: false, bands: null, low: 20, high: 220 };
  const { colours } = colourMapById('heat');
  it('gives the ends of the map at and beyond the ends of the range', () => {
    for (const v of [-5, 20]) expect(colourOf(scale, v)).toEqual(colours[0]);
    for (const v of [220, 1e9]) expect(colourOf(scale, v)).toEqual(colours[255]);
    expect(colourOf({ ...scale, reversed: true }, 20)).toEqual(colours[255]);
    expect(colourOf(scale, Number.NaN)).toEqual(MISSING);
  });
  it('in bands gives as many colours as bands, equal within a band', () => {
    const banded = { ...scale, bands: evenBands(5) };
    const seen = new Set(Array.from({ length: 1001 }, (_, i) => colourOf(banded, 20 + i / 5).join()));
    expect(seen.size).toBe(5);
    expect(scalePosition(banded, 20)).toBe(0);
    expect(scalePosition(banded, 59.99)).toBe(0);
    expect(scalePosition(banded, 60.01)).toBe(0.25);
    expect(scalePosition(banded, 220)).toBe(1);
    expect(scalePosition({ ...scale, bands: evenBands(1) }, 30)).toBe(0.5);
  });
  it('leads back from positions to values, and its edges are where colours change', () => {
    for (const bands of [null, evenBands(1), evenBands(7)]) {
      const made = CompiledScale.of({ ...scale, bands });
      for (const v of [20, 57, 199.5, 220]) expect(made.value(made.fraction(v))).toBeCloseTo(v, 10);
      for (const edge of made.edges.slice(1, -1))
        expect(made.position(edge - 1e-6)).toBeLessThan(made.position(edge + 1e-6));
    }
    expect(CompiledScale.of({ ...scale, bands: evenBands(4) }).edges).toEqual([20, 70, 120, 170, 220]);
  });
  it('gives the card a table whose straight lines are its colours', () => {
    for (const { id, group } of colourMaps.filter((m) => m.group !== 'categorical'))
      for (const reversed of [false, true]) {
        const made = CompiledScale.of({ map: id, reversed, bands: null, low: 0, high: 1 });
        for (let i = 0; i <= 500; i++) {
          const at = (i / 500) * (TABLE_SIZE - 1);
          const k = Math.min(Math.floor(at), TABLE_SIZE - 2);
          const colour = made.colour(i / 500);
          const ofMap = mapColour({ map: id, reversed }, i / 500);
          for (let c = 0; c < 3; c++) {
            const [a, b] = [made.table[4 * k + c], made.table[4 * k + 4 + c]];
            expect(Math.abs(fromLinear(a + (at - k) * (b - a)) - colour[c])).toBeLessThan(1e-5);
            // Half a level of 255 is what rounding to a screen leaves open; maps in parts jump at their seams.
            if (group === 'multi-part') continue;
            expect(255 * Math.abs(colour[c] - ofMap[c])).toBeLessThan(0.5);
          }
        }
      }
  });
  it('of no width shows the middle', () => expect(scalePosition({ ...scale, high: 20 }, 20)).toBe(0.5));
});

describe('ticks', () => {
  it('are round and lie in the range', () => {
    expect(roundTicks(0, 1)).toEqual([0, 0.2, 0.4, 0.6, 0.8, 1]);
    expect(roundTicks(30, 230)).toEqual([50, 100, 150, 200]);
    expect(roundTicks(-3.2e-6, 4.1e-6)).toEqual([-2e-6, 0, 2e-6, 4e-6]);
    expect(roundTicks(5, 5)).toEqual([5]);
    expect(roundTicks(Number.NaN, 1)).toEqual([]);
  });
  const even = { map: 'heat', reversed: false, bands: evenBands(5), low: 0, high: 10 };
  it('of bands are their edges, at most nine of them', () => {
    expect(CompiledScale.of(even).ticks()).toEqual([0, 2, 4, 6, 8, 10]);
    expect(CompiledScale.of({ ...even, bands: evenBands(20) }).ticks()).toEqual([0, 1.5, 3, 4.5, 6, 7.5, 9]);
  });
  it('give the levels that part the colours: inner edges, or the ticks between the ends', () => {
    expect(CompiledScale.of(even).levels).toEqual([2, 4, 6, 8]);
    expect(CompiledScale.of({ ...even, bands: null }).levels).toEqual([2, 4, 6, 8]);
    expect(CompiledScale.of({ ...even, bands: evenBands(1) }).levels).toEqual([]);
  });
  it('are told apart by their texts, with a shared power of ten', () => {
    expect(tickTexts([0, 0.25, 0.5]).texts).toEqual(['0.00', '0.25', '0.50']);
    expect(tickTexts([1e6, 2e6])).toEqual({ texts: ['1', '2'], power: 6 });
    expect(tickTexts([-2e-6, 0, 2e-6])).toEqual({ texts: ['−2', '0', '2'], power: -6 });
  });
});

import { converter, wcagLuminance } from 'culori';
import { describe, expect, it } from 'vitest';
import { toneCurve } from './tone-curve.ts';
import { glowColour, lampColour } from './warmth.ts';

describe('the tone curve', () => {
  it('takes off what every surface mirrors, and leaves the rest as it is', () => {
    // A grey card of 18 % and a white one of 60 % under white light, with the 4 % of their surfaces.
    for (const v of [0.18, 0.6])
      for (const c of toneCurve([v + 0.04, v + 0.04, v + 0.04])) expect(c).toBeCloseTo(v, 12);
    const [r, g, b] = toneCurve([0.5, 0.3, 0.2]);
    expect([r, g, b].map((v) => Number(v.toFixed(12)))).toEqual([0.46, 0.26, 0.16]);
  });
  it('of light in front of other light takes off what one surface mirrors, not what two do', () => {
    // A quarter of a place mirrors a room; through the rest the room itself is seen: together as the room alone.
    for (const v of [0.05, 0.3, 0.7]) {
      const [front] = toneCurve([0.25 * v, 0.25 * v, 0.25 * v], 0.25);
      const [room] = toneCurve([v, v, v]);
      expect(front + 0.75 * room).toBeCloseTo(room, 12);
    }
    // What shines stays as bright as it is.
    expect(toneCurve([0.7, 0.7, 0.7], 0.1)[0]).toBeCloseTo(0.696, 12);
  });
  it('is black in the dark, grows all the way and never passes white', () => {
    expect(toneCurve([0, 0, 0])).toEqual([0, 0, 0]);
    let before = -1;
    for (let v = 0; v < 40; v += 0.01) {
      const [c] = toneCurve([v, v, v]);
      expect(c).toBeGreaterThanOrEqual(before);
      expect(c).toBeLessThan(1);
      before = c;
    }
    expect(before).toBeGreaterThan(0.99);
  });
  it('has no step where it leaves the line, and lets what is far too bright grow pale', () => {
    const at = (v: number): number => toneCurve([v, v, v])[0];
    expect(at(0.8001) - at(0.7999)).toBeLessThan(3e-4);
    // Ten times as bright, and more of the weakest channel to the strongest.
    const paleness = (c: readonly number[]): number => c[2] / c[0];
    const [dim, bright] = [toneCurve([0.6, 0.3, 0.08]), toneCurve([6, 3, 0.8])];
    expect(paleness(bright)).toBeGreaterThan(2 * paleness(dim));
  });
});

describe('warm and cool lights', () => {
  it('are white in the middle, and agree with published colours of glowing bodies', () => {
    expect(lampColour(0)).toEqual([1, 1, 1]);
    // A body of 2,856 K (CIE illuminant A): x 0.44757, y 0.40745 (ISO 11664-2), as linear sRGB with the largest 1.
    const [x, y] = [0.44757, 0.40745];
    const { r, g, b } = converter('lrgb')({ mode: 'xyz65', x: x / y, y: 1, z: (1 - x - y) / y })!;
    const most = Math.max(r, g, b);
    const found = glowColour(2856);
    for (const [k, v] of [r, g, b].entries()) expect(Math.abs(found[k] - v / most)).toBeLessThan(0.02);
  });
  it('grow redder one way and bluer the other, and never lose their green between', () => {
    const blue = [-1, -0.5, 0, 0.5, 1].map((w) => lampColour(w)[2] / lampColour(w)[0]);
    for (let i = 1; i < blue.length; i++) expect(blue[i]).toBeLessThan(blue[i - 1]);
    for (const w of [-1, 1]) {
      const [r, g, b] = lampColour(w);
      expect(g).toBeGreaterThan(Math.min(r, b));
      expect(g).toBeLessThan(Math.max(r, b) + 1e-9);
      expect(wcagLuminance({ mode: 'lrgb', r, g, b })).toBeGreaterThan(0.3);
    }
  });
});

import { describe, expect, it } from 'vitest';
import { draught, FlourDust, settlingSpeed } from './flour-dust.ts';

describe('the flour dust of the bench', () => {
  it('falls as slowly as Stokes’ law says when grains are small, and slower when they are large', () => {
    // A water droplet's cousin: 10 µm grains of 1450 kg/m3 in air at 20 °C fall at 4.4 mm/s by (ρp-ρ) g d²/18µ.
    expect(settlingSpeed(10e-6)).toBeCloseTo(0.00436, 4);
    const ratio = settlingSpeed(160e-6) / settlingSpeed(10e-6);
    expect(ratio).toBeGreaterThan(100);
    expect(ratio).toBeLessThan(256);
  });
  it('is carried by air that neither piles up nor goes through dough', () => {
    const h = 1e-5;
    for (const [x, z] of [
      [0.3, 0.2],
      [0.5, 0.12],
      [0.81, 0.3],
    ]) {
      const across = (draught([x + h, 0, z])[0] - draught([x - h, 0, z])[0]) / (2 * h);
      const up = (draught([x, 0, z + h])[2] - draught([x, 0, z - h])[2]) / (2 * h);
      // The layer over the bench is not part of the flow without friction; its share is small up here.
      expect(Math.abs(across + up)).toBeLessThan(0.15);
    }
    expect(draught([0.1, 0, 0])[2]).toBeCloseTo(0, 6);
  });
  it('lands, all of it, on the bench or on dough, larger grains sooner', () => {
    const dust = new FlourDust(300);
    const landed = (): number => dust.landed.reduce((a, b) => a + b, 0);
    for (let n = 0; n < 200; n++) dust.advance(0.01);
    const early = landed();
    const size = (which: number): number => {
      const all = [...dust.diameters].filter((_, i) => dust.landed[i] === which);
      return all.reduce((a, b) => a + b, 0) / all.length;
    };
    expect(early).toBeGreaterThan(10);
    expect(size(1)).toBeGreaterThan(size(0));
    for (let n = 0; n < 2500; n++) dust.advance(0.01);
    expect(landed()).toBe(300);
    for (let i = 0; i < 300; i++) expect(dust.places[3 * i + 2]).toBeGreaterThanOrEqual(0);
    const onDough = [...dust.places].filter((z, i) => i % 3 === 2 && z > 0.001).length;
    expect(onDough).toBeGreaterThan(10);
  });
});

import { describe, expect, it } from 'vitest';
import { matteLight, paintedPanorama } from '../../light/panorama.ts';
import { unit, type Vector } from '../../model/vectors.ts';
import { clearSky } from './daylight.ts';
import { isEven, lampDirection } from './light-rig.ts';
import { overcastSky } from './overcast.ts';
import { lightRigById, lightRigs } from './registry.ts';

describe('light rigs', () => {
  it('share all light between lights and surroundings, and shine from somewhere everywhere', () => {
    for (const rig of lightRigs) {
      expect(rig.sky).toBeGreaterThan(0);
      expect(rig.sky).toBeLessThanOrEqual(1);
      if (rig.lights.length > 0)
        expect(
          rig.lights.reduce((sum, l) => sum + l.strength, 0),
          rig.id,
        ).toBeCloseTo(1, 9);
      else expect(rig.sky).toBe(1);
      if (!rig.surroundings) continue;
      const sun: Vector = rig.lights[0] ? lampDirection(rig.lights[0]) : [0, 0, 1];
      for (let i = 0; i < 200; i++) {
        const z = 1 - (2 * (i + 0.5)) / 200;
        const d: Vector = [
          Math.sqrt(1 - z * z) * Math.cos(2.4 * i),
          Math.sqrt(1 - z * z) * Math.sin(2.4 * i),
          z,
        ];
        for (const v of rig.surroundings(d, sun)) expect(v, `${rig.id} ${d}`).toBeGreaterThan(0);
      }
    }
  });
  it('are found by their ids, the usual one where there is none; one of them is even', () => {
    expect(lightRigById('night').name).toBe('Night light');
    expect(lightRigById('gone').id).toBe(lightRigs[0].id);
    expect(lightRigs.filter(isEven)).toHaveLength(1);
  });
});

describe('skies', () => {
  it('that are overcast light the ground by 7/9 of what a sky as bright as their zenith does (Moon and Spencer 1942)', () => {
    const sky = paintedPanorama((d) => (d[2] > 0 ? [overcastSky(d[2]), 0, 0] : [0, 0, 0]), 256);
    expect(matteLight(sky, [0, 0, 1])[0]).toBeCloseTo(7 / 9, 3);
    expect(overcastSky(1) / overcastSky(0)).toBeCloseTo(3, 12);
  });
  it('that are clear have their zenith as the unit, are brightest at the sun and darkest away from it', () => {
    for (const sunDown of [0.4, 0.9, 1.3]) {
      expect(clearSky(1, sunDown, sunDown)).toBeCloseTo(1, 12);
      const sun: Vector = [Math.sin(sunDown), 0, Math.cos(sunDown)];
      const at = (down: number, turn: number): number => {
        const d = unit([Math.sin(down) * Math.cos(turn), Math.sin(down) * Math.sin(turn), Math.cos(down)]);
        return clearSky(d[2], Math.acos(Math.min(1, d[0] * sun[0] + d[2] * sun[2])), sunDown);
      };
      expect(at(sunDown, 0)).toBeGreaterThan(at(sunDown, Math.PI));
      expect(at(sunDown, 0)).toBeGreaterThan(at(sunDown, Math.PI / 2));
    }
    // Type 12 at the horizon across from a sun at the zenith, by hand: phi(90°) / phi(0°) f(90°) / f(0°).
    const f = (x: number): number =>
      1 + 10 * (Math.exp(-3 * x) - Math.exp(-1.5 * Math.PI)) + 0.45 * Math.cos(x) ** 2;
    const phi = (sine: number): number => 1 - Math.exp(-0.32 / sine);
    const found = clearSky(Math.sin(Math.PI / 6), Math.PI / 3, 0);
    expect(found).toBeCloseTo((phi(0.5) / phi(1)) * (f(Math.PI / 3) / f(0)), 9);
  });
});

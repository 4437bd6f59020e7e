import { describe, expect, it } from 'vitest';
import { dot, subtract, times, unit, type Vector } from '../../model/vectors.ts';
import { levelAxes } from '../things/upright.ts';
import { lampDirection } from './light-rig.ts';
import { firstLamp, lampForHighlight, lightsPlaced, type PlacedLamp } from './placed.ts';
import { rigOf } from './registry.ts';

/** Where a lamp stands in the world. */
function standing(lamp: PlacedLamp, up: Vector): Vector {
  const [x, y, z] = lampDirection(lightsPlaced([lamp])[0]);
  const [across, along] = levelAxes(up);
  return [0, 1, 2].map((k) => x * across[k] + y * along[k] + z * up[k]) as Vector;
}

const ups: Vector[] = [
  [0, 0, 1],
  [0, 1, 0],
  [1, 0, 0],
  [0, 0, -1],
];

describe('a lamp placed by its highlight', () => {
  it('is mirrored there towards whoever looks, whatever is up (law of reflection)', () => {
    for (const up of ups)
      for (const [normal, toEye] of [
        [
          [0.3, -0.4, 0.8],
          [0.1, -0.9, 0.4],
        ],
        [
          [-0.7, 0.2, 0.1],
          [-0.2, 0.9, 0.3],
        ],
        [
          [0, 0, 1],
          [0, 0, 1],
        ],
      ] as [Vector, Vector][]) {
        const [n, e] = [unit(normal), unit(toEye)];
        const to = standing({ ...firstLamp, ...lampForHighlight(n, e, up) }, up);
        // Both make the same angle with the normal, on either side of it, in one plane.
        expect(dot(to, n)).toBeCloseTo(dot(e, n), 9);
        const middle = unit([0, 1, 2].map((k) => to[k] + e[k]) as Vector);
        expect(Math.hypot(...subtract(middle, times(n, Math.sign(dot(middle, n)))))).toBeLessThan(1e-6);
      }
  });
  it('stays where it was put while all lights are turned and raised', () => {
    const [n, e] = [unit([0.2, -0.8, 0.5]), unit([0, -1, 0.2])];
    const up: Vector = [0, 0, 1];
    const plain = lampForHighlight(n, e, up);
    const turned = lampForHighlight(n, e, up, { turn: 170, rise: 10 });
    expect(((turned.turn + 170 - plain.turn) % 360) % 360).toBeCloseTo(0, 9);
    expect(turned.rise + 10).toBeCloseTo(plain.rise, 9);
    expect(Math.abs(turned.turn)).toBeLessThanOrEqual(180);
  });
});

describe('lights of one’s own', () => {
  it('share one light, however many they are', () => {
    const lights = [firstLamp, { ...firstLamp, share: 3 }, { ...firstLamp, share: 0 }];
    expect(rigOf({ rig: 'placed', lights }).lights.map((l) => l.strength)).toEqual([0.25, 0.75, 0]);
    expect(rigOf({ rig: 'placed', lights: [] })).toMatchObject({ lights: [], sky: 1 });
    expect(lightsPlaced([{ ...firstLamp, share: 0 }])[0].strength).toBe(0);
  });
  it('are those of the rig everywhere else', () => {
    expect(rigOf({ rig: 'studio', lights: [firstLamp, firstLamp] }).lights).toHaveLength(1);
  });
});

import { CatmullRomCurve3, Quaternion, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { lengthOf, subtract, unit, type Vector } from '../model/vectors.ts';
import { cameraBetween, turned } from '../scene/camera-moves.ts';
import type { Camera } from '../scene/document.ts';
import { lens } from '../scene/things/lens.ts';
import { CameraPath, SmoothCurve } from './camera-path.ts';

const places: Vector[] = [
  [0, 0, 0],
  [1, 0.2, 0],
  [1.1, 2, 0.5],
  [4, 2.5, 3],
  [3, 0, 3.2],
];
const three = (v: readonly number[]): Vector3 => new Vector3(...(v as Vector));
const close = (found: readonly number[], wanted: Vector3, digits = 12): void => {
  for (const [k, v] of found.entries()) expect(v).toBeCloseTo(wanted.getComponent(k), digits);
};
const at = (position: Vector, more: Partial<Camera> = {}): Camera => ({ ...lens.plain, position, ...more });

describe('a smooth curve', () => {
  it('is the centripetal spline of a package of the registry (three), from end to end', () => {
    const known = new CatmullRomCurve3(places.map(three), false, 'centripetal');
    const curve = new SmoothCurve(places);
    for (let part = 0; part < places.length - 1; part++)
      for (const share of [0, 0.1, 0.37, 0.5, 0.93, 1])
        close(curve.at(part, share), known.getPoint((part + share) / (places.length - 1)));
  });
  it('that ends where it began passes there without a corner, as that of the package does', () => {
    const known = new CatmullRomCurve3(places.map(three), true, 'centripetal');
    const curve = new SmoothCurve([...places, places[0]]);
    for (let part = 0; part < places.length; part++)
      for (const share of [0, 0.25, 0.5, 0.8])
        close(curve.at(part, share), known.getPoint((part + share) / places.length));
    const step = 1e-5;
    const into = unit(subtract(curve.at(places.length - 1, 1), curve.at(places.length - 1, 1 - step)));
    const outOf = unit(subtract(curve.at(0, step), curve.at(0, 0)));
    for (const k of [0, 1, 2]) expect(into[k]).toBeCloseTo(outOf[k], 3);
  });
  it('stays where two places are one', () => {
    const curve = new SmoothCurve([places[0], places[1], places[1], places[2]]);
    expect(curve.at(1, 0.5)).toEqual(places[1]);
    for (const [part, share] of [
      [0, 0.7],
      [2, 0.3],
    ])
      for (const v of curve.at(part, share)) expect(Number.isFinite(v)).toBe(true);
  });
});

describe('a camera on its way', () => {
  it('turns along the shortest arc as quaternions of a package of the registry (three) do', () => {
    const a = unit([1, 2, 3]);
    const b = unit([-2, 0.5, 1]);
    const turn = new Quaternion().setFromUnitVectors(three(a), three(b));
    for (const share of [0, 0.2, 0.5, 0.9, 1]) {
      const known = three(a).applyQuaternion(new Quaternion().slerp(turn, share));
      close(turned(a, b, share), known, 9);
    }
  });
  it('stays as high as it is while it goes round, and level', () => {
    const camera = at([3, 0, 2], { target: [0, 0, 0], up: [0, 0, 1] });
    const quarter = at([0, 3, 2], { target: [0, 0, 0], up: [0, 0, 1] });
    for (const share of [0.1, 0.5, 0.8]) {
      const { position, up } = cameraBetween(camera, quarter, share);
      const angle = (share * Math.PI) / 2;
      close(position, new Vector3(3 * Math.cos(angle), 3 * Math.sin(angle), 2), 9);
      expect(up).toEqual([0, 0, 1]);
    }
    // From straight above there is no side to go round: the shortest arc is taken.
    const above = cameraBetween(at([0, 0, 4], { target: [0, 0, 0] }), camera, 0.5);
    for (const v of above.position) expect(Number.isFinite(v)).toBe(true);
  });
  it('rolls the short way round', () => {
    const rolled = (roll: number): Camera => at([3, 0, 2], { roll });
    expect(cameraBetween(rolled(170), rolled(-170), 0.25).roll).toBeCloseTo(175, 9);
    expect(cameraBetween(rolled(170), rolled(-170), 0.75).roll).toBeCloseTo(-175, 9);
    expect(cameraBetween(rolled(-20), rolled(30), 0.5).roll).toBeCloseTo(5, 9);
  });
  it('keeps its speed over the whole way where that is wished, within 1 %', () => {
    for (const smooth of [true, false]) {
      const path = new CameraPath(
        places.map((p) => at(p, { target: [9, 9, 9] })),
        smooth,
      );
      const steps = Array.from({ length: 101 }, (_, i) => path.atLength(i / 100).position);
      const lengths = steps.slice(1).map((p, i) => lengthOf(subtract(p, steps[i])));
      const mean = lengths.reduce((a, b) => a + b, 0) / lengths.length;
      // Corners between keys are cut where it turns at them.
      const inside = lengths.filter((l) => Math.abs(l / mean - 1) < 0.01).length;
      expect(inside).toBeGreaterThanOrEqual(smooth ? 98 : 94);
      expect(steps[0]).toEqual(places[0]);
      close(steps[100], three(places[4]), 9);
    }
  });
  it('that only turns keeps the speed of what it looks at', () => {
    const looks = (x: number): Camera => at([0, 0, 0], { target: [x, 5, 0] });
    const path = new CameraPath([looks(0), looks(1), looks(9)], true);
    const xs = [0, 0.25, 0.5, 0.75, 1].map((share) => path.atLength(share).target[0]);
    for (const [i, x] of xs.entries()) expect(x).toBeCloseTo((9 * i) / 4, 1);
  });
});

import { describe, expect, it } from 'vitest';
import { type Ease, namedEases } from '../scene/reel/ease.ts';
import { eased } from './easing.ts';

const curve = (...handles: [number, number, number, number]): Ease => ({ kind: 'curve', handles });

/**
 * The same by another way: the real root of the cubic x(t) = x in [0, 1] in closed form (Cardano; Viète where there are three),
 * put into y(t) by de Casteljau's construction. W3C, CSS Easing Functions Level 1, section 2.3.
 */
function byRoots([x1, y1, x2, y2]: readonly number[], x: number): number {
  const a = 3 * x1 - 3 * x2 + 1;
  const b = 3 * x2 - 6 * x1;
  const c = 3 * x1;
  const t = rootsOf(a, b, c, -x).reduce((best, r) => (apart(r) < apart(best) ? r : best));
  const mix = (p: number, q: number): number => p + t * (q - p);
  const [p, q, r] = [mix(0, y1), mix(y1, y2), mix(y2, 1)];
  return mix(mix(p, q), mix(q, r));
}

const apart = (root: number): number => Math.max(0, -root, root - 1);

function rootsOf(a: number, b: number, c: number, d: number): number[] {
  if (Math.abs(a) < 1e-9) {
    if (Math.abs(b) < 1e-9) return [-d / c];
    const s = Math.sqrt(Math.max(0, c * c - 4 * b * d));
    return [(-c + s) / (2 * b), (-c - s) / (2 * b)];
  }
  const shift = -b / (3 * a);
  const p = c / a - (b * b) / (3 * a * a);
  const q = (2 * b ** 3) / (27 * a ** 3) - (b * c) / (3 * a * a) + d / a;
  const D = (q / 2) ** 2 + (p / 3) ** 3;
  if (D >= 0) return [shift + Math.cbrt(-q / 2 + Math.sqrt(D)) + Math.cbrt(-q / 2 - Math.sqrt(D))];
  const radius = 2 * Math.sqrt(-p / 3);
  const angle = Math.acos(Math.min(1, Math.max(-1, (3 * q) / (p * radius)))) / 3;
  return [0, 1, 2].map((k) => shift + radius * Math.cos(angle - (2 * Math.PI * k) / 3));
}

describe('easing', () => {
  it('follows the curves of the W3C, handle by handle', () => {
    for (const handles of [
      [0.25, 0.1, 0.25, 1],
      [0.42, 0, 1, 1],
      [0, 0, 0.58, 1],
      [0.42, 0, 0.58, 1],
      [0.3, -0.6, 0.7, 1.6],
      [1, 0, 0, 1],
      [0, 1, 1, 0],
      [1, 1, 1, 1],
      [0, 0, 0, 0],
    ] as [number, number, number, number][])
      for (let i = 1; i < 200; i++) {
        const x = i / 200;
        expect(eased(curve(...handles), x), `${handles} at ${x}`).toBeCloseTo(byRoots(handles, x), 6);
      }
  });
  it('has the names of the W3C for its curves', () => {
    // ease-in, ease-out and ease-in-out of the same document, section 2.3.1.
    const handles = (said: string) => {
      const { ease } = namedEases.find((n) => n.said === said)!;
      return ease.kind === 'curve' ? ease.handles : null;
    };
    expect(handles('ease in')).toEqual([0.42, 0, 1, 1]);
    expect(handles('ease out')).toEqual([0, 0, 0.58, 1]);
    expect(handles('ease both ends')).toEqual([0.42, 0, 0.58, 1]);
  });
  it('begins at the first key and ends at the second, and holds or goes evenly between', () => {
    for (const ease of [...namedEases.map((n) => n.ease), curve(0.1, 2, 0.9, -1)]) {
      expect(eased(ease, 0)).toBe(0);
      expect(eased(ease, 1)).toBe(1);
      expect(eased(ease, -1)).toBe(0);
      expect(eased(ease, 2)).toBe(1);
    }
    expect(eased({ kind: 'hold' }, 0.999)).toBe(0);
    expect(eased({ kind: 'even' }, 0.3)).toBe(0.3);
  });
});

import { describe, expect, it } from 'vitest';
import { type Column, parseFormula } from '#core/fields/formula/parse-formula.ts';
import { readyFormulas } from '#core/fields/formula/ready-formulas.ts';
import { gradientAtPoints } from '#core/fields/gradient.ts';
import { gradientAtWalls } from '#core/fields/wall-gradient.ts';
import { flowThrough } from '#core/measure/flow-through.ts';
import { force } from '#core/measure/force.ts';
import { integral } from '#core/measure/integral.ts';
import { size } from '#core/measure/size.ts';
import type { Mesh } from '#core/model/mesh.ts';
import type { RunDescription, RunField } from '#core/model/run.ts';
import { runChain } from '#core/ops/chain/chain.ts';
import type { Workpiece } from '#core/ops/chain/workpiece.ts';
import { quadSheet } from '../made-solids.ts';
import { asked, onPoints, piece } from '../measured-pieces.ts';

/** A ring of quadrilaterals between two radii in the plane z = 0; it is closed by points that stand there twice. */
function ring(inner: number, outer: number, across: number, around: number): Mesh {
  const sheet = quadSheet(across, around, [inner, outer], [0, 2 * Math.PI]);
  const points = sheet.points.slice();
  for (let i = 0; i < points.length; i += 3) {
    const [r, angle] = [sheet.points[i], sheet.points[i + 1]];
    points.set([r * Math.cos(angle), r * Math.sin(angle), 0], i);
  }
  return { ...sheet, points };
}

const places = ({ points }: Mesh): number[][] =>
  Array.from({ length: points.length / 3 }, (_, i) => [...points.subarray(3 * i, 3 * i + 3)]);

const field = (name: string, role: RunField['role'], components: number, unit: string) =>
  ({ key: `point:${name}`, name, role, components, unit, pair: null }) as RunField;

/** A ready formula of a run with these fields, at each of so many rows. */
function ready(
  name: string,
  fields: RunField[],
  rows: number,
  columns: Record<string, Column>,
): Float32Array {
  const run = {
    fields,
    steps: [{ index: 0, time: 0, kind: 'time', number: 1 }],
  } as unknown as RunDescription;
  const { formula } = readyFormulas(run).find((r) => r.name === name)!;
  const unitOf = (of: string): string | null =>
    fields.find((f) => f.name === of)?.unit ?? (/^[xyz]$/.test(of) ? 'm' : null);
  return parseFormula(formula).evaluate(rows, (of) => columns[of] ?? null, unitOf);
}

describe('an oblique shock', () => {
  // A wedge of 15° at Mach 3 (NACA Report 1135 (1953), charts 2 to 4 and table II at 1.60; from memory): the wave stands at 32.2°,
  // behind it the Mach number is 2.25 and 0.895 of the total pressure is left. Common practice, no source: about 2.2.
  const [gas, mach, wedge] = [1.4, 3, (15 * Math.PI) / 180];
  const turned = (wave: number): number =>
    Math.atan(
      (2 * (mach ** 2 * Math.sin(wave) ** 2 - 1)) /
        (Math.tan(wave) * (mach ** 2 * (gas + Math.cos(2 * wave)) + 2)),
    );
  let [low, high] = [0.35, 1];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (turned(middle) < wedge) low = middle;
    else high = middle;
  }
  const wave = low;
  const normal = mach * Math.sin(wave);
  const [t1, p1] = [300, 1e5];
  const p2 = p1 * (1 + ((2 * gas) / (gas + 1)) * (normal ** 2 - 1));
  const density = ((gas + 1) * normal ** 2) / ((gas - 1) * normal ** 2 + 2);
  const t2 = (t1 * p2) / p1 / density;
  const speed = mach * Math.sqrt(gas * 287 * t1);
  // What goes along the wave stays; what goes across it is slowed down as the gas is pressed together.
  const [along, across] = [speed * Math.cos(wave), (speed * Math.sin(wave)) / density];
  const behind = [
    along * Math.cos(wave) + across * Math.sin(wave),
    along * Math.sin(wave) - across * Math.cos(wave),
    0,
  ];
  const fields = [
    field('U', 'velocity', 3, 'm/s'),
    field('T', 'temperature', 1, 'K'),
    field('p', 'pressure', 1, 'Pa'),
  ];
  const columns = { U: { data: [speed, 0, 0, ...behind], components: 3 }, T: [t1, t2], p: [p1, p2] };

  it('stands and turns the flow as the charts have it', () => {
    expect((wave * 180) / Math.PI).toBeCloseTo(32.2, 1);
    expect(Math.atan2(behind[1], behind[0])).toBeCloseTo(wedge, 6);
  });
  it('leaves the Mach number, and costs the total pressure, of the tables', () => {
    const [before, after] = ready('Mach number', fields, 2, columns);
    expect(before).toBeCloseTo(3, 4);
    expect(after).toBeCloseTo(2.25, 1);
    expect(Math.abs(after - 2.255)).toBeLessThan(0.005);
    const total = ready('total pressure of a gas', fields, 2, columns);
    expect(total[1] / total[0]).toBeCloseTo(0.895, 3);
    const heat = ready('total temperature', fields, 2, columns);
    expect(heat[1] / heat[0]).toBeCloseTo(1, 3);
  });
});

describe('Kirsch’s plate with a hole', () => {
  // Timoshenko, Goodier: Theory of elasticity, art. 35; from memory. Pulled along x by one.
  const stress = (x: number, y: number): number[] => {
    const [r, angle] = [Math.hypot(x, y), Math.atan2(y, x)];
    const q = (1 / r) ** 2;
    const [c2, s2] = [Math.cos(2 * angle), Math.sin(2 * angle)];
    const radial = 0.5 * (1 - q) + 0.5 * (1 - 4 * q + 3 * q * q) * c2;
    const hoop = 0.5 * (1 + q) - 0.5 * (1 + 3 * q * q) * c2;
    const shear = -0.5 * (1 + 2 * q - 3 * q * q) * s2;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    return [
      radial * c * c + hoop * s * s - 2 * shear * s * c,
      radial * s * s + hoop * c * c + 2 * shear * s * c,
      0,
      (radial - hoop) * s * c + shear * (c * c - s * s),
      0,
      0,
    ];
  };
  const plate = ring(1, 6, 80, 72);
  const s = onPoints(plate, stress);
  it('is stressed three times at the sides of the hole, and pressed at its ends', () => {
    const all = places(plate);
    const columns = { s: { data: s.data, components: 6 }, x: all.map((p) => p[0]), y: all.map((p) => p[1]) };
    const hoop = ready('hoop stress about z', [field('s', 'stress', 6, 'MPa')], all.length, columns);
    expect(Math.max(...hoop)).toBeCloseTo(3, 3);
    expect(Math.min(...hoop)).toBeCloseTo(-1, 3);
    // Two radii away it is 1.22 of what it is far away.
    const there = all.findIndex(([x, y]) => Math.abs(x) < 1e-5 && Math.abs(y - 2) < 1e-5);
    expect(hoop[there]).toBeCloseTo(1 + 0.5 / 4 + 1.5 / 16, 3);
  });
  it('carries at its waist what is pulled far away', () => {
    // Over x = 0 from the hole outwards to 6: by hand the integral of 1 + q / 2 + 3 q² / 2.
    const carried = (r: number): number => r - 0.5 / r - 0.5 / r ** 3;
    const cut = runChain(piece(plate, { s }), [
      { op: 'section', options: { normal: [1, 0, 0], offset: 1e-4, locked: false } },
    ]) as Workpiece;
    const found = asked(integral, cut, { field: 's' }).value;
    expect(found / (2 * (carried(6) - carried(1)))).toBeCloseTo(1, 3);
  });
});

describe('Hertz’ contact', () => {
  it('presses with two thirds of its largest pressure on its circle', () => {
    // Johnson: Contact mechanics, 3.4; from memory. p = p0 sqrt(1 - r²/a²).
    const [radius, most] = [0.002, 8e8];
    const spot = ring(1e-7, radius, 300, 60);
    const on = piece(spot, {
      p: onPoints(spot, (x, y) => most * Math.sqrt(Math.max(0, 1 - (x * x + y * y) / radius ** 2))),
    });
    const pushed = asked(force, on, { field: 'p', along: [0, 0, 1] });
    // Sixty sides in place of a circle.
    const area = 30 * Math.sin(Math.PI / 30) * radius ** 2;
    expect(Math.abs(pushed.value) / ((2 / 3) * most * area)).toBeCloseTo(1, 3);
    expect(asked(size, on, { of: 'area' }).value / area).toBeCloseTo(1, 4);
  });
});

describe('Womersley’s pulse in a pipe', () => {
  // J. Physiol. 127 (1955) 553; from memory. The velocity is (1 - J0(k r) / J0(k)) / i with k = i^(3/2) times the Womersley number,
  // and the flow pi (1 - 2 J1(k) / (k J0(k))) / i.
  type Complex = [number, number];
  const times = ([a, b]: Complex, [c, d]: Complex): Complex => [a * c - b * d, a * d + b * c];
  const over = (x: Complex, [c, d]: Complex): Complex =>
    times(x, [c / (c * c + d * d), -d / (c * c + d * d)]);
  const bessel = (order: 0 | 1, z: Complex): Complex => {
    const quarter = times(z, z).map((v) => -v / 4) as Complex;
    let term: Complex = order === 0 ? [1, 0] : (z.map((v) => v / 2) as Complex);
    const sum: Complex = [...term];
    for (let k = 1; k < 60; k++) {
      term = times(term, quarter).map((v) => v / (k * (k + order))) as Complex;
      sum[0] += term[0];
      sum[1] += term[1];
    }
    return sum;
  };
  const less = ([a, b]: Complex): Complex => [1 - a, -b];
  const by = ([a, b]: Complex): Complex => [b, -a];
  it.each([1, 3, 8])('carries the flow of the closed form at a Womersley number of %d', (number) => {
    const k = [Math.cos((3 * Math.PI) / 4), Math.sin((3 * Math.PI) / 4)].map((v) => number * v) as Complex;
    const bottom = bessel(0, k);
    const velocity = (x: number, y: number): Complex => {
      const r = Math.hypot(x, y);
      return by(less(over(bessel(0, k.map((v) => v * r) as Complex), bottom)));
    };
    const pipe = ring(1e-4, 1, 80, 60);
    const flow = by(less(over(bessel(1, k).map((v) => 2 * v) as Complex, times(k, bottom))));
    const area = 30 * Math.sin(Math.PI / 30);
    for (const part of [0, 1] as const) {
      const on = piece(pipe, { v: onPoints(pipe, (x, y) => [0, 0, velocity(x, y)[part]]) });
      const found = asked(flowThrough, on, { field: 'v', component: 'magnitude', along: [0, 0, 1] }).value;
      expect(found / area).toBeCloseTo(flow[part], 3);
    }
  });
});

describe('flows that turn', () => {
  it('Lamb and Oseen’s vortex has its curl everywhere, with the second order', () => {
    // Saffman: Vortex dynamics, 13.1; from memory. With 4 nu t = 1 and a circulation of pi the curl is exp(-r²).
    const worst = (n: number): number => {
      const sheet = quadSheet(n, n, [-2, 2], [-2, 2]);
      const v = onPoints(sheet, (x, y) => {
        const r2 = x * x + y * y;
        const rate = r2 === 0 ? 0.5 : (1 - Math.exp(-r2)) / (2 * r2);
        return [-y * rate, x * rate, 0];
      });
      const g = gradientAtPoints(sheet, v.data, 3);
      return Math.max(
        ...places(sheet).map(([x, y], i) =>
          Math.max(Math.abs(x), Math.abs(y)) > 1.5
            ? 0
            : Math.abs(g[9 * i + 3] - g[9 * i + 1] - Math.exp(-x * x - y * y)),
        ),
      );
    };
    const [coarse, fine] = [worst(24), worst(48)];
    expect(fine).toBeLessThan(0.01);
    expect(Math.log2(coarse / fine)).toBeGreaterThan(1.8);
  });

  it('Couette’s flow between cylinders drags on the inner one as it must', () => {
    // Landau, Lifshitz: Fluid mechanics, § 18; from memory. The inner one turns with one; the shear on it is 2 b² / (b² - a²).
    const [a, b] = [1, 2];
    const worst = (n: number): number => {
      const gap = ring(a, b, n, 8 * n);
      const c = (a * a * b * b) / (b * b - a * a);
      const v = onPoints(gap, (x, y) => {
        const r2 = x * x + y * y;
        const rate = c / r2 - (a * a) / (b * b - a * a);
        return [-y * rate, x * rate, 0];
      });
      const g = gradientAtWalls(gap, v.data, 3);
      let most = 0;
      for (const [i, [x, y]] of places(gap).entries()) {
        if (Math.abs(Math.hypot(x, y) - a) > 1e-5) continue;
        const at = 9 * i;
        // Twice the symmetric part, across the radius, around it.
        const shear = [
          2 * g[at] * x + (g[at + 1] + g[at + 3]) * y,
          (g[at + 1] + g[at + 3]) * x + 2 * g[at + 4] * y,
        ];
        const around = (-y * shear[0] + x * shear[1]) / (a * a);
        most = Math.max(most, Math.abs(around + (2 * b * b) / (b * b - a * a)));
      }
      return most;
    };
    const [coarse, fine] = [worst(8), worst(16)];
    expect(fine).toBeLessThan(0.03);
    expect(Math.log2(coarse / fine)).toBeGreaterThan(1.6);
  });

  it('the tip of a rotor runs with the rate times its radius', () => {
    // Common practice, no source. At rest in a frame that turns with 10 a second.
    const radii = [0, 0.1, 0.3];
    const columns = {
      W: { data: new Float64Array(9), components: 3 },
      x: radii.map((r) => 0.6 * r),
      y: radii.map((r) => 0.8 * r),
      z: [0, 0, 0.2],
    };
    const fields = [field('W', 'relative velocity', 3, 'm/s')];
    const found = ready('absolute velocity', fields, 3, columns);
    for (const [i, r] of radii.entries())
      expect(Math.hypot(...found.subarray(3 * i, 3 * i + 3))).toBeCloseTo(10 * r, 6);
  });
});

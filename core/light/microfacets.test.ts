import { describe, expect, it } from 'vitest';
import { facetsSeen, facetsTowards, fibresTowards, fresnel, straightReflection } from './microfacets.ts';
import {
  facetReflectance,
  facetSample,
  fibreReflectance,
  radicalInverse,
  reflectanceTable,
  TABLE_SIZE,
} from './reflectance-table.ts';

/** The mean over directions above a surface, evenly spread over the hemisphere, times its solid angle. */
function overHemisphere(of: (cosine: number, turn: number) => number, rows = 400, columns = 64): number {
  let sum = 0;
  for (let i = 0; i < rows; i++)
    for (let k = 0; k < columns; k++) sum += of((i + 0.5) / rows, (2 * Math.PI * (k + 0.5)) / columns);
  return (2 * Math.PI * sum) / (rows * columns);
}

describe('facets', () => {
  it.each([0.15, 0.3, 0.6, 1])(
    'cover the surface once, slopes %f wide (Walter et al. 2007, eq. 4)',
    (alpha) => {
      expect(overHemisphere((nh) => facetsTowards(nh, alpha) * nh, 20_000, 1)).toBeCloseTo(1, 3);
    },
  );
  it.each([
    // Of all facets turned evenly (alpha 1) the share seen from 0° is D = 1/pi everywhere.
    [1, 1, 1 / Math.PI],
    [0.5, 1, 1 / Math.PI],
    // Straight on: 1 / (pi alpha²).
    [1, 0.5, 4 / Math.PI],
    [1, 0.1, 100 / Math.PI],
  ])('face half way at cosine %f and width %f as the formula says', (nh, alpha, wanted) => {
    expect(facetsTowards(nh, alpha)).toBeCloseTo(wanted, 9);
  });
  it('hide each other as Smith says: seen and lit straight on not at all, along the surface by half and more', () => {
    // G = 4 nl nv V; with correlated heights G(nl, 1) = G1(nl) (Heitz 2014, section 3).
    for (const alpha of [0.2, 0.5, 0.9])
      for (const nl of [0.1, 0.4, 0.8]) {
        const tangent2 = (1 - nl * nl) / (nl * nl);
        const alone = 2 / (1 + Math.sqrt(1 + alpha * alpha * tangent2));
        expect(4 * nl * facetsSeen(nl, 1, alpha)).toBeCloseTo(alone, 9);
      }
    expect(4 * facetsSeen(1, 1, 0.4)).toBeCloseTo(1, 9);
  });
  it('take light in either direction alike (Helmholtz)', () => {
    expect(facetsSeen(0.3, 0.8, 0.4)).toBe(facetsSeen(0.8, 0.3, 0.4));
  });
  it('reflect as glass and water do straight on (Hecht, Optics: 4 % and 2 %), and wholly at grazing angles', () => {
    expect(straightReflection(1.5)).toBeCloseTo(0.04, 4);
    expect(straightReflection(1.333)).toBeCloseTo(0.0204, 4);
    expect(fresnel(0.04, 0)).toBe(1);
    expect(fresnel(0.04, 1)).toBe(0.04);
    // Glass at 60°: 8.9 % for unpolarized light by Fresnel's equations; Schlick's is good to a hundredth.
    expect(Math.abs(fresnel(0.04, 0.5) - 0.0892)).toBeLessThan(0.025);
  });
  it('of cloth cover it once as well (Estevez and Kulla 2017)', () => {
    for (const r of [0.3, 0.6, 1])
      expect(overHemisphere((nh) => fibresTowards(nh, r) * nh, 20_000, 1)).toBeCloseTo(1, 2);
  });
});

describe('what is reflected of even light', () => {
  it('is the same by facets and by directions spread evenly over the hemisphere', () => {
    for (const [nv, roughness] of [
      [0.9, 0.7],
      [0.4, 0.8],
      [0.6, 1],
    ]) {
      const alpha = roughness ** 2;
      const all = overHemisphere((nl, turn) => {
        const [s, t] = [Math.sqrt(1 - nl * nl), Math.sqrt(1 - nv * nv)];
        const half = [s * Math.cos(turn) + t, s * Math.sin(turn), nl + nv];
        const nh = half[2] / Math.hypot(...half);
        return facetsTowards(nh, alpha) * facetsSeen(nl, nv, alpha) * nl;
      });
      const [scale, offset] = facetReflectance(nv, roughness, 8192);
      expect(scale + offset).toBeCloseTo(all, 2);
    }
  });
  it('is never more than all of it, and all of it by a smooth mirror', () => {
    const table = reflectanceTable();
    for (let i = 0; i < table.length; i += 4) {
      expect(table[i] + table[i + 1]).toBeLessThanOrEqual(1.002);
      expect(table[i]).toBeGreaterThanOrEqual(0);
    }
    const [scale, offset] = facetReflectance(0.7, 0.02);
    expect(scale + offset).toBeCloseTo(1, 2);
    // And 4 % of glass is what is left of the straight reflection, with the rest by Schlick.
    expect(0.04 * scale + offset).toBeCloseTo(fresnel(0.04, 0.7), 2);
    expect(table).toHaveLength(4 * TABLE_SIZE * TABLE_SIZE);
  });
  it.each([1, 0.7, 0.5, 0.2])(
    'loses what turns between facets as the integral in closed form says, cosine %f',
    (nv) => {
      // With slopes of width 1, D = 1/pi and V = 1 / (2 (nl + nv)): the mean is 1 - nv ln(1 + 1 / nv).
      const [scale, offset] = facetReflectance(nv, 1, 16_384);
      expect(scale + offset).toBeCloseTo(1 - nv * Math.log(1 + 1 / nv), 2);
    },
  );
  it('by fibres grows towards the edge and stays below all of it', () => {
    for (const r of [0.3, 0.6, 1]) {
      expect(fibreReflectance(0.1, r)).toBeGreaterThan(fibreReflectance(0.9, r));
      for (const nv of [0.05, 0.3, 0.7, 1]) expect(fibreReflectance(nv, r)).toBeLessThan(1.6);
    }
  });
});

describe('samples', () => {
  it('are spread evenly: the first of them in halves, quarters and eighths', () => {
    expect([0, 1, 2, 3, 4, 5, 6, 7].map(radicalInverse)).toEqual([
      0, 0.5, 0.25, 0.75, 0.125, 0.625, 0.375, 0.875,
    ]);
  });
  it('of facets come as often as facets turn that way', () => {
    const alpha = 0.4;
    // The share of facets within 20° of the normal, in closed form: of nh² the density integrates to this.
    const c2 = Math.cos(Math.PI / 9) ** 2;
    const within = (1 - c2) / (1 + (alpha * alpha - 1) * c2);
    let found = 0;
    for (let i = 0; i < 4096; i++)
      if (facetSample((i + 0.5) / 4096, radicalInverse(i), alpha)[2] ** 2 > c2) found++;
    expect(found / 4096).toBeCloseTo(within, 2);
  });
});

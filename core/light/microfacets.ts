/**
 * How light is reflected by a surface of many small facets. Cosines are of the angles to the normal: `nl` of the light, `nv`
 * of the view, `nh` of the half way between, and `vh` between view and half way. `alpha` is the width of the slopes, the
 * square of what finishes call roughness (Burley 2012).
 *
 * The shaders of the stage hold the same formulas; `tests/browser/finishes.test.ts` compares the two on the card.
 */

/** Share of the facets that face half way (Trowbridge and Reitz 1975; Walter et al. 2007, eq. 33), per steradian. */
export function facetsTowards(nh: number, alpha: number): number {
  const a2 = alpha * alpha;
  const d = nh * nh * (a2 - 1) + 1;
  return a2 / (Math.PI * d * d);
}

/**
 * Share of the facets that are both lit and seen, over 4 nl nv (Smith's function with correlated heights, Heitz 2014, eq. 99).
 */
export function facetsSeen(nl: number, nv: number, alpha: number): number {
  const a2 = alpha * alpha;
  const l = nv * Math.sqrt(nl * nl * (1 - a2) + a2);
  const v = nl * Math.sqrt(nv * nv * (1 - a2) + a2);
  return 0.5 / Math.max(l + v, 1e-9);
}

/** Share that is reflected by a facet of which `f0` is reflected straight on (Schlick 1994). */
export const fresnel = (f0: number, vh: number): number => f0 + (1 - f0) * (1 - vh) ** 5;

/** Share of light reflected straight on by a clear material, from its refractive index in air (Fresnel). */
export const straightReflection = (index: number): number => ((index - 1) / (index + 1)) ** 2;

/** Share of the fibres of a cloth that face half way (Estevez and Kulla 2017, eq. 2), per steradian. */
export function fibresTowards(nh: number, roughness: number): number {
  const inverse = 1 / Math.max(roughness, 0.05);
  return ((2 + inverse) * Math.max(0, 1 - nh * nh) ** (inverse / 2)) / (2 * Math.PI);
}

/** Fibres that are lit and seen, over 4 nl nv (Neubelt and Pettineo 2013). */
export const fibresSeen = (nl: number, nv: number): number => 1 / (4 * Math.max(nl + nv - nl * nv, 1e-3));

import { facetsSeen, fibresSeen, fibresTowards } from './microfacets.ts';

/** Width and height of the table: view angles across, roughness upwards. */
export const TABLE_SIZE = 32;
/** Directions a number of the table is the mean of. */
const DIRECTIONS = 1024;

/**
 * What share of even light all around a surface reflects towards a view, of one scattering. Four numbers a place: what is
 * multiplied by the straight reflection and what is added to it (Karis 2013, split sum), that of fibres, and nothing.
 *
 * Columns: cosine of the view from 0 to 1, rows: roughness from 0 to 1, both in the middles of texels.
 *
 * @returns TABLE_SIZE² × 4 numbers
 */
export function reflectanceTable(): Float32Array<ArrayBuffer> {
  const out = new Float32Array(4 * TABLE_SIZE * TABLE_SIZE);
  for (let row = 0; row < TABLE_SIZE; row++)
    for (let column = 0; column < TABLE_SIZE; column++) {
      const [nv, roughness] = [(column + 0.5) / TABLE_SIZE, (row + 0.5) / TABLE_SIZE];
      const [scale, offset] = facetReflectance(nv, roughness);
      out.set([scale, offset, fibreReflectance(nv, roughness), 0], 4 * (row * TABLE_SIZE + column));
    }
  return out;
}

/** Van der Corput's numbers in base two: evenly spread in 0..1 from the start. */
export function radicalInverse(i: number): number {
  let bits = i >>> 0;
  let sum = 0;
  for (let half = 0.5; bits > 0; half /= 2, bits >>>= 1) if (bits & 1) sum += half;
  return sum;
}

/** The direction half way of a facet that is there as often as facets turn that way, in the frame of the normal. */
export function facetSample(u: number, v: number, alpha: number): [number, number, number] {
  const cosine = Math.sqrt((1 - v) / (1 + (alpha * alpha - 1) * v));
  const sine = Math.sqrt(Math.max(0, 1 - cosine * cosine));
  return [sine * Math.cos(2 * Math.PI * u), sine * Math.sin(2 * Math.PI * u), cosine];
}

/**
 * By sampling the facets (Karis 2013).
 *
 * @returns share of all light that is reflected towards a view: `f0` times the first number, and the second added
 */
export function facetReflectance(nv: number, roughness: number, directions = DIRECTIONS): [number, number] {
  const alpha = Math.max(roughness * roughness, 1e-3);
  const view = [Math.sqrt(1 - nv * nv), 0, nv];
  let scale = 0;
  let offset = 0;
  for (let i = 0; i < directions; i++) {
    const [hx, , nh] = facetSample((i + 0.5) / directions, radicalInverse(i), alpha);
    const vh = view[0] * hx + view[2] * nh;
    const nl = 2 * vh * nh - nv;
    if (nl <= 0 || vh <= 0) continue;
    const weight = (4 * facetsSeen(nl, nv, alpha) * nl * vh) / nh / directions;
    const rest = (1 - vh) ** 5;
    scale += weight * (1 - rest);
    offset += weight * rest;
  }
  return [scale, offset];
}

/** The same of fibres, over directions evenly spread above the surface. */
export function fibreReflectance(nv: number, roughness: number, directions = DIRECTIONS): number {
  const view = [Math.sqrt(1 - nv * nv), 0, nv];
  let sum = 0;
  for (let i = 0; i < directions; i++) {
    const nl = radicalInverse(i) || 0.5 / directions;
    const turn = (2 * Math.PI * (i + 0.5)) / directions;
    const sine = Math.sqrt(1 - nl * nl);
    const half = [sine * Math.cos(turn) + view[0], sine * Math.sin(turn), nl + nv];
    const nh = half[2] / Math.hypot(...half);
    sum += (2 * Math.PI * fibresTowards(nh, roughness) * fibresSeen(nl, nv) * nl) / directions;
  }
  return sum;
}

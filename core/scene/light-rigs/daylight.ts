import { dot, unit } from '../../model/vectors.ts';
import { brighter, type LightRig, mixed } from './light-rig.ts';

/** Numbers of a sky of the standard: how it darkens with the height, and how it brightens around the sun. */
const CLEAR = { a: -1, b: -0.32, c: 10, d: -3, e: 0.45 };

/**
 * How bright a clear sky is in a direction, as a multiple of its zenith: type 12 of ISO 15469:2004 (CIE S 011).
 *
 * @param rise sine of the height of the direction above the horizon
 * @param toSun angle between the direction and the sun, in radians
 * @param sunDown angle between zenith and sun, in radians
 */
export function clearSky(rise: number, toSun: number, sunDown: number): number {
  const { a, b, c, d, e } = CLEAR;
  const gradation = (sine: number): number => 1 + a * Math.exp(b / Math.max(sine, 0.02));
  const around = (x: number): number =>
    1 + c * (Math.exp(d * x) - Math.exp((d * Math.PI) / 2)) + e * Math.cos(x) ** 2;
  return (gradation(rise) * around(toSun)) / (gradation(1) * around(sunDown));
}

/** A clear day: the sun, sharp, and the blue of the sky in the shade. */
export const daylight: LightRig = {
  id: 'daylight',
  name: 'Daylight',
  purpose: 'sun and clear sky',
  lights: [{ right: -0.7, up: 0.9, towards: 0.6, size: 0.02, strength: 1, warmth: 0.22 }],
  surroundings(d, sun) {
    const to = unit(d);
    const toSun = Math.acos(Math.min(1, Math.max(-1, dot(to, sun))));
    const sky = clearSky(Math.max(0, to[2]), toSun, Math.acos(Math.min(1, sun[2])));
    const blue = mixed([0.86, 0.93, 1.04], [0.52, 0.74, 1.16], Math.max(0, to[2]) ** 0.6);
    if (to[2] >= 0) return brighter(blue, Math.min(sky, 8));
    return mixed(brighter([0.86, 0.93, 1.04], 1.4), [0.62, 0.6, 0.56], Math.min(1, -6 * to[2]));
  },
  sky: 0.34,
  follows: false,
  exposure: 1.3,
};

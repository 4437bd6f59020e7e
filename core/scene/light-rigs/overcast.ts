import type { LightRig } from './light-rig.ts';

/**
 * How bright an overcast sky is, as a multiple of its zenith: three times as bright above as at the horizon (Moon and
 * Spencer 1942; type 16 of ISO 15469:2004).
 *
 * @param rise sine of the height above the horizon
 */
export const overcastSky = (rise: number): number => (1 + 2 * Math.max(0, rise)) / 3;

/** A grey day: no lamp at all, soft shade everywhere. */
export const overcast: LightRig = {
  id: 'overcast',
  name: 'Overcast',
  purpose: 'a grey sky, soft shade and no shadow',
  lights: [],
  surroundings(d) {
    const v = d[2] >= 0 ? overcastSky(d[2]) : 0.33 - 0.1 * Math.min(1, -4 * d[2]);
    return [0.98 * v, v, 1.03 * v];
  },
  sky: 1,
  follows: false,
  exposure: 1.1,
};

import { type LightRig, panel, soft } from './light-rig.ts';

/** A hall with rows of tubes under its ceiling and a window along one wall. */
export const workshop: LightRig = {
  id: 'workshop',
  name: 'Workshop light',
  purpose: 'rows of tubes and a window',
  lights: [
    { right: 0.35, up: 1, towards: 0.3, size: 0.3, strength: 0.6, warmth: -0.04 },
    { right: -1, up: 0.55, towards: 0.35, size: 0.26, strength: 0.4, warmth: -0.1 },
  ],
  surroundings(d) {
    const wall = 0.42 + 0.2 * soft(-0.2, 0.6, d[2]);
    let tubes = 0;
    if (d[2] > 0.25) {
      // On a flat ceiling rows stand at even distances.
      const [along, across] = [d[0] / d[2], d[1] / d[2]];
      const row = Math.abs(across - Math.round(across / 1.1) * 1.1);
      tubes = Math.abs(along) < 2.6 ? 7 * soft(0.16, 0.09, row) : 0;
    }
    const window = 2.6 * panel(d, { turn: -1.35, rise: 0.3 }, 0.6, 0.24, 0.03);
    const floor = d[2] < 0 ? -0.12 * Math.min(1, -3 * d[2]) : 0;
    const v = wall + floor;
    return [v + 0.97 * tubes + 0.93 * window, v + tubes + window, 0.97 * v + 1.02 * tubes + 1.12 * window];
  },
  sky: 0.5,
  follows: false,
  exposure: 1.35,
};

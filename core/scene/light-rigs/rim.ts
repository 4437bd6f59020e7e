import { type LightRig, panel } from './light-rig.ts';

/** Bodies in the half dark, drawn by the light along their edges. */
export const rim: LightRig = {
  id: 'rim',
  name: 'Rim light',
  purpose: 'bright edges before a dark room',
  lights: [
    { right: 0.95, up: 0.55, towards: -0.75, size: 0.12, strength: 0.42, warmth: -0.12 },
    { right: -0.95, up: 0.45, towards: -0.6, size: 0.12, strength: 0.28, warmth: 0.22 },
    { right: -0.3, up: 0.8, towards: 0.9, size: 0.3, strength: 0.3, warmth: 0 },
  ],
  surroundings(d) {
    const right = 5 * panel(d, { turn: 2.2, rise: 0.3 }, 0.16, 0.9, 0.04);
    const left = 4 * panel(d, { turn: -2.25, rise: 0.3 }, 0.13, 0.9, 0.04);
    const room = 0.16 + 0.14 * Math.max(0, d[2]);
    return [room + right + 0.96 * left, room + 1.0 * right + left, 1.06 * room + 1.08 * right + 0.86 * left];
  },
  sky: 0.34,
  follows: true,
  exposure: 1.1,
};

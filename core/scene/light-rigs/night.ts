import { type LightRig, panel } from './light-rig.ts';

/** A dark room with one warm lamp, for what glows. */
export const night: LightRig = {
  id: 'night',
  name: 'Night light',
  purpose: 'one warm lamp in the dark, for what glows',
  lights: [
    { right: 0.65, up: 0.75, towards: 0.35, size: 0.1, strength: 0.72, warmth: 0.62 },
    { right: -0.9, up: 0.3, towards: -0.5, size: 0.2, strength: 0.28, warmth: -0.7 },
  ],
  surroundings(d) {
    const moon = 0.5 * panel(d, { turn: -2.3, rise: 0.35 }, 0.3, 0.5, 0.1);
    const lamp = 2.6 * panel(d, { turn: 0.9, rise: 0.75 }, 0.22, 0.16, 0.06);
    const room = 0.09 + 0.05 * Math.max(0, d[2]);
    return [
      room * 0.9 + 0.7 * moon + lamp,
      room + 0.85 * moon + 0.72 * lamp,
      1.25 * room + moon + 0.42 * lamp,
    ];
  },
  sky: 0.3,
  follows: true,
  exposure: 0.8,
};

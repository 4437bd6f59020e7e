import { type LightRig, panel, soft } from './light-rig.ts';

/** One large soft lamp, high and to the left, as a photographer would set it, in a bright room with a ceiling of light. */
export const studio: LightRig = {
  id: 'studio',
  name: 'Studio light',
  purpose: 'soft lamp, shade and shadow',
  lights: [{ right: -0.45, up: 0.95, towards: 0.85, size: 0.22, strength: 1, warmth: 0.04 }],
  surroundings(d) {
    const room = 0.82 + 0.18 * soft(-0.4, 0.9, d[2]);
    const ceiling = 0.9 * soft(0.78, 0.86, d[2]);
    const left = 1.2 * panel(d, { turn: -1.15, rise: 0.45 }, 0.34, 0.42);
    const back = 0.9 * panel(d, { turn: 2.5, rise: 0.35 }, 0.28, 0.5);
    // What lies towards the picture's foot and behind whoever looks is darker, so that edges stand out.
    const dark = 0.45 * soft(0.45, 0.9, d[0]) * soft(0.5, -0.1, d[2]);
    const v = room + ceiling + left + back - dark;
    return [v, v, v];
  },
  sky: 0.56,
  follows: true,
  exposure: 1.2,
};

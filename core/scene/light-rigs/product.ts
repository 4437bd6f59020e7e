import { type LightRig, panel, soft } from './light-rig.ts';

/** A white tent with two tall panels and dark strips between them, which draw the edges of metal and glass. */
export const product: LightRig = {
  id: 'product',
  name: 'Product light',
  purpose: 'tall soft panels, for metal and glass',
  lights: [
    { right: 0.8, up: 1, towards: 0.6, size: 0.34, strength: 0.62, warmth: 0 },
    { right: -1, up: 0.5, towards: 0.25, size: 0.3, strength: 0.38, warmth: 0.08 },
  ],
  surroundings(d) {
    const tent = 0.62 + 0.3 * soft(-0.5, 0.8, d[2]);
    const right = 3.2 * panel(d, { turn: 0.95, rise: 0.35 }, 0.3, 0.75, 0.04);
    const left = 2.4 * panel(d, { turn: -1.3, rise: 0.3 }, 0.22, 0.7, 0.04);
    const strips =
      panel(d, { turn: 0.35, rise: 0.1 }, 0.16, 0.9, 0.05) +
      panel(d, { turn: -0.75, rise: 0.1 }, 0.12, 0.9, 0.05) +
      panel(d, { turn: 1.7, rise: 0.1 }, 0.14, 0.9, 0.05);
    const v = Math.max(0.05, tent + right + left - 0.55 * strips);
    return [v, v, v];
  },
  sky: 0.52,
  follows: true,
  exposure: 1.25,
};

import { finish } from '../finish.ts';

/** Colours laid on: they take that of what they cover. */
export const paints = [
  finish('paint', 'matte-paint', 'matte paint', { roughness: 0.9 }),
  finish('paint', 'satin-paint', 'satin paint', { roughness: 0.42 }),
  finish('paint', 'gloss-paint', 'gloss paint', { roughness: 0.5, coat: 1, coatRoughness: 0.06 }),
  finish('paint', 'powder-coat', 'powder coat', {
    roughness: 0.55,
    texture: 'cast',
    grain: 0.35,
    relief: 0.22,
  }),
  finish('paint', 'hammer-paint', 'hammer paint', {
    roughness: 0.35,
    metal: 0.35,
    texture: 'hammered',
    grain: 1.1,
    relief: 0.5,
  }),
  finish('paint', 'metallic-paint', 'metallic paint', {
    roughness: 0.4,
    metal: 0.6,
    coat: 1,
    coatRoughness: 0.05,
    texture: 'flakes',
    grain: 0.25,
    relief: 0.3,
  }),
  finish('paint', 'plastic', 'moulded plastic', { roughness: 0.3 }),
];

import { finish } from '../finish.ts';

/** What goes into an oven, comes out of it, and is left behind. */
export const bakery = [
  finish('bakery', 'crust', 'crust', {
    colour: '#b3712f',
    roughness: 0.68,
    coat: 0.15,
    coatRoughness: 0.45,
    texture: 'crumb',
    grain: 1.6,
    relief: 0.5,
    contrast: 0.6,
    colour2: '#6b3713',
  }),
  finish('bakery', 'dough', 'dough', {
    colour: '#ecdcb8',
    roughness: 0.7,
    sheen: 0.3,
    sheenColour: '#fff6e0',
    texture: 'cast',
    grain: 2,
    relief: 0.18,
  }),
  finish('bakery', 'flour', 'flour', {
    colour: '#f5f0e6',
    roughness: 1,
    sheen: 0.5,
    sheenColour: '#ffffff',
    texture: 'cast',
    grain: 0.3,
    relief: 0.3,
  }),
  finish('bakery', 'glaze', 'sugar glaze', {
    colour: '#f3e3c6',
    roughness: 0.5,
    coat: 1,
    coatRoughness: 0.04,
    texture: 'ripples',
    grain: 3,
    relief: 0.1,
  }),
  finish('bakery', 'soot', 'soot', {
    colour: '#1d1b1a',
    roughness: 1,
    sheen: 0.2,
    sheenColour: '#57534e',
    texture: 'patches',
    grain: 1.5,
    relief: 0.3,
    contrast: 0.4,
    colour2: '#35302c',
  }),
];

import { finish } from '../finish.ts';

/** Wood, rubber and cloth. */
export const soft = [
  finish('soft', 'rubber', 'rubber', {
    colour: '#2b2a29',
    roughness: 0.8,
    sheen: 0.25,
    sheenColour: '#8a8883',
  }),
  finish('soft', 'silicone', 'silicone', { roughness: 0.55, sheen: 0.4, sheenColour: '#ffffff' }),
  finish('soft', 'oak', 'oiled oak', {
    colour: '#bd8f5b',
    roughness: 0.6,
    texture: 'rings',
    grain: 2.2,
    contrast: 0.55,
    colour2: '#80552c',
    relief: 0.08,
  }),
  finish('soft', 'walnut', 'varnished walnut', {
    colour: '#7a5236',
    roughness: 0.5,
    coat: 0.8,
    coatRoughness: 0.12,
    texture: 'rings',
    grain: 2.6,
    contrast: 0.6,
    colour2: '#3d2416',
  }),
  finish('soft', 'linen', 'linen', {
    roughness: 0.95,
    sheen: 0.6,
    sheenColour: '#f5efe2',
    texture: 'weave',
    grain: 0.35,
    relief: 0.35,
    contrast: 0.2,
    colour2: '#9c9588',
  }),
  finish('soft', 'felt', 'felt', {
    roughness: 1,
    sheen: 0.9,
    sheenColour: '#d9d4cb',
    texture: 'cast',
    grain: 0.3,
    relief: 0.25,
  }),
];

import { finish } from '../finish.ts';

/** Bodies that give light of their own. */
export const glowing = [
  finish('light', 'hot-element', 'glowing element', {
    colour: '#ff7a2e',
    roughness: 0.7,
    glow: 1.6,
    texture: 'patches',
    grain: 2,
    contrast: 0.25,
    colour2: '#c93a10',
  }),
  finish('light', 'lamp-glass', 'lit glass', { colour: '#fff1d6', roughness: 0.3, glow: 1.1 }),
];

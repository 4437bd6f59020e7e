import { finish } from '../finish.ts';

/** What one sees through. */
export const clearFinishes = [
  finish('glass and water', 'clear-glass', 'clear glass', {
    colour: '#e9f2ee',
    roughness: 0.02,
    clear: 0.96,
    depth: 0.25,
  }),
  finish('glass and water', 'frosted-glass', 'frosted glass', {
    colour: '#eef3f2',
    roughness: 0.5,
    clear: 0.8,
    depth: 0.2,
  }),
  finish('glass and water', 'smoked-glass', 'smoked glass', {
    colour: '#4d4a48',
    roughness: 0.04,
    clear: 0.9,
    depth: 0.75,
  }),
  finish('glass and water', 'blue-glass', 'blue glass', {
    colour: '#8fb4c8',
    roughness: 0.02,
    clear: 0.84,
    depth: 0.4,
  }),
  finish('glass and water', 'amber-glass', 'amber glass', {
    colour: '#c9822c',
    roughness: 0.03,
    clear: 0.92,
    depth: 0.8,
  }),
  finish('glass and water', 'water', 'water', {
    colour: '#d6ebee',
    roughness: 0.03,
    clear: 0.95,
    index: 1.33,
    depth: 0.4,
    texture: 'ripples',
    grain: 2,
    relief: 0.12,
  }),
  finish('glass and water', 'ice', 'ice', {
    colour: '#dcecf2',
    roughness: 0.22,
    clear: 0.8,
    index: 1.31,
    depth: 0.4,
    texture: 'veins',
    grain: 2,
    contrast: 0.3,
    colour2: '#ffffff',
    relief: 0.2,
  }),
  finish('glass and water', 'steam', 'steam', {
    colour: '#f6f7f7',
    roughness: 1,
    clear: 0.72,
    index: 1,
    depth: 0.1,
    texture: 'patches',
    grain: 4,
    contrast: 0.4,
    colour2: '#d9dcdd',
  }),
];

import { finish } from '../finish.ts';

/** Colours straight on, sRGB; as they look, not as tables of pure metals say. */
const STEEL = '#d3d2cf';
const ALUMINIUM = '#f4f5f5';

/** Metals that are bare or were treated. */
export const metals = [
  finish('metal', 'polished-steel', 'polished steel', { colour: STEEL, metal: 1, roughness: 0.12 }),
  finish('metal', 'brushed-steel', 'brushed steel', {
    colour: STEEL,
    metal: 1,
    roughness: 0.34,
    texture: 'brushed',
    grain: 0.3,
    relief: 0.2,
    uneven: 0.35,
  }),
  finish('metal', 'cast-iron', 'cast iron', {
    colour: '#55524e',
    metal: 0.75,
    roughness: 0.62,
    texture: 'cast',
    grain: 0.6,
    relief: 0.5,
    uneven: 0.3,
  }),
  finish('metal', 'tin-plate', 'tin plate', {
    colour: '#dcdddc',
    metal: 1,
    roughness: 0.27,
    texture: 'patches',
    grain: 2.5,
    uneven: 0.3,
  }),
  finish('metal', 'zinc-coat', 'zinc coat', {
    colour: '#c3c8cb',
    metal: 1,
    roughness: 0.42,
    texture: 'hammered',
    grain: 2.2,
    contrast: 0.22,
    colour2: '#8f979c',
    uneven: 0.4,
  }),
  finish('metal', 'satin-aluminium', 'satin aluminium', { colour: ALUMINIUM, metal: 1, roughness: 0.38 }),
  finish('metal', 'brushed-aluminium', 'brushed aluminium', {
    colour: ALUMINIUM,
    metal: 1,
    roughness: 0.3,
    texture: 'brushed',
    grain: 0.22,
    relief: 0.16,
    uneven: 0.3,
  }),
  finish('metal', 'copper', 'polished copper', { colour: '#ecb08f', metal: 1, roughness: 0.2 }),
  finish('metal', 'brass', 'satin brass', { colour: '#f1dc9c', metal: 1, roughness: 0.28 }),
  finish('metal', 'blue-steel', 'blued steel', {
    colour: '#4a5260',
    metal: 0.9,
    roughness: 0.32,
    coat: 0.3,
    coatRoughness: 0.2,
    texture: 'patches',
    grain: 3,
    contrast: 0.35,
    colour2: '#5d5149',
  }),
  finish('metal', 'rust', 'rust', {
    colour: '#8a4a2b',
    metal: 0.1,
    roughness: 0.95,
    texture: 'patches',
    grain: 1.2,
    contrast: 0.7,
    colour2: '#4d2a1c',
    relief: 0.45,
  }),
  finish('metal', 'wire', 'drawn wire', {
    colour: '#b9bab8',
    metal: 1,
    roughness: 0.3,
    texture: 'ripples',
    grain: 0.15,
    relief: 0.15,
  }),
];

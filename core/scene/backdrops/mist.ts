import type { Backdrop } from './backdrop.ts';

/** A cool, light grey. */
export const mist: Backdrop = {
  id: 'mist',
  name: 'mist',
  top: '#e9eef1',
  foot: '#c8d1d7',
  vignette: true,
  ink: '#20262b',
  halo: 'rgb(233 238 241 / 0.75)',
  plate: '#e9eef1',
};

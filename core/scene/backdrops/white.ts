import type { Backdrop } from './backdrop.ts';

/** Plain white, for print. */
export const white: Backdrop = {
  id: 'white',
  name: 'white',
  top: '#ffffff',
  foot: '#ffffff',
  vignette: true,
  ink: '#1d1b19',
  halo: 'rgb(255 255 255 / 0.8)',
  plate: '#ffffff',
};

import type { Backdrop } from './backdrop.ts';

/** Nearly black, for dark rooms. */
export const ink: Backdrop = {
  id: 'ink',
  name: 'ink',
  top: '#33363b',
  foot: '#17181b',
  vignette: true,
  ink: '#f1ece4',
  halo: 'rgb(23 24 27 / 0.7)',
  plate: '#17181b',
};

import type { Backdrop } from './backdrop.ts';

/** Warm paper. */
export const paper: Backdrop = {
  id: 'paper',
  name: 'paper',
  top: '#f3efe8',
  foot: '#ddd6cb',
  vignette: true,
  ink: '#2a2622',
  halo: 'rgb(243 239 232 / 0.75)',
  plate: '#f3efe8',
};

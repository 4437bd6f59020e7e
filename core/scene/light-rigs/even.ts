import type { LightRig } from './light-rig.ts';

/** The same light from everywhere. */
export const even: LightRig = {
  id: 'even',
  name: 'Even light',
  purpose: 'colours exactly as in the legend',
  lights: [],
  surroundings: null,
  sky: 1,
  follows: false,
  exposure: 1,
};

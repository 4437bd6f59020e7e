import type { LightRig } from './light-rig.ts';

/** Light of a panorama that goes with the scene; as bright from every side while there is none. */
export const own: LightRig = {
  id: 'own',
  name: 'Own surroundings',
  purpose: 'the light of a panorama of yours',
  lights: [],
  surroundings: () => [1, 1, 1],
  sky: 1,
  follows: false,
  exposure: 1,
};

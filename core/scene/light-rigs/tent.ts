import type { LightRig } from './light-rig.ts';

/** As bright from every side: there is shade where bodies hide each other, and nothing else. */
export const tent: LightRig = {
  id: 'tent',
  name: 'Light tent',
  purpose: 'white all around, shade only where bodies are close',
  lights: [],
  surroundings: () => [1, 1, 1],
  sky: 1,
  follows: false,
  exposure: 1,
};

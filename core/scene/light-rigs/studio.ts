import type { LightRig } from './light-rig.ts';

/** One large soft lamp, high and to the left, as a photographer would set it. */
export const studio: LightRig = {
  id: 'studio',
  name: 'Studio light',
  purpose: 'soft lamp, shade and shadow',
  key: { right: -0.45, up: 0.95, towards: 0.85, size: 0.22 },
};

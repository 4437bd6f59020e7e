import { even } from './even.ts';
import type { LightRig } from './light-rig.ts';
import { studio } from './studio.ts';

/** Every light rig; the first is the usual one. */
export const lightRigs: readonly LightRig[] = [studio, even];

export const lightRigById = (id: string): LightRig => lightRigs.find((r) => r.id === id) ?? lightRigs[0];

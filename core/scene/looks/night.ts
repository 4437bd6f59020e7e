import { shippedLook } from './shipped-look.ts';

/** Dark metal on a wet floor. */
export const night = shippedLook({
  id: 'night',
  name: 'night',
  purpose: 'for dark rooms: what glows and what is hot stands out',
  solid: { finish: 'satin-aluminium', colour: '#7f8894' },
  values: { finish: 'satin-paint' },
  things: {
    light: { rig: 'night', strength: 1.2, fill: 1.3, contact: 0.9 },
    floor: { kind: 'plain', colour: '#14171c', mirrors: 0.18, roughness: 0.25 },
    backdrop: { kind: 'own', top: '#20252d', foot: '#0b0d10' },
    glow: { strength: 0.6, reach: 3 },
    haze: { amount: 0.35, from: 0.3 },
    ink: { tint: 0.35, tintColour: '#8fb4e0' },
  },
});

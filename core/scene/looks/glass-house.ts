import { shippedLook } from './shipped-look.ts';

/** Panes with tinted edges on a floor that mirrors a little. */
export const glassHouse = shippedLook({
  id: 'glass-house',
  name: 'glass house',
  purpose: 'housings become panes, so that what happens inside is seen',
  solid: { finish: 'satin-paint', colour: '#dfe5ea' },
  housing: { finish: 'blue-glass' },
  seenThrough: { finish: 'blue-glass' },
  values: { finish: 'satin-paint' },
  things: {
    light: { rig: 'tent', contact: 0.9 },
    floor: { kind: 'mirror', mirrors: 0.12, roughness: 0.12 },
    backdrop: { kind: 'own', top: '#f3f7fa', foot: '#d3dee6' },
    ink: { tint: 0.5, tintColour: '#6f93ac' },
  },
});

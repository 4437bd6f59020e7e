import { shippedLook } from './shipped-look.ts';

/** White on black. */
export const highContrast = shippedLook({
  id: 'high-contrast',
  name: 'high contrast',
  purpose: 'bright lines around dark bodies on black, for weak eyes and bright halls',
  solid: { finish: null, colour: '#2c2f33' },
  seenThrough: { finish: null, colour: '#70767d' },
  things: {
    light: { rig: 'even', shadow: false, contact: 0 },
    floor: { kind: 'none' },
    backdrop: { kind: 'own', top: '#000000', foot: '#000000' },
    ink: { shown: true, width: 1.8, angle: 30, colour: '#ffffff' },
  },
});

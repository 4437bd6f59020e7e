import { shippedLook } from './shipped-look.ts';

/** White paper, grey bodies, thin lines. */
export const printGrey = shippedLook({
  id: 'print-grey',
  name: 'print grey',
  purpose: 'bodies in one grey with fine outlines: prints well, also without colour',
  solid: { finish: 'matte-paint', colour: '#c4c4c4' },
  seenThrough: { finish: null, colour: '#c4c4c4' },
  things: {
    light: { rig: 'overcast', contact: 0.9, fill: 1.5, highlights: false },
    floor: { kind: 'none' },
    backdrop: { kind: 'own', top: '#ffffff', foot: '#ffffff' },
    ink: { shown: true, width: 0.5, colour: '#4a4a4a' },
  },
});

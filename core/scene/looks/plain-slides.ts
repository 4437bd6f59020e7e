import { shippedLook } from './shipped-look.ts';

/** No floor, no shine, clear outlines. */
export const plainSlides = shippedLook({
  id: 'plain-slides',
  name: 'plain for slides',
  purpose: 'flat colours on white, that a projector cannot spoil',
  solid: { finish: null, colour: '#d5d9dd' },
  seenThrough: { finish: null, colour: '#9aa3ab' },
  things: {
    light: { rig: 'studio', contact: 0.4, highlights: false },
    floor: { kind: 'none' },
    backdrop: { kind: 'own', top: '#ffffff', foot: '#ffffff' },
    ink: { shown: true, creases: false, width: 1.1, colour: '#5b6570' },
  },
});

import { shippedLook } from './shipped-look.ts';

/** Black lines on white, without shade. */
export const technicalInk = shippedLook({
  id: 'technical-ink',
  name: 'technical ink',
  purpose: 'a line drawing: only values have colour',
  solid: { finish: null, colour: '#ffffff' },
  seenThrough: { finish: null, colour: '#ffffff' },
  things: {
    light: { rig: 'even', shadow: false, contact: 0 },
    floor: { kind: 'none' },
    backdrop: { kind: 'own', top: '#ffffff', foot: '#ffffff' },
    ink: { shown: true, width: 0.8, angle: 25, colour: '#111111' },
  },
});

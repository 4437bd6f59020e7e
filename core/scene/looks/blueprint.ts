import { shippedLook } from './shipped-look.ts';

/** As copies of drawings were made once, in colours of our own. */
export const blueprint = shippedLook({
  id: 'blueprint',
  name: 'blueprint',
  purpose: 'pale lines on deep blue',
  solid: { finish: null, colour: '#1c4f85' },
  seenThrough: { finish: null, colour: '#2a639c' },
  things: {
    light: { rig: 'even', shadow: false, contact: 0 },
    floor: { kind: 'none' },
    backdrop: { kind: 'own', top: '#15406e', foot: '#0f3257' },
    ink: { shown: true, width: 0.9, angle: 25, colour: '#d5e6f7' },
  },
});

import { shippedLook } from './shipped-look.ts';

/** Nothing in it has a tint of its own. */
export const reviewWhite = shippedLook({
  id: 'review-white',
  name: 'review white',
  purpose: 'bright and neutral, for engineering reviews',
  solid: { finish: 'satin-paint', colour: '#d9dcde' },
  things: {
    light: { rig: 'tent', contact: 0.8, highlights: false },
    backdrop: { kind: 'white' },
  },
});

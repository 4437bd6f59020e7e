import { shippedLook } from './shipped-look.ts';

/** Cream paint on a warm sweep. */
export const warmProduct = shippedLook({
  id: 'warm-product',
  name: 'warm product',
  purpose: 'as in a photographer’s studio, for covers and customers',
  solid: { finish: 'powder-coat', colour: '#d9cbb6' },
  seenThrough: { finish: null },
  values: { finish: 'satin-paint' },
  things: {
    light: { rig: 'product', warmth: 0.3, softness: 1.4, contact: 0.9 },
    floor: { kind: 'plain', colour: '#e9dcc6' },
    backdrop: { kind: 'sweep', top: '#efe3d0', foot: '#efe3d0' },
    focus: { blur: 1.2 },
  },
});

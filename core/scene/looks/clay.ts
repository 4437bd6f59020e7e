import { shippedLook } from './shipped-look.ts';

/** Everything as a modeller would knead it. */
export const clay = shippedLook({
  id: 'clay',
  name: 'clay',
  purpose: 'one soft material: shape before everything else',
  solid: { finish: 'matte-paint', colour: '#cdb49c' },
  seenThrough: { finish: null, colour: '#cdb49c' },
  values: { finish: 'matte-paint' },
  things: {
    light: { rig: 'overcast', contact: 1, fill: 1.4 },
    floor: { kind: 'plain', colour: '#d3c4b4' },
    backdrop: { kind: 'sweep', top: '#d8cabb', foot: '#d8cabb' },
  },
});

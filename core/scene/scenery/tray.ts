import { bodyOf, madeKind } from './scenery-kind.ts';
import { vessel } from './solids.ts';

/** A baking sheet with a low rim all around. */
export const tray = madeKind({
  id: 'tray',
  offered: 'Tray',
  purpose: 'a baking sheet with a low rim',
  sizes: {
    length: { label: 'Long', said: 'long', metres: 0.6 },
    width: { label: 'Wide', said: 'wide', metres: 0.4 },
    height: { label: 'Rim', said: 'high', metres: 0.02 },
  },
  bodies: (o) => {
    const rim = 0.35 * Math.min(o.height, 0.2 * o.width);
    const made = vessel(o, { foot: 1.2 * o.height, thick: 0.12 * o.height, rim, corner: 0.06 * o.width });
    return [bodyOf(made, 'satin-aluminium', null, 50)];
  },
});

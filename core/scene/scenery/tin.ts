import { bodyOf, madeKind } from './scenery-kind.ts';
import { vessel } from './solids.ts';

/** A loaf tin: walls that lean outward, and a rolled rim. */
export const tin = madeKind({
  id: 'tin',
  offered: 'Tin',
  purpose: 'a loaf tin, open above',
  sizes: {
    length: { label: 'Long', said: 'long', metres: 0.3 },
    width: { label: 'Wide', said: 'wide', metres: 0.12 },
    height: { label: 'High', said: 'high', metres: 0.1 },
  },
  bodies: (o) => {
    const rim = 0.05 * Math.min(o.width, o.height);
    const made = vessel(o, { foot: 0.16 * o.width, thick: 0.35 * rim, rim, corner: 0.12 * o.width });
    return [bodyOf(made, 'tin-plate', null, 50)];
  },
});

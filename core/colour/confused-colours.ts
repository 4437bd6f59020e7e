import type { Rgb } from './cielab.ts';
import { type Vision, visions } from './colour-vision.ts';
import { seenAll } from './map-figures.ts';
import { colourDifference } from './perceived.ts';

/** Places of a map that are compared with each other. */
const PLACES = 24;
/** Places that are further apart than this share of a map must look different. */
const APART = 0.2;
/** Colours that are closer than this look alike across a picture (CIEDE2000). Common practice, no source. */
const ALIKE = 6;

type Cones = Exclude<Vision, 'grey'>;

const known = new WeakMap<readonly Rgb[], Cones[]>();

/** For whom places far apart on a map look alike, though others tell them apart. */
export function confusedBy(colours: readonly Rgb[]): Cones[] {
  const found = known.get(colours) ?? compared(colours);
  known.set(colours, found);
  return found;
}

function compared(colours: readonly Rgb[]): Cones[] {
  const taken = Array.from(
    { length: PLACES },
    (_, i) => colours[Math.round((i / (PLACES - 1)) * (colours.length - 1))],
  );
  const isAlike = (a: Rgb, b: Rgb): boolean => colourDifference(a, b) < ALIKE;
  return visions.filter((vision): vision is Cones => {
    if (vision === 'grey') return false;
    const seen = seenAll(taken, vision);
    return taken.some((a, i) =>
      taken.some((b, k) => (k - i) / (PLACES - 1) > APART && isAlike(seen[i], seen[k]) && !isAlike(a, b)),
    );
  });
}

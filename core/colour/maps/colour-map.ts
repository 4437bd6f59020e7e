import type { Rgb } from '../cielab.ts';

/**
 * What a map is made for: quantities that go one way; both ways from a middle; around; in parts of their own; that name
 * things; or greys.
 */
export const mapGroups = ['sequential', 'diverging', 'cyclic', 'multi-part', 'categorical', 'grey'] as const;
export type MapGroup = (typeof mapGroups)[number];

/** What of a run a map suits especially. */
export type MapRole =
  | 'temperature'
  | 'speed'
  | 'pressure'
  | 'stress'
  | 'signed'
  | 'phase'
  | 'id'
  | 'salt'
  | 'oxygen'
  | 'density'
  | 'depth'
  | 'height'
  | 'rain'
  | 'fraction';

export interface ColourMap {
  id: string;
  name: string;
  group: MapGroup;
  /** What it is good for, in a few words. */
  note: string;
  /** Of a published one, by whom. */
  published: string | null;
  /** Made so that equal steps of the quantity look equal. */
  even: boolean;
  suits: readonly MapRole[];
  /** 256 sRGB colours from low to high; of a categorical map its own ones, each as it is. */
  readonly colours: readonly Rgb[];
}

/** How many colours of a map without steps are kept. */
export const MAP_COLOURS = 256;

/** A map whose colours are worked out when they are first asked for. */
export function colourMap(
  said: Pick<ColourMap, 'id' | 'name' | 'group' | 'note'> & Partial<ColourMap>,
  make: () => readonly Rgb[],
): ColourMap {
  let made: readonly Rgb[] | null = null;
  return {
    published: null,
    even: false,
    suits: [],
    ...said,
    get colours() {
      made ??= make();
      return made;
    },
  };
}

import { createContext } from 'react';
import type { Statistics } from '#core/model/statistics.ts';
import type { Found, WantedValue } from '#core/scene/annotations/attachment.ts';
import type { Nearest } from '#engine/attached.ts';
import type { Picked } from '#stage/picking.ts';

/** Finds the point and cell that are nearest to what was pointed at. */
export type FindNearest = (picked: Picked) => Promise<Nearest | null>;

/** Finds things on what is shown, which the workers of the page hold. */
export interface Finding {
  nearest: FindNearest;
  /** Where a quantity is lowest or highest at a step, inside of bodies too. */
  extreme(kind: 'lowest' | 'highest', of: WantedValue, step: number): Promise<Found | null>;
  /** The range of a quantity, of vectors of their size, over the whole run; null where it cannot be had. */
  range(key: string): Promise<Statistics | null>;
}

export const FindingContext = createContext<Finding>({
  nearest: async () => null,
  extreme: async () => null,
  range: async () => null,
});

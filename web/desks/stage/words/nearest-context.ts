import { createContext } from 'react';
import type { Nearest } from '#engine/attached.ts';
import type { Picked } from '#stage/picking.ts';

/** Finds the point and cell that are nearest to what was pointed at. */
export type FindNearest = (picked: Picked) => Promise<Nearest | null>;

export const NearestContext = createContext<FindNearest>(async () => null);

import type { Finish } from '../finish.ts';
import { bakery } from './bakery.ts';
import { clearFinishes } from './clear.ts';
import { glowing } from './glowing.ts';
import { metals } from './metals.ts';
import { minerals } from './minerals.ts';
import { paints } from './paints.ts';
import { soft } from './soft.ts';

/** Every finish that ships. A new one is an entry in the file of its kind; a new kind is a file beside these and a line here. */
export const finishes: readonly Finish[] = [
  ...paints,
  ...metals,
  ...clearFinishes,
  ...minerals,
  ...soft,
  ...bakery,
  ...glowing,
];

export const finishById = (id: string): Finish | undefined => finishes.find((f) => f.id === id);

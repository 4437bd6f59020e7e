import { shuffled } from '#core/model/random-numbers.ts';

/**
 * Things alike of which, where there are very many, some stand for all while something moves.
 *
 * Of these so many are drawn however slow that is: all of them up to `all`, and never fewer than `least`.
 */
const limits = {
  dot: { all: 20_000, least: 1000 },
  body: { all: 4000, least: 1000 },
};

/** Dots cost little; spheres and arrows are bodies. */
type ManyKind = keyof typeof limits;

const areMany = (kind: ManyKind, count: number): boolean => count > limits[kind].all;

/** Where they are many, in an order by chance, so that the first of them come from all over. */
export const inFairOrder = (kind: ManyKind, picks: Uint32Array): Uint32Array =>
  areMany(kind, picks.length) ? shuffled(picks) : picks;

/** How many of them are drawn when there is time for such a share. */
export const standingForAll = (kind: ManyKind, count: number, share: number): number =>
  areMany(kind, count) ? Math.min(count, Math.max(limits[kind].least, Math.ceil(share * count))) : count;

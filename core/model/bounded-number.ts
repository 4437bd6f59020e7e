import { z } from './schema.ts';

/** Larger numbers than this mean nothing in a scene, and would overflow where they are multiplied. */
const LARGEST = 1e30;
/** Counts and steps beyond this are no counts of anything here. */
const MOST = 1e9;

const message = 'the number must be finite and within ±1e30';

/** Any number a document may hold; infinite ones could not even be written down as JSON. */
export const boundedNumber = () =>
  z
    // Of bounds a thing has itself, those are told.
    .number({
      error: ({ code, input }) =>
        code === 'invalid_type' && typeof input === 'number' ? message : undefined,
    })
    .min(-LARGEST, { message })
    .max(LARGEST, { message });

/** Any whole number a document may hold. */
export const wholeNumber = () => z.number().int().min(-MOST).max(MOST);

/** Whether everything in a plain value that is a number can stand in a document. */
export function allBounded(value: unknown): boolean {
  if (typeof value === 'number') return Math.abs(value) <= LARGEST;
  if (Array.isArray(value)) return value.every(allBounded);
  if (value === null || typeof value !== 'object') return true;
  return Object.values(value).every(allBounded);
}

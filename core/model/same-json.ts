/** Whether two plain pieces of data are the same, their entries in the same order. */
export const sameJson = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

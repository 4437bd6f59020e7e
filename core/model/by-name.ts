/**
 * A table that is looked into by names out of files. It knows only what was put in: an ordinary object would also
 * answer to `constructor` and `__proto__`.
 */
export const byName = <T>(table: Record<string, T>): Record<string, T> =>
  Object.assign(Object.create(null) as Record<string, T>, table);

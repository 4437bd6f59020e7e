import { rule } from '../rule.ts';

/** A figure of what is not so any more. */
export const staleFigure = rule({
  id: 'stale figure',
  name: 'figures that are out of date',
  severity: 'serious',
  of: 'figures',
  find: (figures) =>
    figures
      .filter((f) => f.stale)
      .map(({ id, name }) => ({
        place: { kind: 'figure', id, name },
        says: `${name}: its scene or its run has changed since it was drawn.`,
        remedy: 'Refresh it.',
      })),
});

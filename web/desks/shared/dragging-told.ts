import type { Announcements } from '@dnd-kit/core';

/** What a screen reader says while something is moved within its list: by name, as the list shows it, never by id. */
export function draggingTold(nameOf: (id: string) => string): Announcements {
  const name = (one: { id: string | number }): string => nameOf(String(one.id));
  return {
    onDragStart: ({ active }) => `${name(active)} is picked up.`,
    onDragOver: ({ active, over }) =>
      over && over.id !== active.id ? `${name(active)} is at the place of ${name(over)}.` : undefined,
    onDragEnd: ({ active, over }) =>
      over && over.id !== active.id
        ? `${name(active)} was put at the place of ${name(over)}.`
        : `${name(active)} stays where it was.`,
    onDragCancel: ({ active }) => `${name(active)} stays where it was.`,
  };
}

/**
 * Lists of a scene whose elements are known by a key, whatever their order: by their list, the entry that holds it. A
 * new list is a line here and below; addresses, changes from elsewhere and repairs follow.
 */
export const keyedLists = {
  layers: 'id',
  scales: 'id',
  annotations: 'id',
  scenery: 'id',
  cameras: 'name',
  sets: 'name',
  gauges: 'id',
  charts: 'id',
  lanes: 'id',
  markers: 'id',
} as const;

export type ListName = keyof typeof keyedLists;

/** What one of their elements is called. */
export const calledInList: Record<ListName, string> = {
  layers: 'line',
  scales: 'colour scale',
  annotations: 'words',
  scenery: 'scenery',
  cameras: 'camera',
  sets: 'part set',
  gauges: 'gauge',
  charts: 'chart',
  lanes: 'lane',
  markers: 'marker',
};

export const isList = (name: string): name is ListName => Object.hasOwn(keyedLists, name);

/** A list with one of its elements at another place. */
export function movedTo<E extends { id: string }>(list: E[], id: string, to: number): E[] {
  const moved = list.find((e) => e.id === id);
  return moved ? list.filter((e) => e !== moved).toSpliced(to, 0, moved) : list;
}

/** A list with an element in place of the one of the same key, or behind the others. */
export const replacedOrAdded = <E, K extends keyof E>(list: readonly E[], key: K, element: E): E[] =>
  list.some((e) => e[key] === element[key])
    ? list.map((e) => (e[key] === element[key] ? element : e))
    : [...list, element];

/**
 * Lists of a scene whose elements are known by a key, whatever their order: by their list, the entry that holds it. A
 * new list is a line here; addresses, changes from elsewhere and repairs follow.
 */
export const keyedLists = { layers: 'id', scales: 'id', annotations: 'id', sets: 'name' } as const;

export type ListName = keyof typeof keyedLists;

export const isList = (name: string): name is ListName => Object.hasOwn(keyedLists, name);

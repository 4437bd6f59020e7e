import type { Operation } from './operation.ts';
import { section } from './section.ts';
import { surface } from './surface.ts';

/** Every operation a chain can hold. A new one is a file beside this and a line here. */
export const operations = [surface, section] as const;

// biome-ignore lint/suspicious/noExplicitAny: options are checked by the schema of the operation they belong to
export type AnyOperation = Operation<any>;

/** @throws Error when the scene names an operation this version does not have */
export function operationById(id: string): AnyOperation {
  const found = (operations as readonly AnyOperation[]).find((op) => op.id === id);
  if (!found) throw new Error(`There is no operation "${id}" in this version.`);
  return found;
}

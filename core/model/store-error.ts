import { type FileProblem, problemOf } from './read-error.ts';

/**
 * The own store failed: no file that is read is to blame, and going on would lose what was asked for. Told by its
 * shape, for it crosses from one process to another.
 */
export class StoreError extends Error {
  override readonly name = 'StoreError';
  readonly ownStore = true;
  constructor(
    readonly reason: string,
    readonly where: string,
    readonly remedy: string,
  ) {
    super(`${reason} (${where}). ${remedy}`);
  }
}

export const isStoreError = (error: unknown): error is StoreError =>
  (error as Partial<StoreError> | null)?.ownStore === true;

/**
 * What went wrong while reading `file`, as a problem of that file.
 *
 * @throws StoreError as it came: the own store is never a file's problem
 */
export function fileProblem(file: string, error: unknown): FileProblem {
  if (isStoreError(error)) throw error;
  return problemOf(file, error);
}

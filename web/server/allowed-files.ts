import { realpathSync, statSync } from 'node:fs';
import { ReadError } from '#core/model/read-error.ts';
import { isWithin } from './paths.ts';

/**
 * The real place of a file that is about to be opened. Every reader opens files through here: links are followed
 * first, and what they lead to must be a regular file below one of the roots.
 *
 * @param roots real paths of folders that may be read; null allows every place
 * @throws ReadError when it is not there, leads outside, or is no regular file
 */
export function allowedFile(path: string, name: string, roots: readonly string[] | null): string {
  let real: string;
  try {
    real = realpathSync(path);
  } catch {
    throw new ReadError('the file is not there', name, 'Bring it in together with the others.');
  }
  if (roots !== null && !roots.some((root) => isWithin(root, real)))
    throw new ReadError('the file lies outside the folders the server may read', name, 'Move it there.');
  if (!statSync(real).isFile())
    throw new ReadError('this is no file with content', name, 'Leave it out, or copy its content to a file.');
  return real;
}

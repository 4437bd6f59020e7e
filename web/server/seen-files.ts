import { readdir, stat } from 'node:fs/promises';
import { join, relative, resolve, sep } from 'node:path';
import type { SeenFile } from '#core/watch/resting-files.ts';

/**
 * Every file in a folder and in the folders in it, as they are now.
 *
 * @param out a folder that is left out, with all that is in it
 */
export async function seenFiles(folder: string, out: string): Promise<SeenFile[]> {
  const without = relative(folder, resolve(out));
  const names = await readdir(folder, { recursive: true });
  const own = names.filter(
    (name) => without === '' || (name !== without && !name.startsWith(`${without}${sep}`)),
  );
  const found = await Promise.all(
    own.map(async (name) => {
      // It may be gone again.
      const about = await stat(join(folder, name)).catch(() => null);
      const path = name.split(sep).join('/');
      return about?.isFile() ? [{ path, size: about.size, changed: about.mtimeMs }] : [];
    }),
  );
  return found.flat();
}

import { readdir, stat } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { answer } from '#web/server/answer.ts';
import { allowedPath, readableFolders } from '#web/server/paths.ts';

export interface FolderEntry {
  name: string;
  path: string;
  folder: boolean;
  bytes: number;
}

/** What lies in a folder of the server, or the folders it may read when none is named. */
export const GET = answer(async ({ url }) => {
  const asked = url.searchParams.get('path');
  if (!asked) {
    const roots: FolderEntry[] = [];
    for (const folder of readableFolders()) {
      const path = await allowedPath(folder).catch(() => null);
      if (path) roots.push({ name: basename(path), path, folder: true, bytes: 0 });
    }
    return { path: null, parent: null, entries: roots };
  }
  const path = await allowedPath(asked);
  const entries: FolderEntry[] = [];
  for (const name of (await readdir(path)).filter((n) => !n.startsWith('.')).sort()) {
    const inside = await allowedPath(join(path, name)).catch(() => null);
    const info = inside && (await stat(inside).catch(() => null));
    if (info) entries.push({ name, path: join(path, name), folder: info.isDirectory(), bytes: info.size });
  }
  const parent = await allowedPath(dirname(path)).catch(() => null);
  return { path, parent, entries };
});

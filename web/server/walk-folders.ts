import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { NamedFile } from './named-file.ts';

/** The most files that are taken from a folder. */
const MOST_FILES = 20_000;

/** Files with folders replaced by all the files below them; hidden ones are left out. */
export async function withFolders(
  entries: NamedFile[],
  mayRead: (path: string) => Promise<boolean> = async () => true,
): Promise<NamedFile[]> {
  const out: NamedFile[] = [];
  const walk = async ({ name, path }: NamedFile): Promise<void> => {
    const found = await stat(path).catch(() => null);
    if (!found?.isDirectory()) {
      out.push({ name, path });
      return;
    }
    for (const entry of (await readdir(path)).sort()) {
      if (entry.startsWith('.') || out.length >= MOST_FILES) continue;
      const inner = join(path, entry);
      if (await mayRead(inner)) await walk({ name: join(name, entry), path: inner });
    }
  };
  for (const entry of entries) await walk(entry);
  return out;
}

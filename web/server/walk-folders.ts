import type { Stats } from 'node:fs';
import { readdir, realpath, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { ReadError } from '#core/model/read-error.ts';
import type { NamedFile } from './named-file.ts';

/** The most files that are taken from a folder. */
const MOST_FILES = 20_000;
/** The most names that are looked at, whatever they are. */
const MOST_VISITS = 200_000;

/**
 * Files with folders replaced by all the regular files below them; hidden ones, pipes, sockets and devices are left
 * out. Every real folder is walked once, so links that lead back do no harm.
 *
 * @throws ReadError when the folder holds more than can be taken
 */
export async function withFolders(
  entries: NamedFile[],
  mayRead: (path: string) => Promise<boolean> = async () => true,
): Promise<NamedFile[]> {
  const out: NamedFile[] = [];
  const seen = new Set<string>();
  let visits = 0;
  const waiting: { file: NamedFile; found: Stats | null; named: boolean }[] = [];
  for (const file of [...entries].reverse())
    waiting.push({ file, found: await stat(file.path).catch(() => null), named: true });
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { file, found, named } = next;
    if (!found?.isDirectory()) {
      // What was named by the person stays, so that its reader can say what is wrong with it.
      if (named || found?.isFile()) out.push(file);
      continue;
    }
    const real = await realpath(file.path);
    if (seen.has(real)) continue;
    seen.add(real);
    const inside = (await readdir(file.path)).filter((n) => !n.startsWith('.')).sort();
    visits += inside.length;
    if (visits > MOST_VISITS || out.length > MOST_FILES)
      throw new ReadError(
        `the folder holds more than ${out.length > MOST_FILES ? MOST_FILES : MOST_VISITS} files`,
        file.name,
        'Choose a folder further down, or the files themselves.',
      );
    const below: typeof waiting = [];
    for (const entry of inside) {
      const inner = { name: join(file.name, entry), path: join(file.path, entry) };
      if (!(await mayRead(inner.path))) continue;
      below.push({ file: inner, found: await stat(inner.path).catch(() => null), named: false });
    }
    waiting.push(...below.reverse());
  }
  return out;
}

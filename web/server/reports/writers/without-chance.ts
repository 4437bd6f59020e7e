import { strFromU8, strToU8, unzipSync, type Zippable, zipSync } from 'fflate';

/** Files in a package carry a time; theirs is always this, so that the same report is the same file. */
const ALWAYS = new Date(2000, 0, 1);

/** Names that libraries draw by lot, so that no two files are the same. */
const DRAWN = /\brId[A-Za-z0-9_-]{12,}/g;

/**
 * A package of parts (ISO/IEC 29500-2) without what is left to chance: names of links are counted, times of files are always
 * the same. What the document itself says of its date stays.
 */
export function withoutChance(bytes: Uint8Array): Uint8Array {
  const parts = unzipSync(bytes);
  const names = new Map<string, string>();
  const counted = (name: string): string => {
    if (!names.has(name)) names.set(name, `rIdLink${names.size + 1}`);
    return names.get(name)!;
  };
  const out: Zippable = {};
  // In one order, so that names are counted alike.
  for (const path of Object.keys(parts).sort()) {
    const isText = /\.(xml|rels)$/.test(path);
    const content = isText ? strToU8(strFromU8(parts[path]).replace(DRAWN, counted)) : parts[path];
    out[path] = [content, { mtime: ALWAYS, level: isText ? 6 : 0 }];
  }
  return zipSync(out);
}

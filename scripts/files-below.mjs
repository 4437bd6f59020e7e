import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';

/** Paths of the files in a folder and those within it whose names match. */
export function* filesBelow(folder, pattern) {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) yield* filesBelow(path, pattern);
    else if (pattern.test(name)) yield path;
  }
}

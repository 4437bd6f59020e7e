// Makes the folder of an empty database once, while building: a new data folder begins as a copy of it, in a tenth of the time.
import { rmSync } from 'node:fs';
import { PGlite } from '@electric-sql/pglite';

/** Where it lies; `web/server/database.ts` looks there. */
const folder = 'dist/empty-database';

export async function makeEmptyDatabase() {
  rmSync(folder, { recursive: true, force: true });
  const made = await PGlite.create(folder);
  await made.close();
}

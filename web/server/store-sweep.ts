import { arraysOfRun } from '#core/model/run.ts';
import { enclosuresIn } from '#core/scene/enclosure.ts';
import { ArrayStore } from './array-store.ts';
import { database, runs, sceneStates, scenes, shots, styles } from './database.ts';
import { freshEnclosures } from './enclosures.ts';
import { arraysFolder } from './paths.ts';

/** Arrays being written are not yet referred to by a run and must not be swept away. */
let importsUnderWay = 0;

/** Runs an import; what it wrote is swept away when it does not come to its end. */
export async function duringImport<T>(work: () => Promise<T>): Promise<T> {
  importsUnderWay++;
  let whole = false;
  try {
    const result = await work();
    whole = true;
    return result;
  } finally {
    importsUnderWay--;
    if (!whole) await sweepStore();
  }
}

/** Removes arrays that no run, no scene as it is or was, and no look refers to. */
export async function sweepStore(): Promise<void> {
  if (importsUnderWay > 0) return;
  const db = await database();
  const rows = await db.select({ description: runs.description }).from(runs);
  const inUse = new Set<string>();
  for (const { description } of rows) for (const ref of arraysOfRun(description)) inUse.add(ref.hash);
  for (const table of [scenes, sceneStates, shots, styles])
    for (const { document } of await db.select({ document: table.document }).from(table))
      for (const { bytes } of enclosuresIn(document)) inUse.add(bytes.hash);
  for (const hash of freshEnclosures()) inUse.add(hash);
  await new ArrayStore(arraysFolder).sweep(inUse);
}

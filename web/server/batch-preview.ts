import { eq } from 'drizzle-orm';
import type { NamedItem } from '#core/batch/batch-names.ts';
import { type BatchPace, batchPaceSchema, estimateOf } from '#core/batch/batch-pace.ts';
import { ownName } from '#core/fields/quantity-sources.ts';
import { parseQuantity } from '#core/model/quantity.ts';
import { readScene } from '#core/scene/document.ts';
import { type AskedOfRun, askedBy, type Lacking, lackingOf } from '#core/scene/likely-names.ts';
import { shownScales } from '#core/scene/shown-scales.ts';
import { type BatchWish, type PlannedBatch, planWish } from './batch-order.ts';
import { folderOfBatch } from './batch-work.ts';
import { choices, database } from './database.ts';
import { runById, runsInTurn } from './run-changes.ts';
import { changing } from './saved-documents.ts';

/** What a batch comes to, told before it is begun. */
export interface BatchPreview {
  drawings: number;
  files: number;
  /** Whether films are among them. */
  films: boolean;
  /** About; null where nothing is known of it yet. */
  seconds: number | null;
  bytes: number | null;
  /** Names of the first files. */
  first: string[];
  troubles: string[];
  /** Where the files go. */
  folder: string;
  /** Of the first files, as their names can tell of them. */
  items: NamedItem[];
  /** Quantities that the shots colour by. */
  scales: { quantity: string; name: string }[];
}

/** So many names are shown before. */
const SHOWN = 5;

export async function previewOf(wish: BatchWish): Promise<BatchPreview> {
  const { plan, order, items } = await planWish(wish);
  const scales = new Map<string, string>();
  for (const { document } of order.shots)
    for (const { quantity } of shownScales(readScene(document)))
      scales.set(quantity, ownName(parseQuantity(quantity).field));
  return {
    drawings: plan.drawings.length,
    files: plan.files,
    films: plan.drawings.some((d) => d.film !== undefined),
    ...estimateOf(plan, order.settings.passes, await knownPace()),
    first: plan.drawings.flatMap((d) => d.files.map((f) => f.path)).slice(0, SHOWN),
    troubles: plan.troubles,
    folder: folderOfBatch(order),
    items,
    scales: [...scales].map(([quantity, name]) => ({ quantity, name })),
  };
}

/** Something that shots ask for and some runs of a batch lack. */
export interface LackingInRuns extends Lacking {
  /** Names of the runs that lack it. */
  runs: string[];
}

/** What the shots of a batch ask for that some of its runs lack, each thing once, whatever was said of it. */
export async function lackingInRuns({ order }: PlannedBatch): Promise<LackingInRuns[]> {
  const found = new Map<string, LackingInRuns>();
  const asked = new Map<string, AskedOfRun>();
  // What is asked is read once, and not for each of thousands of runs.
  for (const owner of new Set(order.shots.map((s) => s.run))) {
    const scenes = order.shots.filter((s) => s.run === owner).map((s) => readScene(s.document));
    asked.set(owner, askedBy(scenes, await runById(owner)));
  }
  const names = new Map(order.runs.map(({ id, name }) => [id, name]));
  for await (const { id, run } of runsInTurn([...names.keys()])) {
    const name = names.get(id)!;
    for (const [owner, wanted] of asked) {
      if (owner === id) continue;
      for (const lacking of lackingOf(wanted, run)) {
        const key = `${lacking.kind} ${lacking.asked}`;
        const known = found.get(key);
        if (known) {
          known.runs.push(name);
          known.likely ??= lacking.likely;
          const values = new Set(known.offered.map((o) => o.value));
          known.offered.push(...lacking.offered.filter((o) => !values.has(o.value)));
        } else found.set(key, { ...lacking, runs: [name] });
      }
    }
  }
  return [...found.values()];
}

/** About what is chosen: how fast pictures were made last. */
const PACE = 'pace of batches';

export async function knownPace(): Promise<BatchPace | null> {
  const db = await database();
  const [row] = await db.select().from(choices).where(eq(choices.about, PACE));
  const read = batchPaceSchema.safeParse(row?.value);
  return read.success ? read.data : null;
}

export async function keepPace(value: BatchPace | null): Promise<void> {
  if (!value) return;
  await changing((tx) =>
    tx
      .insert(choices)
      .values({ about: PACE, value })
      .onConflictDoUpdate({ target: choices.about, set: { value } }),
  );
}

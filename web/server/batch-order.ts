import { and, asc, eq, inArray } from 'drizzle-orm';
import type { NamedItem } from '#core/batch/batch-names.ts';
import {
  type BatchDrawing,
  type BatchPlan,
  type BatchRun,
  type BatchShot,
  namedItem,
  planBatch,
} from '#core/batch/batch-plan.ts';
import { type BatchSettings, batchSettingsSchema } from '#core/batch/batch-settings.ts';
import { readStepsWish } from '#core/batch/batch-steps.ts';
import { whyNotRead } from '#core/language/sentence-reader.ts';
import { ReadError } from '#core/model/read-error.ts';
import { migratedRun } from '#core/model/run-migrations.ts';
import { z } from '#core/model/schema.ts';
import { filmPictures } from '#core/motion/reel-facts.ts';
import { hasFilm } from '#core/motion/scene-at.ts';
import type { Look } from '#core/scene/looks/look.ts';
import { shippedLooks } from '#core/scene/looks/registry.ts';
import type { Renames } from '#core/scene/rename-in-scene.ts';
import { repairScene } from '#core/scene/repair-scene.ts';
import { tableOfSet } from '#core/sets/run-set.ts';
import { filmWriters } from '#stage/films/registry.ts';
import { pictureWriters } from '#stage/pictures/registry.ts';
import { database, runs, scenes, shots } from './database.ts';
import { isThere } from './removed.ts';
import { openSet } from './run-sets.ts';
import { keptStyles, lookById } from './styles.ts';

/** What is asked of a set of runs. */
export const batchWish = z.object({
  set: z.string().max(200),
  settings: batchSettingsSchema,
  /** Ids of the runs, in the order in which their pictures are made. */
  runs: z.array(z.string().max(200)).max(20_000),
  /** Folder below that of all that is given out; that one itself where it is empty. */
  folder: z.string().max(200),
  /** Whether what is current is made again all the same. */
  again: z.boolean(),
  /** Whether they are the pictures of a contact sheet, which are known by the ids of what they show. */
  sheet: z.boolean().optional(),
});

export type BatchWish = z.infer<typeof batchWish>;

/** A shot as it was when a batch of it was begun. */
export interface OrderedShot extends BatchShot {
  /** The run it was kept of. */
  run: string;
  document: unknown;
}

/** All that a batch needs to be made, whatever is changed meanwhile. */
export interface BatchOrder {
  set: string;
  name: string;
  folder: string;
  again: boolean;
  sheet: boolean;
  shots: OrderedShot[];
  runs: { id: string; name: string; timeUnit?: string | null }[];
  drawings: BatchPlan['drawings'];
  /** Whether steps are those that the shots were kept at, or between. */
  keptSteps: boolean;
  looks: Record<string, Look>;
  rules: Renames;
  settings: Pick<BatchSettings, 'passes' | 'scales' | 'scaleOf' | 'transparent'>;
}

/** What a batch comes to before it is begun, and what it would be begun with. */
export interface PlannedBatch {
  order: BatchOrder;
  plan: BatchPlan;
  /** Of the first files, as their names can tell of them. */
  items: NamedItem[];
}

/** So many files are looked at by what is shown of names while they are typed. */
const ITEMS = 60;

/** Plans a batch from what is kept now: shots, runs and looks that are gone are told and left out. */
export async function planWish(wish: BatchWish): Promise<PlannedBatch> {
  const { settings } = wish;
  const { document: set } = await openSet(wish.set);
  const steps = readStepsWish(settings.steps);
  const troubles: string[] = [];
  if ('at' in steps) troubles.push(whyNotRead(settings.steps, steps));
  const [ofShots, ofRuns] = await Promise.all([orderedShots(settings.shots), orderedRuns(wish.runs)]);
  const goneShots = settings.shots.length - ofShots.length;
  if (goneShots > 0)
    troubles.push(
      `${goneShots === 1 ? 'One shot is' : `${goneShots} shots are`} no longer there: choose others.`,
    );
  const table = tableOfSet(set, ofRuns);
  const rowOf = new Map(table.rows.map((row, i) => [row.id, i]));
  const batchRuns = ofRuns.map((run): BatchRun => {
    const row = rowOf.get(run.id);
    const said = table.columns.flatMap(({ name, values }) => {
      const value = row === undefined ? null : values[row];
      return value === null ? [] : [[name, value] as const];
    });
    return { ...run, parameters: row === undefined ? run.parameters : Object.fromEntries(said) };
  });
  const looks: Record<string, Look> = {};
  const lookNames: (string | null)[] = [];
  for (const name of settings.looks) {
    const look = name === null ? null : await lookNamed(name);
    if (name === null || look) lookNames.push(name);
    else troubles.push(`There is no look “${name}” any more.`);
    if (look) looks[name!] = look;
  }
  const formats = settings.formats.flatMap((id) => {
    const writer = pictureWriters.find((w) => w.id === id);
    if (!writer) troubles.push(`Pictures are not written as “${id}”.`);
    return writer ? [{ id, ending: writer.ending }] : [];
  });
  const films = settings.films.flatMap((id) => {
    const writer = filmWriters.find((w) => w.id === id);
    if (!writer) troubles.push(`Films are not written as “${id}”.`);
    return writer ? [{ id, ending: writer.ending }] : [];
  });
  const planned = planBatch({
    shots: ofShots,
    runs: batchRuns,
    steps: 'at' in steps ? { kind: 'numbers', numbers: [] } : steps,
    sizes: settings.sizes,
    looks: lookNames,
    formats,
    films,
    names: settings.names,
  });
  if (wish.sheet) for (const drawing of planned.drawings) nameByIds(drawing);
  const plan = { ...planned, troubles: [...troubles, ...planned.troubles] };
  return {
    plan,
    items: itemsOf(plan, ofShots, batchRuns, [...formats, ...films]),
    order: {
      set: wish.set,
      name: set.name,
      folder: wish.folder,
      again: wish.again,
      sheet: wish.sheet ?? false,
      shots: ofShots,
      runs: ofRuns.map(({ id, name, timeUnit }) => ({ id, name, timeUnit })),
      drawings: plan.drawings,
      keptSteps: !('at' in steps) && steps.kind === 'kept',
      looks,
      rules: set.rules,
      settings,
    },
  };
}

function nameByIds({ shot, run, step, size, files }: BatchDrawing): void {
  for (const file of files) file.path = `${run}/${shot}-${step}-${size.width}x${size.height}.${file.format}`;
}

function itemsOf(
  plan: BatchPlan,
  ofShots: readonly OrderedShot[],
  ofRuns: readonly BatchRun[],
  formats: readonly { id: string; ending: string }[],
): NamedItem[] {
  return plan.drawings.slice(0, ITEMS).flatMap((drawing) => {
    const shot = ofShots.find((s) => s.id === drawing.shot)!;
    const run = ofRuns.find((r) => r.id === drawing.run)!;
    return drawing.files.map(({ format }) =>
      namedItem(shot, run, drawing, formats.find((f) => f.id === format)!.ending),
    );
  });
}

async function orderedShots(ids: readonly string[]): Promise<OrderedShot[]> {
  const db = await database();
  const rows = await db
    .select({ shot: shots, run: scenes.run })
    .from(shots)
    .innerJoin(scenes, eq(scenes.id, shots.scene))
    .where(and(inArray(shots.id, [...ids, '']), isThere(shots)))
    .orderBy(asc(shots.position));
  return ids.flatMap((id) => {
    const row = rows.find((r) => r.shot.id === id);
    if (!row) return [];
    const { name, document } = row.shot;
    const { scene } = repairScene(document);
    const film = hasFilm(scene) ? filmPictures(scene).count : null;
    return [{ id, name, run: row.run, document: scene, step: scene.step, film }];
  });
}

async function orderedRuns(ids: readonly string[]) {
  const db = await database();
  const rows = await db
    .select()
    .from(runs)
    .where(and(inArray(runs.id, [...ids, '']), isThere(runs)));
  const byId = new Map(rows.map((row) => [row.id, row]));
  return ids.flatMap((id) => {
    const row = byId.get(id);
    if (!row) return [];
    const { timeUnit, steps, parameters } = migratedRun(row.description);
    return [{ id, name: row.name, timeUnit, steps: steps.map(({ time }) => ({ time })), parameters }];
  });
}

/** A look that ships, or is kept, by its name. */
async function lookNamed(name: string): Promise<Look | null> {
  const shipped = shippedLooks.find((l) => l.name === name);
  if (shipped) return shipped;
  const kept = (await keptStyles('look')).find((l) => l.name === name);
  return kept ? lookById(kept.id) : null;
}

/**
 * What is lacking for a batch to be begun.
 *
 * @throws ReadError where nothing would come of it
 */
export function checkPlan({ plan }: PlannedBatch): void {
  if (plan.files > 0) return;
  throw new ReadError(
    plan.troubles[0]?.replace(/\.$/, '') ?? 'there is nothing to make',
    'the batch',
    'Choose shots, runs, steps, sizes and formats.',
  );
}

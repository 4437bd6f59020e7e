import { type FileProblem, problemOf, ReadError } from '#core/model/read-error.ts';
import type { SceneFacts } from '#core/report/facts.ts';
import type { Report, SourceToSee } from '#core/report/report.ts';
import { OPENING_ASPECT } from '#core/scene/default-scene.ts';
import { DRAFT_PASSES } from '#stage/pictures/render-picture.ts';
import { NotFound } from '../answer.ts';
import type { DrawingPage } from '../drawing-page.ts';
import { drawingTurns } from '../drawing-turns.ts';
import { intakeProblem } from '../intake-problem.ts';
import type { JobContext } from '../jobs/job-kind.ts';
import { isOfBrowser, problemOfPage, withDrawingPage } from '../render-pictures.ts';
import { filesOfRun } from './file-hash.ts';
import {
  bestPicture,
  keepFacts,
  keepLiving,
  keepPicture,
  type PictureQuality,
  seenFacts,
  sizeOfLiving,
} from './seen-store.ts';
import { type SourceNow, sourceNow } from './source-now.ts';

/** Sources that are to be looked at anew. */
export interface SeeOrder {
  sources: SourceToSee[];
  pictures: Report['pictures'];
  /** How well pictures must be drawn at least; only beside final ones are living figures made. */
  quality: PictureQuality;
}

/** A draft is no wider than this, in pixels. */
const DRAFT_WIDTH = 800;

/** What came of it, by the ids of the sources: the key of what was seen, or why nothing was. */
export interface Seen {
  keys: Record<string, string>;
  problems: Record<string, FileProblem>;
}

type DrawerOfFacts = Pick<DrawingPage, 'facts' | 'make' | 'living'>;

interface Due {
  ids: string[];
  now: SourceNow;
  needs: { facts: boolean; picture: boolean; living: boolean };
}

/** Looks at sources as they are now: what was seen before in the very same state is not made anew. */
export async function seeSources(order: SeeOrder, at: JobContext): Promise<Seen> {
  const seen: Seen = { keys: {}, problems: {} };
  const due = await dueOf(order, seen);
  const open = due.filter(({ needs }) => needs.facts || needs.picture || needs.living);
  if (open.length > 0)
    await drawingTurns.take(at, () =>
      withDrawingPage(at, async (page, watched) => {
        for (const [i, one] of open.entries()) {
          watched.signal.throwIfAborted();
          await seeOne(page, one, order, seen, watched.signal);
          watched.progress((i + 1) / open.length);
        }
      }),
    );
  return seen;
}

/** What is to be looked at, each state once however many show it. */
async function dueOf(order: SeeOrder, seen: Seen): Promise<Due[]> {
  const due = new Map<string, Due>();
  for (const { id, pictured, living: turned, ...source } of order.sources) {
    try {
      const now = await sourceNow(source, order.pictures);
      if (now.kind === 'set') {
        await keepFacts(now.key, now.facts);
        seen.keys[id] = now.key;
        continue;
      }
      const facts = (await seenFacts(now.key)) === null;
      const best = pictured ? await bestPicture(now.key) : null;
      const picture = pictured && (best === null || (best.quality === 'draft' && order.quality === 'final'));
      const living = turned && order.quality === 'final' && (await sizeOfLiving(now.key)) === null;
      const known = due.get(now.key);
      if (known) {
        known.ids.push(id);
        known.needs.picture ||= picture;
        known.needs.living ||= living;
      } else due.set(now.key, { ids: [id], now, needs: { facts, picture, living } });
      if (!facts && !picture && !living) seen.keys[id] = now.key;
    } catch (error) {
      seen.problems[id] = problemFor(error);
    }
  }
  return [...due.values()];
}

async function seeOne(
  page: DrawerOfFacts,
  { ids, now, needs }: Due,
  order: SeeOrder,
  seen: Seen,
  signal: AbortSignal,
): Promise<void> {
  if (now.kind === 'set') return;
  try {
    if (needs.facts) await keepFacts(now.key, await factsFrom(page, now, signal));
    if (needs.picture) await keepPicture(now.key, order.quality, await pictureFrom(page, now, order));
    for (const id of ids) seen.keys[id] = now.key;
    // The picture stands in any case.
    if (needs.living) await keepLiving(now.key, await livingFrom(page, now));
  } catch (error) {
    signal.throwIfAborted();
    if (isOfBrowser(error)) throw error;
    for (const id of ids) seen.problems[id] = problemFor(problemOfPage(error));
  }
}

type SceneNow = Extract<SourceNow, { kind: 'scene' }>;

const factsFrom = async (
  page: DrawerOfFacts,
  { runId, run, scene, film }: SceneNow,
  signal: AbortSignal,
): Promise<SceneFacts> => page.facts({ run: runId, scene, film, files: await filesOfRun(run, signal) });

async function livingFrom(page: DrawerOfFacts, { runId, scene, film }: SceneNow): Promise<Buffer> {
  const pieces: Buffer[] = [];
  await page.living({ run: runId, scene, film }, async (piece) => pieces.push(piece));
  return Buffer.concat(pieces);
}

/** The picture as every still is drawn. */
async function pictureFrom(
  page: DrawerOfFacts,
  { runId, scene, film }: SceneNow,
  { pictures, quality }: SeeOrder,
): Promise<Buffer> {
  const { width, passes } =
    quality === 'final'
      ? pictures
      : { width: Math.min(DRAFT_WIDTH, pictures.width), passes: Math.min(DRAFT_PASSES, pictures.passes) };
  const height = Math.max(16, Math.round(width / (scene.picture.aspect ?? OPENING_ASPECT)));
  const pieces: Buffer[] = [];
  await page.make(
    {
      run: runId,
      scene,
      step: scene.step,
      onward: scene.onward,
      ...(film !== null && { film }),
      width,
      height,
      passes,
      transparent: false,
    },
    async (piece) => pieces.push(piece),
  );
  return Buffer.concat(pieces);
}

function problemFor(error: unknown): FileProblem {
  if (error instanceof NotFound)
    return problemOf(
      'the report',
      new ReadError(
        error.message.replace(/\.$/, ''),
        'the sources of the report',
        'Bring it back, or take what shows it out of the report.',
      ),
    );
  const told = error instanceof Error && !('remedy' in error) ? intakeProblem(error) : error;
  return problemOf('the report', told);
}

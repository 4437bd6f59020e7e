import type { BatchOrder } from './batch-order.ts';
import { keepPace, knownPace } from './batch-preview.ts';
import { type BatchMade, BatchWork } from './batch-work.ts';
import { drawingTurns } from './drawing-turns.ts';
import type { JobContext } from './jobs/job-kind.ts';
import { withDrawingPage } from './render-pictures.ts';

/** Makes the pictures of a batch. Begun anew, it goes on behind what is made, and tries again what has failed. */
export const makeBatch = (order: BatchOrder, at: JobContext): Promise<BatchMade> =>
  drawingTurns.take(at, async () => {
    const batch = await BatchWork.open(order, at.owner);
    await withDrawingPage(at, (page, watched) => batch.make(page, watched));
    await keepPace(batch.pace(await knownPace()));
    return batch.result();
  });

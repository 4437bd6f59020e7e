import { answer } from '#web/server/answer.ts';
import { filesOfBatch, removeBatch } from '#web/server/batches-of-set.ts';

/** The files of a batch, as its log tells of them. */
export const GET = answer(({ params }) => filesOfBatch(params.id!));

/** Forgets a batch; its files stay. */
export const DELETE = answer(({ params }) => removeBatch(params.id!));

import { z } from '#core/model/schema.ts';
import type { BatchOrder } from '../batch-order.ts';
import { makeBatch } from '../make-batch.ts';
import type { JobKind } from './job-kind.ts';

const isOrder = (given: unknown): boolean =>
  Array.isArray((given as Partial<BatchOrder> | null)?.drawings) &&
  typeof (given as BatchOrder).set === 'string';

/** Pictures of shots of many runs, drawn without a screen and in the background. */
export const batchJob: JobKind<BatchOrder> = {
  kind: 'batch',
  payload: z.custom<BatchOrder>(isOrder),
  // Pictures that are whole are not drawn again.
  retries: 5,
  work: makeBatch,
};

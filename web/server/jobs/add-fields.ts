import { z } from '#core/model/schema.ts';
import { readFields } from '../run-changes.ts';
import type { JobKind } from './job-kind.ts';

/** Adds fields that were left out, reading just those. */
export const addFieldsJob: JobKind<{ run: string; keys: string[] }> = {
  kind: 'add fields',
  payload: z.object({ run: z.string(), keys: z.array(z.string()) }),
  retries: 0,
  work: ({ run, keys }, at) => readFields(run, keys, at),
};

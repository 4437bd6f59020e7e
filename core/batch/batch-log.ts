import { z } from '../model/schema.ts';

const problem = z.object({ reason: z.string(), where: z.string(), remedy: z.string() });

const entry = z.object({
  /** Id of the batch that wrote this. */
  batch: z.string(),
  /** Of the file, below the folder of the batch. */
  path: z.string().min(1),
  format: z.string(),
  shot: z.string(),
  run: z.string(),
  /** Number of the step, from 1. */
  step: z.number(),
  time: z.number().nullable(),
  width: z.number(),
  height: z.number(),
  look: z.string().nullable(),
  /** How many it was drawn of, where it is a film. */
  pictures: z.number().optional(),
  /** Made; left as it was since nothing it shows has changed; or not made. */
  state: z.enum(['made', 'current', 'failed']),
  bytes: z.number(),
  /** That the drawing took, for all its files together. */
  seconds: z.number(),
  /** What the shot asks for and the run does not have, in words. */
  notes: z.array(z.string()),
  /** What the preflight says of it, but for what could only be better; logs of before have none. */
  preflight: z.array(z.string()).default([]),
  problem: problem.nullable(),
  /** Of everything the picture depends on. */
  stamp: z.string(),
});

/** What became of one file of a batch. */
export type BatchEntry = z.infer<typeof entry>;

/** The log of the batches of a folder: a line for each file they have to do with, the later one goes before the earlier. */
export const BATCH_LOG = 'batch.jsonl';

export const writeBatchEntry = (one: BatchEntry): string => `${JSON.stringify(one)}\n`;

/** Reads a log by the paths of its files. A line that was cut off in a crash, or that is none, is passed over. */
export function readBatchLog(text: string): Map<string, BatchEntry> {
  const entries = new Map<string, BatchEntry>();
  for (const line of text.split('\n')) {
    const read = entry.safeParse(parsed(line));
    if (read.success) entries.set(read.data.path, read.data);
  }
  return entries;
}

function parsed(line: string): unknown {
  try {
    return JSON.parse(line);
  } catch {
    return null;
  }
}

/** How many files of a batch were made, left as they were, and not made. */
export interface BatchCount {
  made: number;
  current: number;
  failed: number;
}

export function countOfBatch(entries: Iterable<BatchEntry>): BatchCount {
  const count: BatchCount = { made: 0, current: 0, failed: 0 };
  for (const { state } of entries) count[state]++;
  return count;
}

import { readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { BATCH_LOG, type BatchEntry, readBatchLog } from '#core/batch/batch-log.ts';
import { ownName } from '#core/fields/quantity-sources.ts';
import { parseQuantity } from '#core/model/quantity.ts';
import type { FileProblem } from '#core/model/read-error.ts';
import { readScene } from '#core/scene/document.ts';
import { NotFound } from './answer.ts';
import type { BatchOrder } from './batch-order.ts';
import { type BatchMade, endsOfBatch, folderOfBatch } from './batch-work.ts';
import { batchJob } from './jobs/batch.ts';
import { jobs } from './jobs/registry.ts';
import { folderOfJob } from './render-pictures.ts';
import { inStore } from './store-trouble.ts';

/** A batch that is made, waits, or was made. */
export interface BatchAtWork {
  job: string;
  /** What it was begun with. */
  files: number;
  /** Whether films are among them. */
  films: boolean;
  folder: string;
  /** Cancelled is paused: what is made stays, and it goes on behind it. */
  state: 'running' | 'done' | 'failed' | 'cancelled';
  /** 0..1 */
  done: number;
  remaining: number | null;
  ahead: number;
  /** Once it is through. */
  made: BatchMade | null;
  problem: FileProblem | null;
}

/** The batches of a set that were not removed since; the latest first. */
export async function batchesOfSet(set: string): Promise<BatchAtWork[]> {
  const found = await jobs.list(batchJob, { set });
  const batches = found.filter(({ payload }) => !payload.sheet);
  return batches.map(({ payload, state }) => ({
    job: state.id,
    files: payload.drawings.reduce((n, d) => n + d.files.length, 0),
    films: payload.drawings.some((d) => d.film !== undefined),
    folder: folderOfBatch(payload),
    state: state.state,
    done: state.done,
    remaining: state.remaining,
    ahead: state.ahead,
    made: state.result as BatchMade | null,
    problem: state.problem,
  }));
}

/** Where a colour scale of the pictures of a batch begins and ends, where that is the same in all of them. */
export interface EndsOfBatch {
  shot: string;
  /** Of the quantity. */
  name: string;
  low: number;
  high: number;
}

/** What is known of the files of a batch. */
export interface FilesOfBatch {
  name: string;
  folder: string;
  entries: BatchEntry[];
  /** None before they are found out. */
  ends: EndsOfBatch[];
}

/** The files of a batch, as far as its log tells of them by now, in the order of the batch. */
export async function filesOfBatch(job: string): Promise<FilesOfBatch> {
  const order = await orderOf(job);
  const folder = folderOfBatch(order);
  const text = await readFile(join(folder, BATCH_LOG), 'utf8').catch(() => '');
  const known = readBatchLog(text);
  const entries = order.drawings.flatMap((d) =>
    d.files.flatMap(({ path }) => {
      const entry = known.get(path);
      return entry?.batch === job ? [entry] : [];
    }),
  );
  return { name: order.name, folder, entries, ends: await endsOf(job, order) };
}

async function endsOf(job: string, { shots }: BatchOrder): Promise<EndsOfBatch[]> {
  const known = await endsOfBatch(job);
  return shots.flatMap(({ id, document }) =>
    readScene(document).scales.flatMap((scale) => {
      const ends = known?.get(id)?.[scale.id];
      const name = ownName(parseQuantity(scale.quantity).field);
      return ends ? [{ shot: id, name, low: ends[0], high: ends[1] }] : [];
    }),
  );
}

/**
 * What a batch was begun with.
 *
 * @throws NotFound
 */
export async function orderOf(job: string): Promise<BatchOrder> {
  const order = await jobs.payload(batchJob, job);
  if (!order) throw new NotFound('This batch is no longer known.');
  return order;
}

/** Forgets a batch, made or not; its files stay where they are. */
export async function removeBatch(job: string): Promise<void> {
  if (!(await jobs.forget(batchJob, job))) throw new NotFound('This batch is no longer known.');
  await inStore(() => rm(folderOfJob(job), { recursive: true, force: true }));
}

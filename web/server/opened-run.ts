import { createHash } from 'node:crypto';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { ReadError } from '#core/model/read-error.ts';
import type { RunDescription } from '#core/model/run.ts';
import { NotFound } from './answer.ts';
import { runById } from './run-changes.ts';

/** A run as it stands now. */
export interface OpenedRun {
  run: RunDescription;
  /** Of all that its pictures depend on. */
  stamp: string;
}

/**
 * @param where of what it was to be a part
 * @throws ReadError where it is gone
 */
export async function openedRun(id: string, where = 'the runs of the set'): Promise<OpenedRun> {
  const run = await runById(id).catch((error: unknown) => {
    if (!(error instanceof NotFound)) throw error;
    throw new ReadError('the run is no longer there', where, 'Take it out, or bring its files in again.');
  });
  // All else follows from these, or tells only where they came from.
  const { name, dimension, origin, timeUnit, lengthUnit, parts, steps, fields, sets, tables, parameters } =
    run;
  const content = [
    name,
    dimension,
    origin,
    timeUnit,
    lengthUnit,
    parts,
    steps,
    fields,
    sets,
    tables,
    parameters,
  ];
  return { run: withOfferedQuantities(run), stamp: stampOf(content) };
}

/** Tells plain contents apart. */
export const stampOf = (content: unknown): string =>
  createHash('sha256').update(JSON.stringify(content)).digest('hex').slice(0, 32);

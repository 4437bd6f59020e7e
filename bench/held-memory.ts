import { setTimeout as rest } from 'node:timers/promises';
import { followJob } from '#engine/server-requests.ts';
import type { Served } from '../tests/attack/served.ts';
import { middle } from './measure.ts';
import { memoryOf } from './memory.ts';

/** How often memory is looked at, in milliseconds. */
const EVERY = 500;

/**
 * What server and browser hold together while a job is done.
 *
 * @returns the middle of it, in MB, between two shares of the work
 */
export async function heldMemory(served: Served, job: string): Promise<(from: number, to: number) => number> {
  const held: { done: number; bytes: number }[] = [];
  let done = 0;
  let going = true;
  const watched = (async () => {
    while (going) {
      held.push({ done, bytes: memoryOf(served.process!.pid!) });
      await rest(EVERY);
    }
  })();
  const told = (p: { done: number }): void => {
    done = p.done;
  };
  try {
    await followJob(job, told, undefined, served.address);
  } finally {
    going = false;
    await watched;
  }
  return (from, to) =>
    middle(held.filter((h) => h.done >= from && h.done < to).map((h) => h.bytes)) / 2 ** 20;
}

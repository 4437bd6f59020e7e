import { randomUUID } from 'node:crypto';
import type { z } from '#core/model/schema.ts';

/** What work has at hand while it runs. */
export interface JobContext {
  /** Id of the job; others take turns with it. */
  owner: string;
  signal: AbortSignal;
  /**
   * @param done 0..1
   * @param kept share that was done before this work began, so that it tells nothing of how long the rest takes
   */
  progress(done: number, kept?: number): void;
  /** How many come first while it waits; 0 once something of it is begun. */
  place(ahead: number): void;
}

/**
 * A kind of long work, all of it in one file: what it is told, as plain data that is kept, and what it does. A new one
 * is a file in this folder and a line in the registry.
 */
export interface JobKind<P> {
  kind: string;
  payload: z.ZodType<P>;
  /** How often it is begun anew by itself after the server was stopped in the middle of it. */
  retries: number;
  /**
   * Takes hold of what it needs before it is put in the queue, or refuses it; gives what lets go when it has ended.
   */
  hold?(payload: P): () => Promise<void>;
  work(payload: P, at: JobContext): Promise<unknown>;
}

/** A context for short work that nobody follows. */
export const quietContext = (): JobContext => ({
  owner: randomUUID(),
  signal: new AbortController().signal,
  progress: () => undefined,
  place: () => undefined,
});

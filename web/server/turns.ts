import type { JobContext } from './jobs/job-kind.ts';

/** Lets one work after the other, in the order in which they came. */
export class Turns {
  private readonly waiting: { tell(ahead: number): void }[] = [];
  private last: Promise<unknown> = Promise.resolve();

  /**
   * Works when those before it have ended, however they did; told how many come first.
   *
   * @throws what the signal was aborted with, as soon as it is
   */
  async take<T>(at: Pick<JobContext, 'signal' | 'place'>, work: () => Promise<T>): Promise<T> {
    const own = { tell: (ahead: number) => at.place(ahead) };
    this.waiting.push(own);
    this.tell();
    const before = this.last;
    const turn = (async () => {
      await before.catch(() => undefined);
      at.signal.throwIfAborted();
      return work();
    })();
    this.last = turn
      .catch(() => undefined)
      .finally(() => {
        this.waiting.splice(this.waiting.indexOf(own), 1);
        this.tell();
      });
    const { signal } = at;
    const aborted = new Promise<never>((_, reject) => {
      if (signal.aborted) reject(signal.reason);
      signal.addEventListener('abort', () => reject(signal.reason), { once: true });
    });
    return Promise.race([turn, aborted]);
  }

  private tell(): void {
    for (const [ahead, one] of this.waiting.entries()) one.tell(ahead);
  }
}

import { LRUCache } from 'lru-cache';
import type { NumberArray } from '#core/model/arrays.ts';
import { type ArrayRef, viewArray } from '#core/model/run.ts';
import { askBytes, RequestProblem } from './server-requests.ts';

/** Gives arrays by content name, keeping the youngest up to a number of bytes; each is asked for once at a time. */
export class ArraySource {
  private readonly kept: LRUCache<string, NumberArray, ArrayRef>;

  /**
   * @param load brings the bytes of an array
   * @param budget bytes to keep at most; an array beyond it is given, and not kept
   */
  constructor(load: (ref: ArrayRef) => Promise<ArrayBuffer>, budget = 512 * 2 ** 20) {
    this.kept = new LRUCache({
      maxSize: budget,
      sizeCalculation: (array) => Math.max(1, array.byteLength),
      fetchMethod: async (_hash, _old, { context: ref }) => {
        const array = viewArray(ref.type, await load(ref));
        if (array.length !== ref.length)
          throw new Error(
            `A stored array has ${array.length} numbers instead of ${ref.length}. Import the run again.`,
          );
        return array;
      },
    });
  }

  /** @throws Error when it cannot be brought, or is not what its name says */
  get(ref: ArrayRef): Promise<NumberArray> {
    return this.kept.forceFetch(ref.hash, { context: ref });
  }
}

/** Loads from a server that offers arrays by their content name. */
export const loadFromServer =
  (base: string) =>
  (ref: ArrayRef): Promise<ArrayBuffer> =>
    askBytes(`${base}/api/arrays/${ref.hash}`).catch((error: unknown) => {
      if (error instanceof RequestProblem && error.status === 404)
        throw new Error('A stored array is missing. Import the run again.');
      throw error;
    });

import type { NumberArray } from '#core/model/arrays.ts';
import { type ArrayRef, viewArray } from '#core/model/run.ts';

/** Gives arrays by content name, keeping the youngest up to a number of bytes. */
export class ArraySource {
  private readonly kept = new Map<string, NumberArray>();
  private readonly coming = new Map<string, Promise<NumberArray>>();
  private bytes = 0;

  /**
   * @param load brings the bytes of an array
   * @param budget bytes to keep at most
   */
  constructor(
    private readonly load: (ref: ArrayRef) => Promise<ArrayBuffer>,
    private readonly budget = 512 * 2 ** 20,
  ) {}

  async get(ref: ArrayRef): Promise<NumberArray> {
    const known = this.kept.get(ref.hash);
    if (known) {
      this.kept.delete(ref.hash);
      this.kept.set(ref.hash, known);
      return known;
    }
    const underway = this.coming.get(ref.hash);
    if (underway) return underway;
    const promise = this.fetch(ref).finally(() => this.coming.delete(ref.hash));
    this.coming.set(ref.hash, promise);
    return promise;
  }

  private async fetch(ref: ArrayRef): Promise<NumberArray> {
    const array = viewArray(ref.type, await this.load(ref));
    if (array.length !== ref.length)
      throw new Error(
        `A stored array has ${array.length} numbers instead of ${ref.length}. Import the run again.`,
      );
    this.kept.set(ref.hash, array);
    this.bytes += array.byteLength;
    for (const [hash, old] of this.kept) {
      if (this.bytes <= this.budget || hash === ref.hash) break;
      this.kept.delete(hash);
      this.bytes -= old.byteLength;
    }
    return array;
  }
}

/** Loads from a server that offers arrays by their content name. */
export const loadFromServer =
  (base: string) =>
  async (ref: ArrayRef): Promise<ArrayBuffer> => {
    const response = await fetch(`${base}/api/arrays/${ref.hash}`);
    if (!response.ok)
      throw new Error(`A stored array is missing (${response.status}). Import the run again.`);
    return response.arrayBuffer();
  };

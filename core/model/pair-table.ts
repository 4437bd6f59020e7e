import { GrowingUint32 } from './growing.ts';

/** Numbers pairs of points in the order they are first met; `(a, b)` and `(b, a)` are two pairs. */
export class PairTable {
  readonly pairs: GrowingUint32;
  private table: Int32Array;
  count = 0;

  constructor(capacity = 2048) {
    const places = 2 ** Math.ceil(Math.log2(Math.max(16, 2 * capacity)));
    this.pairs = new GrowingUint32(places);
    this.table = new Int32Array(places).fill(-1);
  }

  /** The number of a pair; equal to `count` before the call when it is a new one. */
  at(a: number, b: number): number {
    let slot = this.slotOf(a, b);
    const known = this.table[slot];
    if (known >= 0) return known;
    if (this.count * 2 >= this.table.length) {
      this.grow();
      slot = this.slotOf(a, b);
    }
    this.pairs.push(a);
    this.pairs.push(b);
    this.table[slot] = this.count;
    return this.count++;
  }

  private slotOf(a: number, b: number): number {
    const mask = this.table.length - 1;
    const { data } = this.pairs;
    let slot = (Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b)) >>> 0;
    slot = (slot ^ (slot >>> 15)) & mask;
    for (let v = this.table[slot]; v >= 0; v = this.table[slot]) {
      if (data[2 * v] === a && data[2 * v + 1] === b) break;
      slot = (slot + 1) & mask;
    }
    return slot;
  }

  private grow(): void {
    this.table = new Int32Array(this.table.length * 2).fill(-1);
    const { data } = this.pairs;
    for (let v = 0; v < this.count; v++) this.table[this.slotOf(data[2 * v], data[2 * v + 1])] = v;
  }
}

/** Numbers pairs of points in the order they are first met; `(a, b)` and `(b, a)` are two pairs. */
export class PairTable {
  private pairs: Uint32Array;
  private table: Int32Array;
  count = 0;

  constructor(capacity = 2048) {
    const places = 2 ** Math.ceil(Math.log2(Math.max(16, 2 * capacity)));
    this.pairs = new Uint32Array(places);
    this.table = new Int32Array(places).fill(-1);
  }

  /** The number of a pair; equal to `count` before the call when it is a new one. */
  at(a: number, b: number): number {
    const { table, pairs } = this;
    const mask = table.length - 1;
    let slot = (Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b)) >>> 0;
    slot = (slot ^ (slot >>> 15)) & mask;
    for (let v = table[slot]; v >= 0; v = table[slot]) {
      if (pairs[2 * v] === a && pairs[2 * v + 1] === b) return v;
      slot = (slot + 1) & mask;
    }
    const number = this.count++;
    pairs[2 * number] = a;
    pairs[2 * number + 1] = b;
    table[slot] = number;
    if (this.count * 2 >= table.length) this.grow();
    return number;
  }

  /** The pairs one after the other. */
  toArray(): Uint32Array {
    return this.pairs.slice(0, 2 * this.count);
  }

  private grow(): void {
    const old = this.pairs;
    const n = this.count;
    this.pairs = new Uint32Array(2 * old.length);
    this.table = new Int32Array(2 * this.table.length).fill(-1);
    this.count = 0;
    for (let v = 0; v < n; v++) this.at(old[2 * v], old[2 * v + 1]);
  }
}

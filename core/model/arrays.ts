/** Any numeric array a file can hold, in the type the file holds it in (64-bit integers become Float64). */
export type NumberArray =
  | Int8Array
  | Uint8Array
  | Int16Array
  | Uint16Array
  | Int32Array
  | Uint32Array
  | Float32Array
  | Float64Array;

/** A list of whole numbers that grows by doubling; for results whose size is not known beforehand. */
export class GrowingUint32 {
  data: Uint32Array;
  length = 0;
  constructor(capacity = 1024) {
    this.data = new Uint32Array(capacity);
  }
  push(value: number): void {
    if (this.length === this.data.length) {
      const bigger = new Uint32Array(this.data.length * 2);
      bigger.set(this.data);
      this.data = bigger;
    }
    this.data[this.length++] = value;
  }
  /** A copy of just the used part. */
  toArray(): Uint32Array {
    return this.data.slice(0, this.length);
  }
}

/** The same for 32-bit floating point numbers. */
export class GrowingFloat32 {
  data: Float32Array;
  length = 0;
  constructor(capacity = 1024) {
    this.data = new Float32Array(capacity);
  }
  push(value: number): void {
    if (this.length === this.data.length) {
      const bigger = new Float32Array(this.data.length * 2);
      bigger.set(this.data);
      this.data = bigger;
    }
    this.data[this.length++] = value;
  }
  toArray(): Float32Array {
    return this.data.slice(0, this.length);
  }
}

/** The same for numbers in double precision. */
export class GrowingFloat64 {
  data: Float64Array;
  length = 0;
  constructor(capacity = 1024) {
    this.data = new Float64Array(capacity);
  }
  push(value: number): void {
    if (this.length === this.data.length) {
      const bigger = new Float64Array(this.data.length * 2);
      bigger.set(this.data);
      this.data = bigger;
    }
    this.data[this.length++] = value;
  }
  /** A copy of just the used part. */
  toArray(): Float64Array {
    return this.data.slice(0, this.length);
  }
}

/** Numbers one list after the other. */
export function concatenated(all: Float32Array[]): Float32Array {
  const out = new Float32Array(all.reduce((n, one) => n + one.length, 0));
  let at = 0;
  for (const one of all) {
    out.set(one, at);
    at += one.length;
  }
  return out;
}

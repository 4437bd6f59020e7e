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

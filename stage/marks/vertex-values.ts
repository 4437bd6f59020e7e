import { BufferAttribute } from 'three';

/** The values of the vertices of a mark on the card; filled when they are drawn next, not when they arrive. */
export class VertexValues {
  readonly value: BufferAttribute;
  readonly known: BufferAttribute;
  private waiting: Float32Array | null | undefined;
  private current: Float32Array | null = null;

  constructor(vertices: number) {
    this.value = new BufferAttribute(new Float32Array(vertices), 1);
    this.known = new BufferAttribute(new Float32Array(vertices), 1);
  }

  /** @param values what is not a number is marked as unknown; null for a plain colour */
  set(values: Float32Array | null): void {
    if (values !== this.current) this.waiting = values;
    this.current = values;
  }

  /** Puts what is waiting in place; whether there was anything. */
  fill(): boolean {
    const values = this.waiting;
    if (values === undefined) return false;
    this.waiting = undefined;
    const value = this.value.array as Float32Array;
    const known = this.known.array as Float32Array;
    if (!values) known.fill(0);
    else {
      for (let v = 0; v < values.length; v++) {
        const ok = Number.isFinite(values[v]);
        value[v] = ok ? values[v] : 0;
        known[v] = ok ? 1 : 0;
      }
    }
    this.value.needsUpdate = true;
    this.known.needsUpdate = true;
    return true;
  }
}

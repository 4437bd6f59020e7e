import { BufferAttribute } from 'three';
import { PendingValues } from './pending-values.ts';

/** The values of the vertices of a mark as attributes; filled when they are drawn next. */
export class VertexValues extends PendingValues {
  readonly value: BufferAttribute;
  readonly known: BufferAttribute;

  constructor(vertices: number) {
    super();
    this.value = new BufferAttribute(new Float32Array(vertices), 1);
    this.known = new BufferAttribute(new Float32Array(vertices), 1);
  }

  /** Puts what is waiting in place. */
  fill(): void {
    const values = this.take();
    if (values === undefined) return;
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
  }
}

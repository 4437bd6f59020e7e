import { GrowingUint32 } from '../../model/arrays.ts';
import { POLYGON, TRIANGLE } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';

/** Collects the cells of a result together with the input cell each came from. */
export class CellList {
  private readonly types = new GrowingUint32();
  private readonly ends = new GrowingUint32();
  private readonly nodes = new GrowingUint32(4096);
  private readonly origins = new GrowingUint32();

  node(index: number): void {
    this.nodes.push(index);
  }

  /** Nodes added since the last cell was finished. */
  get open(): number {
    return this.nodes.length - (this.ends.length > 0 ? this.ends.data[this.ends.length - 1] : 0);
  }

  /** The k-th of the open nodes. */
  openNode(k: number): number {
    return this.nodes.data[this.nodes.length - this.open + k];
  }

  dropOpen(keep = 0): void {
    this.nodes.length -= this.open - keep;
  }

  finish(type: number, originCell: number): void {
    this.types.push(type);
    this.ends.push(this.nodes.length);
    this.origins.push(originCell);
  }

  /** Finishes the open nodes as a polygon, or drops them when they are too few for one. */
  close(originCell: number): void {
    if (this.open >= 3) this.finish(this.open === 3 ? TRIANGLE : POLYGON, originCell);
    else this.dropOpen();
  }

  /** A polygon of `n` nodes, unless they are too few for one. */
  polygon(loop: Uint32Array, n: number, originCell: number): void {
    if (n < 3) return;
    for (let k = 0; k < n; k++) this.nodes.push(loop[k]);
    this.finish(n === 3 ? TRIANGLE : POLYGON, originCell);
  }

  mesh(points: Float32Array): Mesh {
    const offsets = new Uint32Array(this.ends.length + 1);
    offsets.set(this.ends.data.subarray(0, this.ends.length), 1);
    return {
      points,
      types: Uint8Array.from(this.types.data.subarray(0, this.types.length)),
      offsets,
      connectivity: this.nodes.toArray(),
    };
  }

  originCells(): Uint32Array {
    return this.origins.toArray();
  }
}

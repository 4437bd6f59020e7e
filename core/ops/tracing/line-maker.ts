import { ALONG_LINE } from '../../fields/sources/along-line.ts';
import { GrowingFloat32, GrowingUint32 } from '../../model/arrays.ts';
import { LINE } from '../../model/cell-types.ts';
import { copyOf } from '../../model/recipe.ts';
import type { OperationResult } from '../chain/operation.ts';
import type { MeshFlow } from './flow.ts';
import type { LineFate } from './line-fate.ts';
import type { LineEnd } from './trace-line.ts';

/** Points and the recipe of one line as it is traced. */
class Strand {
  readonly places: number[] = [];
  readonly times: number[] = [];
  /** From the seed. */
  readonly lengths: number[] = [];
  readonly cells: number[] = [];
  readonly nodes: number[] = [];
  readonly weights: number[] = [];
  /** Where the nodes of each point end. */
  readonly ends: number[] = [];

  add({ finder }: MeshFlow, x: number, y: number, z: number, time: number, length: number): void {
    this.places.push(x, y, z);
    this.times.push(time);
    this.lengths.push(length);
    this.cells.push(finder.cell);
    for (let i = 0; i < finder.count; i++) {
      this.nodes.push(finder.nodes[i]);
      this.weights.push(finder.weights[i]);
    }
    this.ends.push(this.nodes.length);
  }
}

/** Lines that follow a flow, put together to a mesh with the recipe that leads to the mesh of the flow. */
export class LineMaker {
  readonly fates: LineFate[] = [];
  private readonly points = new GrowingFloat32();
  private readonly time = new GrowingFloat32();
  private readonly length = new GrowingFloat32();
  private readonly number = new GrowingFloat32();
  private readonly segments = new GrowingUint32();
  private readonly starts = new GrowingUint32();
  private readonly index = new GrowingUint32();
  private readonly weight = new GrowingFloat32();
  private readonly cells = new GrowingUint32();

  constructor(private readonly flow: MeshFlow) {
    this.starts.push(0);
  }

  get strand(): Strand {
    return new Strand();
  }

  /** Notes points of a line as the tracer meets them. */
  onto =
    (strand: Strand) =>
    (x: number, y: number, z: number, time: number, length: number): void =>
      strand.add(this.flow, x, y, z, time, length);

  /** Both halves of a line, each from the seed on, as one. */
  add(seed: readonly number[], back: [Strand, LineEnd] | null, ahead: [Strand, LineEnd] | null): void {
    const first = this.points.length / 3;
    const line = this.fates.length + 1;
    // The seed counts once.
    const from = ahead && back ? 1 : 0;
    const before = back?.[0].lengths.at(-1) ?? 0;
    const push = (strand: Strand, i: number, gone: number): void => this.push(strand, i, line, first, gone);
    if (back)
      for (let i = back[0].times.length - 1; i >= from; i--) push(back[0], i, before - back[0].lengths[i]);
    if (ahead)
      for (let i = 0; i < ahead[0].times.length; i++) push(ahead[0], i, before + ahead[0].lengths[i]);
    const points = this.points.length / 3 - first;
    this.fates.push({ seed, back: back?.[1] ?? null, ahead: ahead?.[1] ?? null, first, points });
  }

  private push(strand: Strand, i: number, line: number, first: number, gone: number): void {
    const at = this.points.length / 3;
    const [x, y, z] = [strand.places[3 * i], strand.places[3 * i + 1], strand.places[3 * i + 2]];
    this.points.push(x);
    this.points.push(y);
    this.points.push(z);
    this.time.push(strand.times[i]);
    this.length.push(gone);
    this.number.push(line);
    for (let k = i === 0 ? 0 : strand.ends[i - 1]; k < strand.ends[i]; k++) {
      this.index.push(strand.nodes[k]);
      this.weight.push(strand.weights[k]);
    }
    this.starts.push(this.index.length);
    if (at > first) {
      this.segments.push(at - 1);
      this.segments.push(at);
      this.cells.push(strand.cells[i]);
    }
  }

  result(): OperationResult {
    const connectivity = this.segments.toArray();
    const n = connectivity.length / 2;
    return {
      mesh: {
        points: this.points.toArray(),
        types: new Uint8Array(n).fill(LINE),
        offsets: Uint32Array.from({ length: n + 1 }, (_, i) => 2 * i),
        connectivity,
      },
      recipe: {
        points: {
          ...copyOf(this.index.toArray()),
          width: 0,
          starts: this.starts.toArray(),
          weight: this.weight.toArray(),
        },
        cells: copyOf(this.cells.toArray()),
      },
      fates: this.fates,
      made: {
        [ALONG_LINE.time]: this.time.toArray(),
        [ALONG_LINE.length]: this.length.toArray(),
        [ALONG_LINE.number]: this.number.toArray(),
      },
    };
  }
}

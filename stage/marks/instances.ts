import { InstancedBufferAttribute, InstancedBufferGeometry } from 'three';
import { shuffled } from '#core/model/random-numbers.ts';
import type { VertexValues } from './vertex-values.ts';

/**
 * One shape drawn many times, at vertices of a mark, each time in the colour of its vertex. There are few enough in one that
 * drawing it is no long piece of work: what is drawn in instances cannot begin among them.
 */
export class Instances {
  readonly geometry = new InstancedBufferGeometry();
  readonly count: number;
  /** Whether its values are not those of the vertices any more. */
  stale = true;
  private readonly value: InstancedBufferAttribute;
  private readonly known: InstancedBufferAttribute;

  /**
   * @param vertices of the mark, one for each instance
   * @param each what every vertex has, three numbers a vertex, by the name the shader knows it by
   * @param single what it has of one number a vertex
   */
  constructor(
    private readonly vertices: Uint32Array,
    each: Readonly<Record<string, Float32Array>>,
    single: Readonly<Record<string, Float32Array>> = {},
  ) {
    const n = vertices.length;
    this.count = n;
    const give = (name: string, all: Float32Array, width: number): void => {
      const own = new Float32Array(width * n);
      for (let i = 0; i < n; i++)
        for (let k = 0; k < width; k++) own[width * i + k] = all[width * vertices[i] + k];
      this.geometry.setAttribute(name, new InstancedBufferAttribute(own, width));
    };
    for (const [name, all] of Object.entries(each)) give(name, all, 3);
    for (const [name, all] of Object.entries(single)) give(name, all, 1);
    this.value = new InstancedBufferAttribute(new Float32Array(n), 1);
    this.known = new InstancedBufferAttribute(new Float32Array(n), 1);
    this.geometry.setAttribute('value', this.value);
    this.geometry.setAttribute('known', this.known);
    this.geometry.instanceCount = n;
  }

  /** All instances, some to each; `shape` gives each its own shape. */
  static split(
    vertices: Uint32Array,
    most: number,
    each: Readonly<Record<string, Float32Array>>,
    shape: (geometry: InstancedBufferGeometry) => void,
    single: Readonly<Record<string, Float32Array>> = {},
  ): Instances[] {
    const out: Instances[] = [];
    // Each piece is taken from all over, so that the first of them stand for all.
    const mixed = vertices.length > most ? shuffled(vertices) : vertices;
    for (let from = 0; from < mixed.length; from += most) {
      const some = new Instances(mixed.subarray(from, from + most), each, single);
      shape(some.geometry);
      out.push(some);
    }
    return out;
  }

  fill({ value, known }: VertexValues): void {
    if (!this.stale) return;
    this.stale = false;
    for (const [i, v] of this.vertices.entries()) {
      this.value.array[i] = value.array[v];
      this.known.array[i] = known.array[v];
    }
    this.value.needsUpdate = true;
    this.known.needsUpdate = true;
  }
}

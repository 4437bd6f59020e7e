import { BufferAttribute, InstancedBufferAttribute, InstancedBufferGeometry, Mesh } from 'three';
import { lineFragment, lineVertex } from '../shaders/line.ts';
import { material, type Uniforms, unlit } from './material.ts';
import type { Drawn } from './painter.ts';
import { ScaleUniforms } from './scale-uniforms.ts';
import type { VertexValues } from './vertex-values.ts';

/** What of the uniforms is of the colour scale. */
const SCALE_NAMES = ['uHasField', ...Object.keys(new ScaleUniforms().own)];

/** Segments of a chunk: few enough that one of them is no long piece of work. */
const CHUNK = 12_000;

/**
 * Line segments as quads of a width in pixels. They are cut into chunks with geometry of their own, each made when it
 * is first drawn: the first element of instances cannot be chosen when they are drawn.
 */
export class Segments {
  readonly drawn: Drawn[] = [];
  readonly material;
  private readonly bare;
  private readonly chunks: Chunk[] = [];

  /**
   * @param pairs vertex pairs
   * @param values of the vertices, or null where segments have one colour
   */
  constructor(
    positions: Float32Array,
    pairs: Uint32Array,
    private readonly values: VertexValues | null,
    uniforms: Uniforms,
  ) {
    this.material = material(lineVertex, lineFragment, uniforms);
    this.bare = unlit(lineVertex, lineFragment, uniforms);
    for (let from = 0; from < pairs.length / 2; from += CHUNK) {
      const own = pairs.subarray(2 * from, Math.min(pairs.length, 2 * (from + CHUNK)));
      const chunk = new Chunk(positions, own, values, this.material);
      this.chunks.push(chunk);
      this.drawn.push({
        object: chunk.mesh,
        kind: 'line',
        unlit: this.bare,
        by: 'whole',
        count: own.length / 2,
        narrow: () => {
          if (this.values?.fill()) for (const c of this.chunks) c.stale = true;
          chunk.ready();
        },
      });
    }
  }

  /** Colours by the scale of these uniforms from now on. */
  use(uniforms: Uniforms): void {
    for (const { uniforms: own } of [this.material, this.bare])
      for (const name of SCALE_NAMES) own[name] = uniforms[name];
  }

  dispose(): void {
    for (const { mesh } of this.chunks) mesh.geometry.dispose();
    this.material.dispose();
    this.bare.dispose();
  }
}

class Chunk {
  readonly mesh: Mesh<InstancedBufferGeometry>;
  /** Whether its values are not those of the vertices any more. */
  stale = true;
  private made = false;

  constructor(
    private readonly positions: Float32Array,
    private readonly pairs: Uint32Array,
    private readonly values: VertexValues | null,
    own: ReturnType<typeof material>,
  ) {
    this.mesh = new Mesh(new InstancedBufferGeometry(), own);
    this.mesh.frustumCulled = false;
  }

  ready(): void {
    if (!this.made) this.make();
    if (this.stale && this.values) this.fill(this.values);
    this.stale = false;
  }

  private make(): void {
    this.made = true;
    const { pairs, positions: p } = this;
    const n = pairs.length / 2;
    const from = new Float32Array(3 * n);
    const to = new Float32Array(3 * n);
    for (let i = 0; i < n; i++) {
      const a = 3 * pairs[2 * i];
      const b = 3 * pairs[2 * i + 1];
      for (let k = 0; k < 3; k++) {
        from[3 * i + k] = p[a + k];
        to[3 * i + k] = p[b + k];
      }
    }
    const g = this.mesh.geometry;
    g.setAttribute('corner', new BufferAttribute(new Float32Array([0, -1, 0, 1, 1, 1, 1, -1]), 2));
    g.setIndex([0, 2, 1, 0, 3, 2]);
    g.setAttribute('from', new InstancedBufferAttribute(from, 3));
    g.setAttribute('to', new InstancedBufferAttribute(to, 3));
    const each = this.values ? 1 : n;
    for (const name of ['fromValue', 'toValue', 'fromKnown', 'toKnown'])
      g.setAttribute(name, new InstancedBufferAttribute(new Float32Array(n / each), 1, false, each));
    g.instanceCount = n;
  }

  private fill({ value, known }: VertexValues): void {
    const { pairs } = this;
    const [from, to, fromKnown, toKnown] = ['fromValue', 'toValue', 'fromKnown', 'toKnown'].map((name) =>
      this.mesh.geometry.getAttribute(name),
    );
    for (let i = 0; i < pairs.length / 2; i++) {
      const [a, b] = [pairs[2 * i], pairs[2 * i + 1]];
      from.array[i] = value.array[a];
      to.array[i] = value.array[b];
      fromKnown.array[i] = known.array[a];
      toKnown.array[i] = known.array[b];
    }
    for (const attribute of [from, to, fromKnown, toKnown]) attribute.needsUpdate = true;
  }
}

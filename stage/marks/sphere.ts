import { BufferAttribute, InstancedBufferAttribute, InstancedBufferGeometry, Mesh } from 'three';
import { blend, keepGreatest } from '../blending.ts';
import { sphereCasterFragment, sphereFragment, sphereVertex } from '../shaders/sphere.ts';
import { material, unlit } from './material.ts';
import type { Drawn, Painter } from './painter.ts';
import { VertexValues } from './vertex-values.ts';

/** Spheres of a chunk: few enough that one of them is no long piece of work. */
const CHUNK = 8000;

/** Bodies of a size, exactly round at every distance; they cast shadows. */
export const spherePainter: Painter<'sphere'> = {
  kind: 'sphere',
  paint({ positions, spheres, radius }, look, shared) {
    const values = new VertexValues(positions.length / 3);
    const uniforms = { ...shared, ...look.own, uRadius: { value: radius } };
    const seen = material(sphereVertex, sphereFragment, uniforms);
    const bare = unlit(sphereVertex, sphereFragment, uniforms);
    const shadow = material(sphereVertex, sphereCasterFragment, uniforms);
    keepGreatest(shadow);
    const chunks: Chunk[] = [];
    for (let from = 0; from < spheres.length; from += CHUNK)
      chunks.push(new Chunk(positions, spheres.subarray(from, from + CHUNK)));
    const drawn: Drawn[] = [];
    const casters: Drawn[] = [];
    for (const chunk of chunks)
      for (const [into, own, kind] of [
        [drawn, seen, 'sphere'],
        [casters, shadow, 'sphere shadow'],
      ] as const) {
        const object = new Mesh(chunk.geometry, own);
        object.frustumCulled = false;
        const narrow = (): void => {
          if (values.fill()) for (const c of chunks) c.stale = true;
          chunk.fill(values);
        };
        const lit = into === drawn ? { unlit: bare } : {};
        into.push({ object, kind, by: 'whole', count: chunk.count, ...lit, narrow });
      }
    const all = { casters };
    return {
      drawn,
      get casters() {
        return all.casters;
      },
      setValues: (v) => values.set(v),
      restyle: ({ layer }) => {
        blend(seen, look.throughAt(layer.opacity));
        all.casters = layer.opacity > 0.6 ? casters : [];
      },
      fade: (opacity) => blend(seen, look.throughAt(opacity)),
      dispose: () => {
        for (const { geometry } of chunks) geometry.dispose();
        seen.dispose();
        bare.dispose();
        shadow.dispose();
      },
    };
  },
};

class Chunk {
  readonly geometry = new InstancedBufferGeometry();
  readonly count: number;
  /** Whether its values are not those of the vertices any more. */
  stale = true;
  private readonly value: InstancedBufferAttribute;
  private readonly known: InstancedBufferAttribute;

  constructor(
    positions: Float32Array,
    private readonly spheres: Uint32Array,
  ) {
    const n = spheres.length;
    this.count = n;
    const centres = new Float32Array(3 * n);
    for (let i = 0; i < n; i++)
      for (let k = 0; k < 3; k++) centres[3 * i + k] = positions[3 * spheres[i] + k];
    this.value = new InstancedBufferAttribute(new Float32Array(n), 1);
    this.known = new InstancedBufferAttribute(new Float32Array(n), 1);
    const g = this.geometry;
    g.setAttribute('corner', new BufferAttribute(new Float32Array([-1, -1, 1, -1, 1, 1, -1, 1]), 2));
    g.setIndex([0, 1, 2, 0, 2, 3]);
    g.setAttribute('centre', new InstancedBufferAttribute(centres, 3));
    g.setAttribute('value', this.value);
    g.setAttribute('known', this.known);
    g.instanceCount = n;
  }

  fill({ value, known }: VertexValues): void {
    if (!this.stale) return;
    this.stale = false;
    for (const [i, v] of this.spheres.entries()) {
      this.value.array[i] = value.array[v];
      this.known.array[i] = known.array[v];
    }
    this.value.needsUpdate = true;
    this.known.needsUpdate = true;
  }
}

import { BufferGeometry, type DataTexture, Mesh, type RawShaderMaterial, Sphere } from 'three';
import type { Uniforms } from './material.ts';
import type { Drawn } from './painter.ts';
import { PendingValues } from './pending-values.ts';
import { inFairOrder } from './standing-for-all.ts';
import { numberTable, ValueTable } from './tables.ts';

interface CopiesOptions {
  /** Vertices of the mark that each is drawn at. */
  ends: number;
  /** Vertices of the triangles that draw one of them. */
  corners: number;
  /** How many vertices the mark has. */
  vertices: number;
  /** `uPlaces`, and what else the shader reads; made when they are first drawn. */
  tables: Readonly<Record<string, () => DataTexture>>;
  /** Whether some of them may stand for all. */
  fair?: boolean;
}

/**
 * Many things alike at vertices of a mark, each in the colour of its vertices; see `copiesShader`. They are not drawn as
 * instances: of these no range can be chosen when they are drawn, and without a card each is a draw of its own (measured:
 * twenty times as long as the triangles of a sphere).
 */
export class Copies {
  readonly geometry = new BufferGeometry();
  readonly count: number;
  /** Read once they are drawn. */
  readonly uniforms: Uniforms;
  readonly values = new PendingValues();
  private readonly textures: DataTexture[] = [];
  private own: ValueTable | null = null;

  /** @param picks vertices of the mark, `ends` for each */
  constructor(
    private readonly picks: Uint32Array,
    private readonly options: CopiesOptions,
  ) {
    this.count = picks.length / options.ends;
    this.uniforms = Object.fromEntries(
      ['uPicks', 'uValues', ...Object.keys(options.tables)].map((name) => [name, { value: null }]),
    );
    this.geometry.boundingSphere = new Sphere();
  }

  /** What draws them with a material. */
  drawn(own: RawShaderMaterial, kind: string, more: Partial<Drawn> = {}): Drawn {
    const object = new Mesh(this.geometry, own);
    object.frustumCulled = false;
    return {
      object,
      kind,
      by: 'element',
      count: this.count,
      ...more,
      narrow: (from, to) => {
        this.ready();
        const { corners } = this.options;
        this.geometry.setDrawRange(corners * from, corners * (to - from));
      },
    };
  }

  dispose(): void {
    this.geometry.dispose();
    for (const texture of this.textures) texture.dispose();
  }

  private ready(): void {
    this.own ??= this.make();
    const values = this.values.take();
    if (values !== undefined) this.own.fill(values);
  }

  private make(): ValueTable {
    const { picks, options, uniforms } = this;
    const own = new ValueTable(options.vertices);
    const keep = (name: string, texture: DataTexture): void => {
      uniforms[name].value = texture;
      this.textures.push(texture);
    };
    for (const [name, made] of Object.entries(options.tables)) keep(name, made());
    keep('uPicks', numberTable(options.fair ? inFairOrder('body', picks) : picks));
    keep('uValues', own.texture);
    return own;
  }
}

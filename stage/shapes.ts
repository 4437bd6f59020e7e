import {
  BufferAttribute,
  BufferGeometry,
  DataTexture,
  FloatType,
  InstancedBufferAttribute,
  InstancedBufferGeometry,
  LinearMipmapLinearFilter,
  Mesh,
  NearestFilter,
  Points,
  type RawShaderMaterial,
  RGBAFormat,
  Texture,
  Vector3,
} from 'three';
import { toLinear } from '#core/colour/cielab.ts';
import { MISSING, type ScaleColours, scaleTable } from '#core/colour/scale-colours.ts';
import type { Drawable } from '#core/model/drawable.ts';
import type { Layer } from '#core/scene/document.ts';
import type { Shape } from '#engine/geometry-maker.ts';
import type { FramePart } from '#engine/scene-source.ts';
import { linearOf } from './backdrops.ts';
import { labelMesh } from './line-labels.ts';
import { material, type Uniforms } from './material.ts';
import {
  casterFragment,
  dotFragment,
  dotVertex,
  lineFragment,
  lineVertex,
  surfaceFragment,
  surfaceVertex,
} from './shaders.ts';
import { volumeMesh } from './volume-shape.ts';

/** Uniforms the objects of one part of one layer share; changing a map or a range touches nothing else. */
export class PartUniforms {
  readonly own: Uniforms = {
    uTable: { value: null },
    uLow: { value: 0 },
    uHigh: { value: 1 },
    uBands: { value: 0 },
    uHasField: { value: false },
    uPlain: { value: new Vector3(0.7, 0.68, 0.64) },
    uMissing: { value: new Vector3(...MISSING.map(toLinear)) },
    uOpacity: { value: 1 },
    uLayer: { value: 1 },
    uInside: { value: false },
    /** 0 as it is, 1 see-through, 2 gone: of a part that stands in the way. */
    uAway: { value: 0 },
    uNumberPull: { value: 0 },
    uHasPicture: { value: false },
    uPicture: { value: null },
  };
  private tableKey = '';

  private picture: ImageBitmap | null = null;

  /** The picture shown on a plane. */
  setPicture(picture: ImageBitmap | null): void {
    if (picture === this.picture) return;
    this.picture = picture;
    this.own.uPicture.value?.dispose();
    this.own.uPicture.value = picture ? pictureTexture(picture) : null;
    this.own.uHasPicture.value = picture !== null;
  }

  /**
   * @param colour the part's own colour, which takes the place of the layer's
   * @param number of the shape, for picking
   * @param order of the layer among the lines of the scene
   */
  update(
    layer: Layer,
    colours: ScaleColours | null,
    colour: string | null,
    number: number,
    order: number,
  ): void {
    const u = this.own;
    u.uOpacity.value = layer.opacity;
    u.uLayer.value = number + 1;
    u.uInside.value = layer.sides === 'inside';
    // Of layers that coincide the later line wins, without flicker.
    u.uNumberPull.value = order * 4e-6;
    u.uHasField.value = colour === null && layer.colour.kind === 'field' && colours !== null;
    if (colour !== null) u.uPlain.value.set(...linearOf(colour));
    else if (layer.colour.kind === 'plain') u.uPlain.value.set(...linearOf(layer.colour.colour));
    if (!colours) return;
    u.uLow.value = colours.low;
    u.uHigh.value = colours.high;
    u.uBands.value = colours.bands ?? 0;
    const key = `${colours.map}/${colours.reversed}`;
    if (key === this.tableKey) return;
    this.tableKey = key;
    u.uTable.value?.dispose();
    u.uTable.value = tableTexture(colours);
  }

  dispose(): void {
    this.own.uTable.value?.dispose();
    this.own.uPicture.value?.dispose();
  }
}

function pictureTexture(picture: ImageBitmap): Texture {
  const texture = new Texture(picture);
  texture.flipY = false;
  texture.generateMipmaps = true;
  texture.minFilter = LinearMipmapLinearFilter;
  texture.needsUpdate = true;
  return texture;
}

/** Corners of a picture within itself, for the four points of its plane from the lower left around. */
const CORNERS = [0, 1, 1, 1, 1, 0, 0, 0];

/** The colours of a scale as a small texture of full precision. */
function tableTexture(colours: ScaleColours): DataTexture {
  const table = scaleTable(colours);
  const data = new Float32Array(table.length * 4);
  for (const [i, c] of table.entries()) data.set([...c, 1], 4 * i);
  const texture = new DataTexture(data, table.length, 1, RGBAFormat, FloatType);
  texture.minFilter = NearestFilter;
  texture.magFilter = NearestFilter;
  texture.needsUpdate = true;
  return texture;
}

/** The objects that draw one part of one layer. */
export class PartShape {
  readonly surface: Mesh | null;
  /** The same triangles as the lights see them. */
  readonly caster: Mesh | null;
  readonly edges: Mesh | null;
  readonly lines: Mesh | null;
  readonly dots: Points | null;
  /** The values written on its lines. */
  readonly labels: Mesh | null;
  /** Its cloud. */
  readonly volume: Mesh | null;
  readonly edgeUniforms: Uniforms = {
    uHasField: { value: false },
    uPlain: { value: new Vector3(0.02, 0.018, 0.016) },
    uOpacity: { value: 0.45 },
    uLayer: { value: 0 },
  };
  private readonly drawable: Drawable;
  private values: Float32Array | null = null;

  constructor(
    readonly key: string,
    readonly shape: Shape,
    layer: PartUniforms,
    shared: Uniforms,
  ) {
    const { drawable } = shape;
    this.drawable = drawable;
    const n = drawable.positions.length / 3;
    const value = new BufferAttribute(new Float32Array(n), 1);
    const known = new BufferAttribute(new Float32Array(n), 1);
    const uniforms = { ...shared, ...layer.own };
    const base = (): BufferGeometry => {
      const g = new BufferGeometry();
      g.setAttribute('position', new BufferAttribute(drawable.positions, 3));
      g.setAttribute('normal', new BufferAttribute(drawable.normals, 3));
      g.setAttribute('value', value);
      g.setAttribute('known', known);
      if (layer.own.uHasPicture.value) {
        const uv = Float32Array.from(
          { length: 2 * n },
          (_, i) => CORNERS[2 * drawable.vertexPoint[i >> 1] + (i & 1)],
        );
        g.setAttribute('uv', new BufferAttribute(uv, 2));
      }
      return g;
    };
    this.value = value;
    this.known = known;
    this.surface = null;
    this.caster = null;
    if (drawable.triangles.length > 0) {
      const g = base();
      g.setIndex(new BufferAttribute(drawable.triangles, 1));
      this.surface = new Mesh(g, material(surfaceVertex, surfaceFragment, uniforms));
      const shadow = material(surfaceVertex, casterFragment, uniforms);
      shadow.colorWrite = false;
      this.caster = new Mesh(g, shadow);
    }
    this.edges =
      drawable.edges.length > 0
        ? this.segments(drawable.edges, { ...uniforms, ...this.edgeUniforms, uThick: { value: 1 } }, false)
        : null;
    this.lines =
      drawable.lines.length > 0
        ? this.segments(drawable.lines, { ...uniforms, uPull: { value: 1e-4 }, uThick: { value: 3 } }, true)
        : null;
    this.dots = null;
    if (drawable.dots.length > 0) {
      const g = base();
      g.setIndex(new BufferAttribute(drawable.dots, 1));
      this.dots = new Points(g, material(dotVertex, dotFragment, uniforms));
    }
    this.labels = shape.labels ? labelMesh(shape.labels, uniforms) : null;
    this.volume = shape.grid ? volumeMesh(shape.grid, uniforms) : null;
    for (const object of this.objects) object.frustumCulled = false;
  }

  private readonly value: BufferAttribute;
  private readonly known: BufferAttribute;
  private lineEnds: {
    indices: Uint32Array;
    from: BufferAttribute;
    to: BufferAttribute;
    fromKnown: BufferAttribute;
    toKnown: BufferAttribute;
  } | null = null;

  get objects(): (Mesh | Points)[] {
    return [this.surface, this.caster, this.edges, this.lines, this.dots, this.labels, this.volume].filter(
      (o) => o !== null,
    );
  }

  /** Puts new values on the vertices; what is not a number is marked as unknown. */
  setValues(values: FramePart['values']): void {
    if (values === this.values) return;
    this.values = values;
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
    if (!this.lineEnds) return;
    const { indices, from, to, fromKnown, toKnown } = this.lineEnds;
    for (let i = 0; i < indices.length / 2; i++) {
      from.array[i] = value[indices[2 * i]];
      to.array[i] = value[indices[2 * i + 1]];
      fromKnown.array[i] = known[indices[2 * i]];
      toKnown.array[i] = known[indices[2 * i + 1]];
    }
    for (const a of [from, to, fromKnown, toKnown]) a.needsUpdate = true;
  }

  dispose(): void {
    for (const object of this.objects) {
      for (const name of ['uText', 'uGrid', 'uCurve']) {
        const own = (object.material as RawShaderMaterial).uniforms[name];
        own?.value?.dispose();
      }
      object.geometry.dispose();
      (object.material as RawShaderMaterial).dispose();
    }
  }

  private segments(indices: Uint32Array, uniforms: Uniforms, valued: boolean): Mesh {
    const n = indices.length / 2;
    const p = this.drawable.positions;
    const from = new Float32Array(3 * n);
    const to = new Float32Array(3 * n);
    for (let i = 0; i < n; i++) {
      for (let k = 0; k < 3; k++) {
        from[3 * i + k] = p[3 * indices[2 * i] + k];
        to[3 * i + k] = p[3 * indices[2 * i + 1] + k];
      }
    }
    const g = new InstancedBufferGeometry();
    g.setAttribute('corner', new BufferAttribute(new Float32Array([0, -1, 0, 1, 1, 1, 1, -1]), 2));
    g.setIndex([0, 2, 1, 0, 3, 2]);
    g.setAttribute('from', new InstancedBufferAttribute(from, 3));
    g.setAttribute('to', new InstancedBufferAttribute(to, 3));
    const ends = ['fromValue', 'toValue', 'fromKnown', 'toKnown'].map((name) => {
      const a = new InstancedBufferAttribute(new Float32Array(valued ? n : 1), 1, false, valued ? 1 : n);
      g.setAttribute(name, a);
      return a;
    });
    if (valued) {
      this.lineEnds = { indices, from: ends[0], to: ends[1], fromKnown: ends[2], toKnown: ends[3] };
    }
    g.instanceCount = n;
    return new Mesh(g, material(lineVertex, lineFragment, uniforms));
  }
}

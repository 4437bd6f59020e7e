import {
  DataTexture,
  FloatType,
  LinearMipmapLinearFilter,
  NearestFilter,
  RGBAFormat,
  Texture,
  Vector3,
} from 'three';
import { toLinear } from '#core/colour/cielab.ts';
import { type CompiledScale, MISSING, MOST_BANDS, TABLE_SIZE } from '#core/colour/compiled-scale.ts';
import type { Layer } from '#core/scene/document.ts';
import { linearOf } from '../linear-colour.ts';
import type { Uniforms } from './material.ts';

/** How one part of one layer looks, as uniforms all its marks share; changing a map or a range touches nothing else. */
export class PartLook {
  readonly own: Uniforms = {
    uTable: { value: null },
    uLow: { value: 0 },
    uHigh: { value: 1 },
    uBands: { value: 0 },
    /** Where each band begins; the first entry is not read. */
    uEdges: { value: new Float32Array(MOST_BANDS) },
    uHasField: { value: false },
    uPlain: { value: new Vector3(0.7, 0.68, 0.64) },
    uMissing: { value: new Vector3(...MISSING.map(toLinear)) },
    uOpacity: { value: 1 },
    uInside: { value: false },
    uClear: { value: false },
    /** 0 as it is, 1 see-through, 2 gone: of a part that stands in the way. */
    uAway: { value: 0 },
    uNumberPull: { value: 0 },
    uHasPicture: { value: false },
    uPicture: { value: null },
  };
  private table: Float32Array | null = null;

  /** Whether it is taken out of the way of what is looked at. */
  get isAway(): boolean {
    return this.own.uAway.value > 0;
  }

  /** Whether it is seen only where nothing opaque is. */
  get isClear(): boolean {
    return this.own.uClear.value;
  }

  /** Of a part that stands in the way of what is looked at. */
  set away(how: 'not' | 'faded' | 'gone') {
    this.own.uAway.value = ['not', 'faded', 'gone'].indexOf(how);
  }

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
   * @param order of the layer among the lines of the scene
   */
  update(layer: Layer, scale: CompiledScale | null, colour: string | null, order: number): void {
    const u = this.own;
    u.uOpacity.value = layer.opacity;
    u.uInside.value = layer.sides === 'inside';
    u.uClear.value = layer.sides === 'clear';
    // Of layers that coincide the later line wins, without flicker.
    u.uNumberPull.value = order * 4e-6;
    u.uHasField.value = colour === null && layer.colour.kind === 'field' && scale !== null;
    if (colour !== null) u.uPlain.value.set(...linearOf(colour));
    else if (layer.colour.kind === 'plain') u.uPlain.value.set(...linearOf(layer.colour.colour));
    if (!scale) return;
    u.uLow.value = scale.low;
    u.uHigh.value = scale.high;
    u.uBands.value = scale.bandCount;
    u.uEdges.value.set(scale.edges.slice(0, MOST_BANDS));
    if (this.table === scale.table) return;
    this.table = scale.table;
    u.uTable.value?.dispose();
    u.uTable.value = tableTexture(scale.table);
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

/** The colours of a scale as a small texture of full precision. */
function tableTexture(table: Float32Array): DataTexture {
  const texture = new DataTexture(table, TABLE_SIZE, 1, RGBAFormat, FloatType);
  texture.minFilter = NearestFilter;
  texture.magFilter = NearestFilter;
  texture.needsUpdate = true;
  return texture;
}

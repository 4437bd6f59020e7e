import { LinearMipmapLinearFilter, RepeatWrapping, Texture, Vector3 } from 'three';
import type { CompiledScale } from '#core/colour/compiled-scale.ts';
import { linearOf } from '#core/model/srgb.ts';
import type { Layer } from '#core/scene/document.ts';
import type { LevelLines } from '#core/scene/things/scale.ts';
import type { Uniforms } from './material.ts';
import { ScaleUniforms } from './scale-uniforms.ts';

/** How one part of one layer looks, as uniforms all its marks share; changing a map or a range touches nothing else. */
export class PartLook {
  private readonly scale = new ScaleUniforms();
  readonly own: Uniforms = {
    ...this.scale.own,
    uHasField: { value: false },
    uOneColour: { value: false },
    uPlain: { value: new Vector3(0.7, 0.68, 0.64) },
    uOpacity: { value: 1 },
    uBody: { value: 0 },
    uFinish: { value: 0 },
    uColoured: { value: false },
    uInside: { value: false },
    uClear: { value: false },
    /** 0 as it is, 1 see-through, 2 gone: of a part that stands in the way. */
    uAway: { value: 0 },
    uNumberPull: { value: 0 },
    uHasPicture: { value: false },
    uPicture: { value: null },
  };
  private hides = false;
  private seenThrough = false;

  /** Whether it is taken out of the way of what is looked at. */
  get isAway(): boolean {
    return this.own.uAway.value > 0;
  }

  /** Whether it is seen only where nothing opaque is. */
  get isClear(): boolean {
    return this.own.uClear.value;
  }

  /** Whether it wears a finish. */
  get isFinished(): boolean {
    return this.own.uFinish.value > 0;
  }

  /** Whether its colours leave something out. */
  get mayHide(): boolean {
    return this.hides;
  }

  /** An opacity that is below 1 wherever something is seen through: the whole, or some of its colours. */
  throughAt(opacity: number): number {
    return this.seenThrough ? Math.min(opacity, 0.999) : opacity;
  }

  /** Of a part that stands in the way of what is looked at. */
  set away(how: 'not' | 'faded' | 'gone') {
    this.own.uAway.value = ['not', 'faded', 'gone'].indexOf(how);
  }

  /** Tells it from the other bodies on the stage. */
  set number(body: number) {
    this.own.uBody.value = body;
  }

  private picture: ImageBitmap | null = null;

  /**
   * The picture shown on a plane or a body.
   *
   * @param repeats whether it goes on beyond its edges
   */
  setPicture(picture: ImageBitmap | null, repeats: boolean): void {
    if (picture === this.picture) return;
    this.picture = picture;
    this.own.uPicture.value?.dispose();
    this.own.uPicture.value = picture ? pictureTexture(picture, repeats) : null;
    this.own.uHasPicture.value = picture !== null;
  }

  /**
   * @param lines of its levels
   * @param colour its own colour, which takes the place of the layer's
   * @param finish its row among the finishes
   * @param order of the layer among the lines of the scene
   */
  update(
    layer: Layer,
    scale: CompiledScale | null,
    lines: LevelLines | null,
    colour: string | null,
    finish: number,
    order: number,
  ): void {
    const u = this.own;
    u.uOpacity.value = layer.opacity;
    u.uInside.value = layer.sides === 'inside';
    u.uClear.value = layer.sides === 'clear';
    // Of layers that coincide the later line wins, without flicker.
    u.uNumberPull.value = order * 4e-6;
    u.uHasField.value = colour === null && layer.colour.kind === 'field' && scale !== null;
    if (colour !== null) u.uPlain.value.set(...linearOf(colour));
    else if (layer.colour.kind === 'plain') u.uPlain.value.set(...linearOf(layer.colour.colour));
    const coloured = u.uHasField.value && scale !== null;
    u.uFinish.value = finish;
    u.uColoured.value = coloured;
    this.hides = coloured && scale!.mayHide;
    this.seenThrough = coloured && scale!.isSeenThrough;
    if (scale) this.scale.update(scale, lines);
  }

  dispose(): void {
    this.scale.dispose();
    this.own.uPicture.value?.dispose();
  }
}

function pictureTexture(picture: ImageBitmap, repeats: boolean): Texture {
  const texture = new Texture(picture);
  texture.flipY = false;
  if (repeats) texture.wrapS = texture.wrapT = RepeatWrapping;
  texture.generateMipmaps = true;
  texture.minFilter = LinearMipmapLinearFilter;
  texture.needsUpdate = true;
  return texture;
}

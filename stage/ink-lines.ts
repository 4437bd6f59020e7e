import {
  HalfFloatType,
  NearestFilter,
  type RawShaderMaterial,
  RedFormat,
  Vector3,
  WebGLRenderTarget,
} from 'three';
import { linearOf } from '#core/model/srgb.ts';
import { type Ink, inkWidth } from '#core/scene/things/ink.ts';
import { blend, layUnder, withoutDepth } from './blending.ts';
import type { Card } from './card.ts';
import { material } from './marks/material.ts';
import { Sized } from './render-targets.ts';
import { edgesFragment, inkFragment } from './shaders/ink.ts';
import { screenVertex } from './shaders/screen.ts';
import type { Drawing } from './slices.ts';
import type { StageUniforms } from './stage-uniforms.ts';

/** Draws lines of ink along the edges of the bodies of a pass: of opaque ones, and of layers of what is seen through. */
export class InkLines {
  private readonly edges;
  private readonly ink;
  /** The same, put under what lies before a layer. */
  private readonly under;
  private readonly found = new Sized(
    (width, height) =>
      new WebGLRenderTarget(width, height, {
        format: RedFormat,
        type: HalfFloatType,
        depthBuffer: false,
        minFilter: NearestFilter,
        magFilter: NearestFilter,
      }),
  );

  /** @param shared light and camera of the stage */
  constructor(
    private readonly card: Card,
    shared: StageUniforms,
  ) {
    this.edges = material(screenVertex, edgesFragment, {
      ...shared,
      uSurface: { value: null },
      uWanted: { value: [true, true, true] },
      uBend: { value: 0 },
      uLayer: { value: false },
      uOpaque: { value: null },
    });
    const own = {
      uEdges: { value: null },
      uSurface: { value: null },
      uInk: { value: new Vector3() },
      uInkWidth: { value: 1 },
    };
    this.ink = material(screenVertex, inkFragment, own);
    this.under = material(screenVertex, inkFragment, own);
    withoutDepth(this.edges);
    withoutDepth(this.ink);
    withoutDepth(this.under);
    // Put over what is there, as what is seen through.
    const { depthTest, depthWrite } = this.ink;
    blend(this.ink, 0.999);
    Object.assign(this.ink, { depthTest, depthWrite });
    layUnder(this.under);
  }

  get materials() {
    return [this.edges, this.ink, this.under];
  }

  /**
   * @param surfaces what lies where, as `outputs` tells
   * @param target a picture of the same size, which gets the lines
   * @param height of the whole picture, in pixels
   */
  draw(surfaces: WebGLRenderTarget, target: WebGLRenderTarget, ink: Ink, height: number): Drawing {
    return this.lines(this.ink, surfaces, null, target, ink, height);
  }

  /**
   * The same of one layer of what is seen through, put under the layers before it.
   *
   * @param opaque what lies where of what is opaque
   * @param front all that lies before the layer, put together
   */
  drawUnder(
    layer: WebGLRenderTarget,
    opaque: WebGLRenderTarget,
    front: WebGLRenderTarget,
    ink: Ink,
    height: number,
  ): Drawing {
    return this.lines(this.under, layer, opaque, front, ink, height);
  }

  private *lines(
    how: RawShaderMaterial,
    surfaces: WebGLRenderTarget,
    opaque: WebGLRenderTarget | null,
    target: WebGLRenderTarget,
    ink: Ink,
    height: number,
  ): Drawing {
    const found = this.found.of(surfaces.width, surfaces.height);
    const { uSurface, uWanted, uBend, uLayer, uOpaque } = this.edges.uniforms;
    uLayer.value = opaque !== null;
    uOpaque.value = (opaque ?? surfaces).textures[1];
    uSurface.value = surfaces.textures[1];
    uWanted.value = [ink.outlines, ink.creases, ink.meetings];
    uBend.value = Math.cos((ink.angle * Math.PI) / 180);
    yield* this.card.fill(this.edges, found, 'edge rows');
    const { uEdges, uInk, uInkWidth } = how.uniforms;
    uEdges.value = found.texture;
    how.uniforms.uSurface.value = surfaces.textures[1];
    uInk.value.set(...linearOf(ink.colour));
    uInkWidth.value = inkWidth(ink, height);
    yield* this.card.fill(how, target, 'ink rows');
  }

  dispose(): void {
    this.found.dispose();
  }
}

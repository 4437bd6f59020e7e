import { HalfFloatType, NearestFilter, RedFormat, Vector3, WebGLRenderTarget } from 'three';
import { linearOf } from '#core/model/srgb.ts';
import { type Ink, inkWidth } from '#core/scene/things/ink.ts';
import { blend, withoutDepth } from './blending.ts';
import type { Card } from './card.ts';
import { material } from './marks/material.ts';
import { Sized } from './render-targets.ts';
import { edgesFragment, inkFragment } from './shaders/ink.ts';
import { screenVertex } from './shaders/screen.ts';
import type { Drawing } from './slices.ts';
import type { StageUniforms } from './stage-uniforms.ts';

/** Draws lines of ink along the edges of the opaque bodies of a pass. */
export class InkLines {
  private readonly edges;
  private readonly ink;
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
    });
    this.ink = material(screenVertex, inkFragment, {
      uEdges: { value: null },
      uSurface: { value: null },
      uInk: { value: new Vector3() },
      uInkWidth: { value: 1 },
    });
    withoutDepth(this.edges);
    withoutDepth(this.ink);
    // Put over what is there, as what is seen through.
    const { depthTest, depthWrite } = this.ink;
    blend(this.ink, 0.999);
    Object.assign(this.ink, { depthTest, depthWrite });
  }

  get materials() {
    return [this.edges, this.ink];
  }

  /**
   * @param surfaces what lies where, as `outputs` tells
   * @param target a picture of the same size, which gets the lines
   * @param height of the whole picture, in pixels
   */
  *draw(surfaces: WebGLRenderTarget, target: WebGLRenderTarget, ink: Ink, height: number): Drawing {
    const found = this.found.of(surfaces.width, surfaces.height);
    const { uSurface, uWanted, uBend } = this.edges.uniforms;
    uSurface.value = surfaces.textures[1];
    uWanted.value = [ink.outlines, ink.creases, ink.meetings];
    uBend.value = Math.cos((ink.angle * Math.PI) / 180);
    yield* this.card.fill(this.edges, found, 'edge rows');
    const { uEdges, uInk, uInkWidth } = this.ink.uniforms;
    uEdges.value = found.texture;
    this.ink.uniforms.uSurface.value = surfaces.textures[1];
    uInk.value.set(...linearOf(ink.colour));
    uInkWidth.value = inkWidth(ink, height);
    yield* this.card.fill(this.ink, target, 'ink rows');
  }

  dispose(): void {
    this.found.dispose();
  }
}

import { type RawShaderMaterial, Vector2, WebGLRenderTarget } from 'three';
import { withoutDepth } from './blending.ts';
import type { Card } from './card.ts';
import { material } from './marks/material.ts';
import type { PictureSize } from './picture-camera.ts';
import { Sized } from './render-targets.ts';
import { copyFragment, developFragment, screenVertex, smallerFragment } from './shaders/screen.ts';
import type { Drawing } from './slices.ts';

/** Shows linear pictures on the canvas, and makes them smaller. */
export class ScreenPictures {
  private readonly develop = material(screenVertex, developFragment, {
    uNew: { value: null },
    uSolid: { value: false },
  });
  private readonly smaller = material(screenVertex, smallerFragment, {
    uNew: { value: null },
    uScale: { value: new Vector2() },
    uSolid: { value: false },
  });
  private readonly copy = material(screenVertex, copyFragment, { uNew: { value: null } });
  private readonly developed = new Sized(
    (width, height) => new WebGLRenderTarget(width, height, { depthBuffer: false }),
  );
  /** Pictures behind which there is nothing. */
  private readonly solid = new WeakSet<WebGLRenderTarget>();
  readonly materials: readonly RawShaderMaterial[] = [this.develop, this.smaller, this.copy];

  /** @param outlet a canvas that the picture is put on where that of the card is shared; else null */
  constructor(
    private readonly card: Card,
    private readonly outlet: HTMLCanvasElement | null = null,
  ) {
    for (const made of this.materials) withoutDepth(made);
  }

  /** From now on there is nothing behind this picture, whatever its opacity says. */
  makeSolid(picture: WebGLRenderTarget): void {
    this.solid.add(picture);
  }

  /**
   * The canvas changes at once, not row by row.
   *
   * @param size of the canvas, in its pixels
   */
  *present(source: WebGLRenderTarget, { width, height }: PictureSize): Drawing {
    const developed = this.developed.of(source.width, source.height);
    this.develop.uniforms.uNew.value = source.texture;
    this.develop.uniforms.uSolid.value = this.solid.has(source);
    yield* this.card.fill(this.develop, developed, 'develop rows');
    this.copy.uniforms.uNew.value = developed.texture;
    // What is put on another canvas is finished before, so that taking it over waits for nothing.
    if (this.outlet) yield;
    this.card.fit(width, height);
    yield* this.card.fill(this.copy, null, 'copy rows');
    if (this.outlet) putOn(this.outlet, this.card.renderer.domElement);
  }

  /** A linear picture at a smaller size, in another target. */
  *shrink(source: WebGLRenderTarget, target: WebGLRenderTarget): Drawing {
    this.smaller.uniforms.uNew.value = source.texture;
    this.smaller.uniforms.uSolid.value = this.solid.has(source);
    this.smaller.uniforms.uScale.value.set(source.width / target.width, source.height / target.height);
    yield* this.card.fill(this.smaller, target, 'average rows');
  }

  dispose(): void {
    this.developed.dispose();
  }
}

function putOn(canvas: HTMLCanvasElement, picture: HTMLCanvasElement): void {
  const { width, height } = picture;
  if (canvas.width !== width || canvas.height !== height) Object.assign(canvas, { width, height });
  const painter = canvas.getContext('2d')!;
  painter.globalCompositeOperation = 'copy';
  painter.drawImage(picture, 0, 0);
}

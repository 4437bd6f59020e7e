import { type Camera, type RawShaderMaterial, Vector3, Vector4 } from 'three';
import { withoutDepth } from './blending.ts';
import type { Card } from './card.ts';
import { material, type Uniforms } from './marks/material.ts';
import type { PassPicture } from './render-targets.ts';
import { litFragment } from './shaders/lit.ts';
import { screenVertex } from './shaders/screen.ts';
import type { Drawing } from './slices.ts';

/** Puts the surfaces of a pass into their light, each pixel once. */
export class LitSurfaces {
  private readonly plain;
  private readonly finished;

  /** @param shared light and camera of the stage */
  constructor(
    private readonly card: Card,
    shared: Uniforms,
  ) {
    const own = {
      uColour: { value: null },
      uSurface: { value: null },
      uRight: { value: new Vector3() },
      uRise: { value: new Vector3() },
      uLens: { value: new Vector4() },
    };
    const uniforms = { ...shared, ...own };
    this.plain = material(screenVertex, litFragment, uniforms, { SAMPLED: '' });
    this.finished = material(screenVertex, litFragment, uniforms, { SAMPLED: '', FINISHED: '' });
    for (const made of [this.plain, this.finished]) withoutDepth(made);
  }

  /** What it lights with. Finishes cost a processor that draws dearly, also where nothing wears one. */
  materialFor(finished: boolean): RawShaderMaterial {
    return finished ? this.finished : this.plain;
  }

  /** Writes `picture.lit` of `picture.surfaces`, which that camera saw. */
  *light(picture: PassPicture, camera: Camera, finished: boolean): Drawing {
    const made = this.materialFor(finished);
    const { uColour, uSurface, uRight, uRise, uLens } = made.uniforms;
    [uColour.value, uSurface.value] = picture.surfaces.textures;
    uRight.value.setFromMatrixColumn(camera.matrixWorld, 0);
    uRise.value.setFromMatrixColumn(camera.matrixWorld, 1);
    uLens.value.set(...lensOf(camera.projectionMatrix.elements));
    yield* this.card.fill(made, picture.lit, finished ? 'finished rows' : 'lit rows');
  }
}

/**
 * How a place -1..1 on the picture becomes a place beside the axis of the camera: what is added to it across and
 * upwards, and what it is multiplied by then; in perspective that times the distance.
 *
 * @param p a projection matrix by columns, of either kind, off its axis too
 */
export function lensOf(p: readonly number[]): [number, number, number, number] {
  const perspective = p[15] === 0;
  return [perspective ? p[8] : -p[12], perspective ? p[9] : -p[13], 1 / p[0], 1 / p[5]];
}

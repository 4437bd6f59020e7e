import type { RawShaderMaterial } from 'three';
import { withoutDepth } from './blending.ts';
import type { Card } from './card.ts';
import { material, setDefine, type Uniforms } from './marks/material.ts';
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

  /** Whether clouds take some of the light. */
  set clouded(clouded: boolean) {
    for (const made of [this.plain, this.finished]) setDefine(made, 'CLOUDED', clouded);
  }

  /** Writes `picture.lit` of `picture.surfaces`, seen as the shaders were told last. */
  *light(picture: PassPicture, finished: boolean): Drawing {
    const made = this.materialFor(finished);
    const { uColour, uSurface } = made.uniforms;
    [uColour.value, uSurface.value] = picture.surfaces.textures;
    yield* this.card.fill(made, picture.lit, finished ? 'finished rows' : 'lit rows');
  }
}

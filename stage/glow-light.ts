import { HalfFloatType, LinearFilter, type Texture, Vector2, type Vector4, WebGLRenderTarget } from 'three';
import type { Glow } from '#core/scene/things/glow.ts';
import { withoutDepth } from './blending.ts';
import type { Card } from './card.ts';
import { material } from './marks/material.ts';
import { type PassSum, Sized } from './render-targets.ts';
import { excessFragment, spreadFragment } from './shaders/glow.ts';
import { screenVertex } from './shaders/screen.ts';
import type { Drawing } from './slices.ts';

/** Rows of what is spread: a glow has nothing finer in it. */
export const GLOW_ROWS = 216;

/** What glows, spread over the whole of a picture, and which part of that a tile is. */
export interface SpreadGlow {
  texture: Texture;
  strength: number;
  sparesValues: boolean;
  /** Where the tile begins in the whole picture, from the lower left, and its share. */
  tile: Vector4;
}

const small = (width: number, height: number): WebGLRenderTarget =>
  new WebGLRenderTarget(width, height, {
    type: HalfFloatType,
    depthBuffer: false,
    minFilter: LinearFilter,
    magFilter: LinearFilter,
  });

/** Spreads light above white as a lens scatters it. */
export class GlowLight {
  private readonly excess = material(screenVertex, excessFragment, {
    uScene: { value: null },
    uScale: { value: new Vector2() },
  });
  private readonly spreading = material(screenVertex, spreadFragment, {
    uNew: { value: null },
    uAlong: { value: [1, 0] },
    uDeviation: { value: 1 },
  });
  private readonly one = new Sized(small);
  private readonly other = new Sized(small);
  private spreadOut: WebGLRenderTarget | null = null;
  readonly materials = [this.excess, this.spreading];

  constructor(private readonly card: Card) {
    for (const made of this.materials) withoutDepth(made);
  }

  /** Spreads what a whole picture holds so far. */
  *spread(sum: PassSum, { reach }: Pick<Glow, 'reach'>): Drawing {
    const height = Math.min(GLOW_ROWS, sum.height);
    const width = Math.max(1, Math.round((height * sum.width) / sum.height));
    const [one, other] = [this.one.of(width, height), this.other.of(width, height)];
    this.excess.uniforms.uScene.value = sum.mean.textures[2];
    this.excess.uniforms.uScale.value.set(sum.width / width, sum.height / height);
    yield* this.card.fill(this.excess, one, 'glow rows');
    const { uNew, uAlong, uDeviation } = this.spreading.uniforms;
    uDeviation.value = Math.max(0.3, (reach / 100) * height);
    for (const [from, to, along] of [
      [one, other, [1, 0]],
      [other, one, [0, 1]],
    ] as const) {
      uNew.value = from.texture;
      uAlong.value = along;
      yield* this.card.fill(this.spreading, to, 'glow rows');
    }
    this.spreadOut = one;
  }

  /** What was spread last, for a tile; there must be some. */
  on(tile: Vector4, { strength, sparesValues }: Glow): SpreadGlow {
    return { texture: this.spreadOut!.texture, strength, sparesValues, tile };
  }

  dispose(): void {
    this.one.dispose();
    this.other.dispose();
  }
}

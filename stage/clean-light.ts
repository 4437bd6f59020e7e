import { Vector2, Vector4 } from 'three';
import { withoutDepth } from './blending.ts';
import type { Card } from './card.ts';
import type { SpreadGlow } from './glow-light.ts';
import { material } from './marks/material.ts';
import type { PassSum } from './render-targets.ts';
import {
  gatherFragment,
  relightFragment,
  shapeFragment,
  shareFragment,
  smoothFragment,
} from './shaders/clean.ts';
import { screenVertex } from './shaders/screen.ts';
import type { Drawing } from './slices.ts';

/** Reach of the smoothing steps, in pixels. */
const STEPS = [1, 2, 4, 8];
/** How far from a pixel smoothing looks. */
export const CLEAN_REACH = STEPS.reduce((sum, step) => sum + step, 1);

/** Smooths the light of a mean of few passes along surfaces; the more passes, the less. */
export class CleanLight {
  private readonly shape = material(screenVertex, shapeFragment, {
    uDepth: { value: null },
    uUnit: { value: new Vector2() },
  });
  private readonly gather = material(screenVertex, gatherFragment, {
    uLight: { value: null },
    uShape: { value: null },
    uUnit: { value: new Vector2() },
  });
  private readonly smooth = material(screenVertex, smoothFragment, {
    uNew: { value: null },
    uStep: { value: 1 },
    uTolerance: { value: 1 },
    uUnit: { value: new Vector2() },
  });
  private readonly relight = material(screenVertex, relightFragment, {
    uNew: { value: null },
    uLight: { value: null },
    uScene: { value: null },
    uSmooth: { value: null },
    uUnit: { value: new Vector2() },
    uGlow: { value: null },
    uGlowStrength: { value: 0 },
    uGlowTile: { value: new Vector4() },
    uGlowSpares: { value: true },
  });
  private readonly share = material(screenVertex, shareFragment, {
    uLight: { value: null },
    uSmooth: { value: null },
    uUnit: { value: new Vector2() },
  });
  readonly materials = [this.shape, this.gather, this.smooth, this.relight];

  constructor(private readonly card: Card) {
    for (const m of [...this.materials, this.share]) withoutDepth(m);
  }

  /** Writes `sum.shape`, of the pass that was drawn last. */
  *keepShape(sum: PassSum): Drawing {
    this.shape.uniforms.uUnit.value.set(...sum.depthUnit);
    this.shape.uniforms.uDepth.value = sum.surfaces.depthTexture;
    yield* this.card.fill(this.shape, sum.shape, 'clean rows');
  }

  /** Writes `sum.clean`, with what glows around it. */
  *clean(sum: PassSum, glow: SpreadGlow | null): Drawing {
    const [colour, light, scene] = sum.mean.textures;
    let [from, to] = sum.light;
    for (const m of this.materials) m.uniforms.uUnit.value.set(...sum.depthUnit);
    this.gather.uniforms.uLight.value = light;
    this.gather.uniforms.uShape.value = sum.shape.texture;
    yield* this.card.fill(this.gather, from, 'clean rows');
    for (const [i, step] of STEPS.entries()) {
      this.smooth.uniforms.uNew.value = from.texture;
      this.smooth.uniforms.uStep.value = step;
      this.smooth.uniforms.uTolerance.value = tolerance(sum.count) / 2 ** i;
      yield* this.card.fill(this.smooth, to, 'clean rows');
      [from, to] = [to, from];
    }
    this.relight.uniforms.uNew.value = colour;
    this.relight.uniforms.uLight.value = light;
    this.relight.uniforms.uScene.value = scene;
    this.relight.uniforms.uSmooth.value = from.texture;
    const { uGlow, uGlowStrength, uGlowTile, uGlowSpares } = this.relight.uniforms;
    uGlowStrength.value = glow?.strength ?? 0;
    uGlow.value = glow?.texture ?? null;
    if (glow) uGlowTile.value.copy(glow.tile);
    uGlowSpares.value = glow?.sparesValues ?? true;
    yield* this.card.fill(this.relight, sum.clean, 'clean rows');
  }

  /** Writes `sum.shadow`, of what `clean` found last. */
  *shadow(sum: PassSum): Drawing {
    this.share.uniforms.uLight.value = sum.mean.textures[1];
    this.share.uniforms.uSmooth.value = sum.light[0].texture;
    yield* this.card.fill(this.share, sum.shadow, 'clean rows');
  }
}

/** Differences of the share of light between neighbours that may be grain, after so many passes. */
const tolerance = (passes: number): number => 2.5 / passes ** 0.75;

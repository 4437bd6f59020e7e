import { withoutDepth } from './blending.ts';
import type { Card } from './card.ts';
import { material } from './marks/material.ts';
import type { PassSum } from './render-targets.ts';
import { averageFragment, screenVertex } from './shaders/screen.ts';
import type { Drawing } from './slices.ts';

/** Puts passes together. */
export class RunningMean {
  readonly material = material(screenVertex, averageFragment, {
    uNew: { value: null },
    uOld: { value: null },
    uNewLight: { value: null },
    uOldLight: { value: null },
    uNewScene: { value: null },
    uOldScene: { value: null },
    uShare: { value: 1 },
  });

  constructor(private readonly card: Card) {
    withoutDepth(this.material);
  }

  /** The pass in `sum.lit` is one of those in `sum.mean` from now on. */
  *take(sum: PassSum): Drawing {
    const { uNew, uOld, uNewLight, uOldLight, uNewScene, uOldScene, uShare } = this.material.uniforms;
    [uNew.value, uNewLight.value, uNewScene.value] = sum.lit.textures;
    [uOld.value, uOldLight.value, uOldScene.value] = sum.mean.textures;
    uShare.value = 1 / (sum.count + 1);
    yield* this.card.fill(this.material, sum.spare, 'average rows');
    sum.turn();
  }
}

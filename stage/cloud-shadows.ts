import { ClampToEdgeWrapping, Data3DTexture, DataUtils, HalfFloatType, LinearFilter, RedFormat } from 'three';
import { onCurve } from '#core/colour/compiled-scale.ts';
import { darkAir, type ShadingCloud } from '#core/light/dark-air.ts';
import { marksOfKind } from '#core/model/mark.ts';
import type { ShownPart } from './shown-parts.ts';
import type { StageUniforms } from './stage-uniforms.ts';

/** Half floats go so far. */
const LARGEST = 65_000;

/** What clouds on the stage take of the light. */
export class CloudShadows {
  private texture: Data3DTexture | null = null;
  /** What it was last made of. */
  private made: readonly unknown[] = [];

  constructor(private readonly shared: StageUniforms) {}

  /** Takes over the clouds that throw shadows. */
  take(parts: readonly ShownPart[]): void {
    const clouds = parts
      .filter((s) => s.visible && !s.look.isAway)
      .flatMap((s) =>
        marksOfKind(s.frame.shape.marks, 'volume')
          .filter(({ grid }) => grid.casts)
          .map(({ grid }) => ({ grid, scale: s.scale, opacity: s.opacity })),
      );
    const made = clouds.flatMap(({ grid, scale, opacity }) => [grid, scale, opacity]);
    if (made.length === this.made.length && made.every((m, i) => m === this.made[i])) return;
    this.made = made;
    const all = clouds.map(
      ({ grid, scale, opacity }): ShadingCloud => ({
        grid,
        opacityOf: (value) => {
          if (!scale) return opacity * onCurve(grid.curve, (value - grid.low) / (grid.high - grid.low || 1));
          if (scale.hides(value)) return 0;
          return opacity * onCurve(grid.curve, scale.fraction(value)) * scale.opacityOf(value);
        },
      }),
    );
    const air = darkAir(all);
    this.dispose();
    if (!air) return;
    const data = Uint16Array.from(air.density, (d) => DataUtils.toHalfFloat(Math.min(d, LARGEST)));
    const texture = new Data3DTexture(data, ...air.size);
    texture.format = RedFormat;
    texture.type = HalfFloatType;
    texture.minFilter = texture.magFilter = LinearFilter;
    texture.wrapS = texture.wrapT = texture.wrapR = ClampToEdgeWrapping;
    texture.unpackAlignment = 1;
    texture.needsUpdate = true;
    const [x0, x1, y0, y1, z0, z1] = air.bounds;
    this.texture = texture;
    this.shared.uCloud.value = texture;
    this.shared.uCloudLow.value.set(x0, y0, z0);
    this.shared.uCloudHigh.value.set(x1, y1, z1);
  }

  /** Whether there is something that takes light away. */
  get any(): boolean {
    return this.texture !== null;
  }

  dispose(): void {
    this.texture?.dispose();
    this.texture = null;
    this.shared.uCloud.value = null;
  }
}

import { ClampToEdgeWrapping, Data3DTexture, DataUtils, HalfFloatType, LinearFilter, RedFormat } from 'three';
import { onCurve } from '#core/colour/compiled-scale.ts';
import { darkAir, type ShadingCloud } from '#core/light/dark-air.ts';
import { marksOfKind } from '#core/model/mark.ts';
import type { Vector } from '#core/model/vectors.ts';
import type { WipeSide } from '#core/scene/things/wipe.ts';
import type { ShownPart } from './shown-parts.ts';
import type { StageUniforms } from './stage-uniforms.ts';

/** Half floats go so far. */
const LARGEST = 65_000;

/** What the clouds on one side of a wipe take of the light. */
class CloudShadow {
  private texture: Data3DTexture | null = null;
  private low: Vector = [0, 0, 0];
  private high: Vector = [0, 0, 0];
  /** What it was last made of. */
  private made: readonly unknown[] = [];

  take(parts: readonly ShownPart[], side: WipeSide): void {
    const clouds = parts
      .filter((s) => s.visible && !s.look.isAway && (s.side === 'both' || s.side === side))
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
    this.low = [x0, y0, z0];
    this.high = [x1, y1, z1];
  }

  use({ uCloud, uCloudLow, uCloudHigh }: StageUniforms): void {
    uCloud.value = this.texture;
    uCloudLow.value.set(...this.low);
    uCloudHigh.value.set(...this.high);
  }

  /** Whether there is something that takes light away. */
  get any(): boolean {
    return this.texture !== null;
  }

  dispose(): void {
    this.texture?.dispose();
    this.texture = null;
  }
}

/** What clouds on the stage take of the light. */
export class CloudShadows {
  private readonly bySide = new Map<WipeSide, CloudShadow>();

  constructor(private readonly shared: StageUniforms) {}

  /**
   * Takes over the clouds that throw shadows.
   *
   * @param sides of the wipe that are drawn
   */
  take(parts: readonly ShownPart[], sides: readonly WipeSide[]): void {
    for (const [side, shadow] of this.bySide)
      if (!sides.includes(side)) {
        shadow.dispose();
        this.bySide.delete(side);
      }
    for (const side of sides) {
      const shadow = this.bySide.get(side) ?? new CloudShadow();
      this.bySide.set(side, shadow);
      shadow.take(parts, side);
    }
  }

  /** What is drawn next is on that side. */
  use(side: WipeSide): void {
    this.bySide.get(side)?.use(this.shared);
  }

  /** Whether there is something that takes light away. */
  get any(): boolean {
    return [...this.bySide.values()].some((s) => s.any);
  }

  dispose(): void {
    for (const shadow of this.bySide.values()) shadow.dispose();
    this.shared.uCloud.value = null;
  }
}

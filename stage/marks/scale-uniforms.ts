import { DataTexture, FloatType, NearestFilter, RGBAFormat, Vector2, Vector3, Vector4 } from 'three';
import { hexToRgb } from '#core/colour/cielab.ts';
import { type CompiledScale, MISSING, TABLE_SIZE } from '#core/colour/compiled-scale.ts';
import { spaced } from '#core/colour/spacing.ts';
import { linearOf, toLinear } from '#core/model/srgb.ts';
import type { LevelLines } from '#core/scene/things/scale.ts';
import type { Uniforms } from './material.ts';

const KINDS = ['linear', 'log', 'symlog'];
/** Beyond every value, and still a number of the card. */
const NO_LIMIT = 3e38;

/** A colour scale as `scaleShader` reads it. Changing a map or a range touches nothing else. */
export class ScaleUniforms {
  readonly own = {
    uTable: { value: null as DataTexture | null },
    uLow: { value: 0 },
    uHigh: { value: 1 },
    uSpacing: { value: 0 },
    uLinear: { value: 1 },
    uBands: { value: 0 },
    uBelow: { value: new Vector4() },
    uAbove: { value: new Vector4() },
    uEnds: { value: new Vector2() },
    uShown: { value: new Vector2(-NO_LIMIT, NO_LIMIT) },
    uMissing: { value: new Vector4().fromArray([...MISSING.map(toLinear), 1]) },
    uLevels: { value: 0 },
    uLevelColour: { value: new Vector3() },
    uLevelWidth: { value: 1 },
  } satisfies Uniforms;
  private scale: CompiledScale | null = null;

  /** @param lines drawn where its levels lie, or null */
  update(scale: CompiledScale, lines: LevelLines | null): void {
    const u = this.own;
    const { colours, spacing } = scale;
    u.uLevels.value = lines?.shown ? scale.levels.length : 0;
    if (lines) {
      u.uLevelColour.value.set(...linearOf(lines.colour));
      u.uLevelWidth.value = lines.width;
    }
    if (this.scale === scale) return;
    this.scale = scale;
    u.uLow.value = scale.categories ? scale.low : spaced(scale.low, spacing);
    u.uHigh.value = scale.categories ? scale.high : spaced(scale.high, spacing);
    u.uSpacing.value = scale.categories ? 0 : KINDS.indexOf(spacing.kind);
    u.uLinear.value = spacing.kind === 'symlog' ? spacing.linear : 1;
    u.uBands.value = scale.bandCount;
    for (const [uniform, said] of [
      [u.uBelow, colours.below],
      [u.uAbove, colours.above],
    ] as const)
      uniform.value.fromArray([...(said ? linearOf(said) : [0, 0, 0]), said ? 1 : 0]);
    u.uEnds.value.set(scale.low, scale.high);
    u.uShown.value.set(colours.shownFrom ?? -NO_LIMIT, colours.shownTo ?? NO_LIMIT);
    const missing = colours.missing ?? '';
    if (missing === 'hidden') u.uMissing.value.setW(0);
    else u.uMissing.value.fromArray([...(missing ? hexToRgb(missing) : MISSING).map(toLinear), 1]);
    u.uTable.value?.dispose();
    u.uTable.value = tableTexture(scale.table);
  }

  dispose(): void {
    this.own.uTable.value?.dispose();
  }
}

/** The colours and edges of a scale as a small texture of full precision. */
function tableTexture(table: Float32Array): DataTexture {
  const texture = new DataTexture(table, TABLE_SIZE, table.length / (4 * TABLE_SIZE), RGBAFormat, FloatType);
  texture.minFilter = NearestFilter;
  texture.magFilter = NearestFilter;
  texture.needsUpdate = true;
  return texture;
}

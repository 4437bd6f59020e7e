import { DataTexture, FloatType, NearestFilter, RGBAFormat } from 'three';
import { type FinishValues, seenThrough, textureKinds } from '#core/light/finish.ts';
import { straightReflection } from '#core/light/microfacets.ts';
import { linearOf } from '#core/model/srgb.ts';

/** Numbers of a finish on the card, in fours. */
export const FINISH_TEXELS = 5;
/** As many finishes at once; more than a scene has parts with one of their own. */
const MOST = 256;

/** The finishes that are worn, for the card: a row each. The first row is that of plain colour and is never read. */
export class FinishTable {
  readonly texture = new DataTexture(
    new Float32Array(4 * FINISH_TEXELS * MOST),
    FINISH_TEXELS,
    MOST,
    RGBAFormat,
    FloatType,
  );
  private readonly rows = new Map<string, number>();

  constructor() {
    this.texture.minFilter = NearestFilter;
    this.texture.magFilter = NearestFilter;
    this.texture.needsUpdate = true;
  }

  /** Before all that are worn are asked for: those that were slid through on the way are worn by nobody any more. */
  startAnew(): void {
    if (this.rows.size > MOST / 2) this.rows.clear();
  }

  /** The row of a finish; 0 for none. */
  rowOf(finish: FinishValues | null): number {
    if (!finish) return 0;
    const numbers = numbersOf(finish);
    const key = numbers.join();
    const known = this.rows.get(key);
    if (known !== undefined) return known;
    const row = Math.min(MOST - 1, this.rows.size + 1);
    this.rows.set(key, row);
    (this.texture.image.data as Float32Array).set(numbers, 4 * FINISH_TEXELS * row);
    this.texture.needsUpdate = true;
    return row;
  }

  dispose(): void {
    this.texture.dispose();
  }
}

/** As `finishAt` of the shaders reads them. */
function numbersOf(f: FinishValues): number[] {
  const sheen = linearOf(f.sheenColour).map((v) => v * f.sheen);
  return [
    ...[f.roughness, f.metal, f.coat, f.coatRoughness],
    ...[...sheen, straightReflection(f.index)],
    ...[f.glow, seenThrough(f), textureKinds.indexOf(f.texture), f.grain],
    ...[f.relief, f.contrast, f.uneven, 0],
    ...[...linearOf(f.colour2), 0],
  ];
}

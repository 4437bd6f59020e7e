import { quoteIfNeeded } from '#core/language/sentence.ts';
import type { Vector } from '#core/model/vectors.ts';
import type { Scene } from '#core/scene/document.ts';
import { withSceneQuantities } from '#core/scene/named-quantities.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import { isReading } from '#core/scene/reading.ts';
import type { SceneSource } from '#engine/scene-source.ts';

/** How far something is from what it is compared with, at its most, in a part. */
export interface PartDifference {
  part: string;
  /** Signed, the first less the second; the unit is that of all. */
  value: number;
  unit: string | null;
  /** In the coordinates of the files; null where it is not known. */
  place: Vector | null;
}

/** A difference that is so small a share of the largest is none. */
const ROUNDING = 1e-6;

/**
 * Where two differ most: of each part on show the largest difference up and down, the largest of all first.
 *
 * @param name of the quantity that tells the difference
 */
export async function largestDifferences(
  source: SceneSource,
  scene: Scene,
  name: string,
): Promise<PartDifference[]> {
  const run = withSceneQuantities(await source.withRanges(scene), scene);
  const parts = run.parts.filter((p) => !scene.parts[p.name]?.hidden).map((p) => p.name);
  const found: PartDifference[] = [];
  for (const part of parts)
    for (const which of ['maximum', 'minimum']) {
      const ask = readAsk(`${which} of ${quoteIfNeeded(name)} over ${quoteIfNeeded(part)}`, scene, run);
      if ('at' in ask) continue;
      const reading = await source.gauges.at(ask, scene, scene.step).catch(() => null);
      if (!reading || !isReading(reading) || typeof reading.value !== 'number') continue;
      if (!Number.isFinite(reading.value) || found.some((f) => f.part === part && f.value === reading.value))
        continue;
      const place = (reading.place as Vector | undefined) ?? null;
      found.push({ part, value: reading.value, unit: reading.unit, place });
    }
  found.sort((a, b) => Math.abs(b.value) - Math.abs(a.value));
  // What is left of the rounding of numbers is no difference.
  return found.filter(({ value }) => Math.abs(value) > ROUNDING * Math.abs(found[0].value));
}

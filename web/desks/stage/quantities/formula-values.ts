import { fieldByKey } from '#core/model/run.ts';
import type { Scene, SceneQuantity } from '#core/scene/document.ts';
import { expandedQuantities, type OwnNames, withSceneQuantities } from '#core/scene/named-quantities.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import type { SceneSource } from '#engine/scene-source.ts';
import type { FormulaValues } from '../finding-context.ts';

const WHOLE = 'what is typed';
const SIZE = 'size of what is typed';
const GAP = 'gaps of what is typed';

/** One number for what a formula gives: the length of a vector, the root of the squares of a tensor. */
const sizeOf = (components: number): string =>
  components === 1 ? WHOLE : components === 3 ? `length(${WHOLE})` : `sqrt(dot(${WHOLE}, ${WHOLE}))`;

/**
 * What a formula comes to over the whole run at the step on show: its range, and how many places have no value.
 *
 * @returns null where the run cannot have it
 */
export async function valuesOfFormula(
  source: SceneSource,
  scene: Scene,
  formula: string,
  { quantities, sets }: OwnNames<SceneQuantity>,
): Promise<FormulaValues | null> {
  const typed = { id: WHOLE, name: WHOLE, formula };
  const first = { ...scene, sets: [...sets], quantities: [...quantities, typed] };
  const { key } = expandedQuantities(first).at(-1)!;
  const field = fieldByKey(withSceneQuantities(source.run, first), key);
  if (!field) return null;
  const size = sizeOf(field.components);
  const asked = {
    ...first,
    quantities: [
      ...first.quantities,
      { id: SIZE, name: SIZE, formula: size },
      // What is beyond all bounds, less itself, is not zero.
      { id: GAP, name: GAP, formula: `if((${size}) - (${size}) = 0, 0, 1)` },
    ],
  };
  const run = withSceneQuantities(source.run, asked);
  const [low, high, missing] = await Promise.all(
    [`minimum of "${SIZE}"`, `maximum of "${SIZE}"`, `sum of "${GAP}"`].map(async (sentence) => {
      const ask = readAsk(`${sentence} over everything`, asked, run);
      if ('at' in ask) return null;
      const { value } = await source.gauges.at(ask, asked, scene.step).catch(() => ({ value: null }));
      return typeof value === 'number' ? value : null;
    }),
  );
  return {
    low,
    high,
    unit: field.unit,
    missing: missing ?? 0,
    vector: field.components > 1,
    unsure: field.unsure ?? null,
  };
}

import { quantityField } from '#core/fields/quantity-sources.ts';
import type { SceneSource } from '#engine/scene-source.ts';
import { sceneNow, useDesk } from './desk-store.ts';
import type { Finding } from './finding-context.ts';
import { valuesOfFormula } from './quantities/formula-values.ts';

/**
 * Finds things on the scene of the desk.
 *
 * @param source of its run
 * @param signal of what is under way
 */
export const sceneFinding = (source: SceneSource, signal: () => AbortSignal): Finding => ({
  nearest: ({ layer, part, place }) => {
    const scene = sceneNow();
    return source.nearest(scene, scene.step, { layer, part, place });
  },
  extreme: (kind, of, step) => source.find(sceneNow(), step, { kind, among: 'all', values: [of] }),
  range: async (key) => {
    const field = quantityField(key, source.run);
    const component = field && field.components > 1 ? 'magnitude' : 0;
    return source.ranges.rangeOf(key, component, 'all', signal()).catch(() => null);
  },
  numbers: async (keys) => {
    await source.ranges.knowIngredients(keys, signal());
    const { numbers, others } = source.run;
    useDesk.setState(({ run }) => ({ run: { ...run, numbers, others } }));
  },
  formula: (formula, own) => valuesOfFormula(source, sceneNow(), formula, own),
});

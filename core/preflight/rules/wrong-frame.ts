import { understood } from '../../ops/chain/understood.ts';
import { layerLabel } from '../../scene/layer-chain.ts';
import { rule } from '../rule.ts';

/** Velocities that are seen from something that turns: steady streams look like whirls, what stands still looks moving. */
export const wrongFrame = rule({
  id: 'wrong frame',
  name: 'a velocity in the wrong frame',
  severity: 'serious',
  of: 'scene',
  find({ scene, run }) {
    const relative = new Map(
      run.fields.filter((f) => f.role === 'relative velocity').map((f) => [f.key, f.name]),
    );
    if (relative.size === 0) return [];
    const absolute = run.fields.find((f) => f.role === 'velocity');
    return scene.layers.flatMap((layer) => {
      if (!layer.visible || layer.opacity === 0) return [];
      const needs = layer.chain.flatMap((step) => {
        const known = step.off ? null : understood(step);
        return known
          ? (known.operation.needs?.(known.options) ?? []).map((n) => ({ step: step.id, key: n.field }))
          : [];
      });
      const used = needs.find((n) => relative.has(n.key));
      const isColoured = layer.colour.kind === 'field' && relative.has(layer.colour.field);
      if (!used && !isColoured) return [];
      const name = relative.get(used?.key ?? (layer.colour.kind === 'field' ? layer.colour.field : ''))!;
      const of = layerLabel(layer, scene);
      return {
        place: { kind: 'line' as const, id: layer.id, name: of },
        says: `${of} shows ${name}, which is seen from a frame that turns.`,
        remedy: absolute
          ? `Show ${absolute.name} instead, or write on the picture from where it is seen.`
          : 'State on the page of the run how the frame turns, so that the velocity from outside is known.',
        ...(absolute &&
          used && {
            mend: {
              says: `Show ${absolute.name}`,
              edits: [
                {
                  type: 'chain.change' as const,
                  id: layer.id,
                  step: used.step,
                  options: { field: absolute.key },
                },
              ],
            },
          }),
      };
    });
  },
});

import { layerLabel } from '../../scene/layer-chain.ts';
import { rule } from '../rule.ts';

/** A line that should show something and shows nothing. */
export const emptyLine = rule({
  id: 'empty line',
  name: 'empty lines',
  severity: 'moderate',
  of: 'scene',
  find: ({ scene, picture }) =>
    scene.layers.flatMap((layer) => {
      if (!picture?.empty.includes(layer.id)) return [];
      const name = layerLabel(layer, scene);
      return {
        place: { kind: 'line' as const, id: layer.id, name },
        says: `Nothing is to be seen of “${name}”.`,
        remedy: 'Open the line and look at what it says, or hide it.',
        mend: {
          says: 'Hide the line',
          edits: [{ type: 'layer.change' as const, id: layer.id, change: { visible: false } }],
        },
      };
    }),
});

import { ofScale, rule } from '../rule.ts';

/** Colours that stand for values, and nothing that says for which. */
export const noLegend = rule({
  id: 'no legend',
  name: 'colours without a legend',
  severity: 'serious',
  of: 'scene',
  find: ({ scene, scales }) =>
    scales.flatMap(({ scale }) =>
      scene.legends.shown && scale.legend.visible
        ? []
        : {
            place: ofScale(scale),
            says: `${scale.name}: nothing says which colour is which value.`,
            remedy: 'Show its legend.',
            mend: {
              says: 'Show the legend',
              edits: [
                { type: 'setting.change' as const, thing: 'legends' as const, change: { shown: true } },
                { type: 'legend.change' as const, id: scale.id, change: { visible: true } },
              ],
            },
          },
    ),
});

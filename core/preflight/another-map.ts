import { confusedBy } from '../colour/confused-colours.ts';
import { mapFigures } from '../colour/map-figures.ts';
import { coloursOfMap, nameOfMap } from '../colour/maps/own-map.ts';
import { colourMaps } from '../colour/maps/registry.ts';
import { parseQuantity } from '../model/quantity.ts';
import { fieldByKey, type RunDescription } from '../model/run.ts';
import type { Scale } from '../scene/document.ts';
import { mapForQuantity } from '../scene/map-for-quantity.ts';
import type { Mend } from './rule.ts';

/** A map that is as good for everybody, other than some: that of the quantity if it is, else the first there is. */
export function anotherMap(
  scale: Pick<Scale, 'id' | 'map' | 'quantity'>,
  run: RunDescription,
  not: readonly unknown[] = [],
): { mend?: Mend } {
  const { field: key, component } = parseQuantity(scale.quantity);
  const field = fieldByKey(run, key);
  const usual = field ? [mapForQuantity(field, component)] : [];
  const even = colourMaps.filter((m) => m.even && ['sequential', 'diverging'].includes(m.group));
  const isBoth = even.find((m) => m.id === usual[0])?.group === 'diverging';
  const found = [...usual, ...even.filter((m) => isBoth === (m.group === 'diverging')).map((m) => m.id)].find(
    (id) => {
      const map = even.find((m) => m.id === id);
      if (!map || id === scale.map || not.includes(id)) return false;
      return mapFigures(map.colours, map.group).ordered && confusedBy(coloursOfMap(id)).length === 0;
    },
  );
  if (!found) return {};
  return {
    mend: {
      says: `Colour it on ${nameOfMap(found)}`,
      edits: [{ type: 'scale.change', id: scale.id, change: { map: found } }],
    },
  };
}

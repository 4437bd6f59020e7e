import { inFormulaOfKey } from '../fields/formula/expanded-formula.ts';
import { ownName } from '../fields/quantity-sources.ts';
import { QUOTED } from '../model/quoted-text.ts';
import type { Scene } from './document.ts';
import { withRulesOfNow } from './named-quantities.ts';
import { keyReplacer, nameReplacer, said } from './said-in-scene.ts';

/** Other names for what a scene asks for: fields by their keys, parts by their names. */
export interface Renames {
  fields: Record<string, string>;
  parts: Record<string, string>;
}

/** The same the other way round. */
export const inverseOf = ({ fields, parts }: Renames): Renames => ({
  fields: turned(fields),
  parts: turned(parts),
});

const turned = (names: Record<string, string>): Record<string, string> =>
  Object.fromEntries(Object.entries(names).map(([a, b]) => [b, a]));

/**
 * A scene that asks for other fields and parts: in every line, scale, part set and setting, in conditions and formulas by the
 * names of the fields, and of the parts where they stand between quotation marks.
 */
export function renameInScene(scene: Scene, { fields, parts }: Renames): Scene {
  const keys = keyReplacer(fields);
  const names = nameReplacer(
    Object.fromEntries(Object.entries(fields).map(([a, b]) => [ownName(a), ownName(b)])),
  );
  const partNames = nameReplacer(parts);
  const condition = (text: string): string => names(text).replace(new RegExp(QUOTED, 'g'), partNames);
  return withRulesOfNow(
    said(scene, {
      key: (text) => inFormulaOfKey(text, condition) ?? keys(text),
      condition,
      part: (name) => (Object.hasOwn(parts, name) ? parts[name] : name),
    }),
  );
}

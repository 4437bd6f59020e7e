import {
  expandedFormula,
  formulaKey,
  formulaOfKey,
  type NamedFormula,
  runsIn,
  sentencesIn,
} from '../fields/formula/expanded-formula.ts';
import { quantityField, troubleOfQuantity } from '../fields/quantity-sources.ts';
import type { RunDescription, RunField } from '../model/run.ts';
import type { Scene, SceneQuantity } from './document.ts';
import { withKeysRenamed } from './rename-in-scene.ts';

type Named = Pick<SceneQuantity, 'name' | 'formula'>;

/** Quantities of a scene with those they are made of put in; each may use those before it. */
export function expandedQuantities<Q extends Named>(quantities: readonly Q[]): (Q & { key: string })[] {
  const known: NamedFormula[] = [];
  return quantities.map((q) => {
    const formula = expandedFormula(q.formula, known);
    known.push({ name: q.name, formula });
    return { ...q, key: formulaKey(formula) };
  });
}

/** The keys of the quantities that were made in a scene. */
export const keysOfScene = ({ quantities }: Pick<Scene, 'quantities'>): string[] =>
  expandedQuantities(quantities).map((q) => q.key);

const runs = new WeakMap<RunDescription, WeakMap<readonly Named[], RunDescription>>();

/** A run together with the quantities that were made in a scene, as far as it can have them, under their names. */
export function withSceneQuantities(
  run: RunDescription,
  { quantities }: Pick<Scene, 'quantities'>,
): RunDescription {
  if (quantities.length === 0) return run;
  let known = runs.get(run);
  if (!known) runs.set(run, (known = new WeakMap()));
  const found = known.get(quantities);
  if (found) return found;
  const named = new Map<string, RunField>();
  for (const { key, name } of expandedQuantities(quantities)) {
    const field = run.fields.find((f) => f.key === key) ?? quantityField(key, run);
    if (field) named.set(key, { ...field, name });
  }
  const others = run.fields.filter((f) => !named.has(f.key));
  const whole = { ...run, fields: [...named.values(), ...others] };
  known.set(quantities, whole);
  // What is there already is not put in again.
  runs.set(whole, new WeakMap([[quantities, whole]]));
  return whole;
}

/** The key of what a formula makes, where it may use the quantities before it. */
export function formulaKeyIn(formula: string, before: readonly Named[]): string {
  const known = expandedQuantities(before).map(({ name, key }) => ({ name, formula: formulaOfKey(key)! }));
  return formulaKey(expandedFormula(formula, known));
}

/** The sentences of a formula whose answers the run does not know yet. */
export const sentencesToMeasure = (
  formula: string,
  before: readonly Named[],
  { numbers = {} }: RunDescription,
): string[] => sentencesIn(formulaKeyIn(formula, before)).filter((s) => !Object.hasOwn(numbers, s));

/** The names of other runs a formula looks at that are not opened yet. */
export const runsToOpen = (
  formula: string,
  before: readonly Named[],
  { others = {} }: RunDescription,
): string[] => runsIn(formulaKeyIn(formula, before)).filter((name) => !Object.hasOwn(others, name));

/** What is wrong with a formula among the quantities of a scene, in a sentence; null when the run has all of it. */
export const troubleOfFormula = (
  formula: string,
  before: readonly Named[],
  run: RunDescription,
): string | null => troubleOfQuantity(formulaKeyIn(formula, before), run);

/**
 * A scene with other quantities of its own. Whatever used one that is still there uses it as it is now; names in other formulas
 * and in conditions follow.
 */
export function withQuantitiesChanged(scene: Scene, quantities: Scene['quantities']): Scene {
  const before = new Map(expandedQuantities(scene.quantities).map((q) => [q.id, q]));
  const names: Record<string, string> = {};
  for (const { id, name } of quantities) {
    const old = before.get(id);
    if (old && old.name !== name) names[old.name] = name;
  }
  const renamed = withKeysRenamed({ ...scene, quantities }, {}, names);
  const keys: Record<string, string> = {};
  for (const { id, key } of expandedQuantities(renamed.quantities)) {
    const old = before.get(id);
    if (old && old.key !== key) keys[old.key] = key;
  }
  return withKeysRenamed(renamed, keys, {});
}

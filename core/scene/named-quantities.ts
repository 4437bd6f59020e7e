import {
  expandedFormula,
  expandedSet,
  formulaKey,
  formulaOfKey,
  inFormulaOfKey,
  type NamedFormula,
  runsIn,
  sentencesIn,
} from '../fields/formula/expanded-formula.ts';
import { quantityField, troubleOfQuantity } from '../fields/quantity-sources.ts';
import type { RunDescription, RunField } from '../model/run.ts';
import { sameJson } from '../model/same-json.ts';
import type { Scene, SceneQuantity, SceneSet } from './document.ts';
import { withKeysRenamed, withKeysSaid } from './said-in-scene.ts';

type Named = Pick<SceneQuantity, 'name' | 'formula'>;

/** What formulas of a scene may name beside what the run has: other quantities, and part sets in the sentences they measure by. */
export interface OwnNames<Q extends Named = Named> {
  quantities: readonly Q[];
  sets: readonly SceneSet[];
}

/** Quantities of a scene with those they are made of put in; each may use those before it. */
export function expandedQuantities<Q extends Named>({
  quantities,
  sets,
}: OwnNames<Q>): (Q & { key: string })[] {
  const known: NamedFormula[] = [];
  return quantities.map((q) => {
    const formula = expandedFormula(q.formula, known, sets);
    known.push({ name: q.name, formula });
    return { ...q, key: formulaKey(formula) };
  });
}

/** The keys of the quantities that were made in a scene. */
export const keysOfScene = (own: OwnNames): string[] => expandedQuantities(own).map((q) => q.key);

interface Made {
  sets: readonly SceneSet[];
  run: RunDescription;
}

const runs = new WeakMap<RunDescription, WeakMap<readonly Named[], Made>>();

/** A run together with the quantities that were made in a scene, as far as it can have them, under their names. */
export function withSceneQuantities(run: RunDescription, own: OwnNames): RunDescription {
  const { quantities, sets } = own;
  if (quantities.length === 0) return run;
  let known = runs.get(run);
  if (!known) runs.set(run, (known = new WeakMap()));
  const found = known.get(quantities);
  if (found && (found.sets === sets || sameJson(found.sets, sets))) return found.run;
  const named = new Map<string, RunField>();
  for (const { key, name } of expandedQuantities(own)) {
    const field = run.fields.find((f) => f.key === key) ?? quantityField(key, run);
    if (field) named.set(key, { ...field, name });
  }
  const others = run.fields.filter((f) => !named.has(f.key));
  const whole = { ...run, fields: [...named.values(), ...others] };
  known.set(quantities, { sets, run: whole });
  // What is there already is not put in again.
  runs.set(whole, new WeakMap([[quantities, { sets, run: whole }]]));
  return whole;
}

const formulasIn = (own: OwnNames): NamedFormula[] =>
  expandedQuantities(own).map(({ name, key }) => ({ name, formula: formulaOfKey(key)! }));

/** The key of what a formula makes, where it may use what a scene has of its own. */
export function formulaKeyIn(formula: string, own: OwnNames): string {
  return formulaKey(expandedFormula(formula, formulasIn(own), own.sets));
}

/** The sentences of a formula whose answers the run does not know yet. */
export const sentencesToMeasure = (
  formula: string,
  own: OwnNames,
  { numbers = {} }: RunDescription,
): string[] => sentencesIn(formulaKeyIn(formula, own)).filter((s) => !Object.hasOwn(numbers, s));

/** The names of other runs a formula looks at that are not opened yet. */
export const runsToOpen = (formula: string, own: OwnNames, { others = {} }: RunDescription): string[] =>
  runsIn(formulaKeyIn(formula, own)).filter((name) => !Object.hasOwn(others, name));

/** What is wrong with a formula among the quantities of a scene, in a sentence; null when the run has all of it. */
export const troubleOfFormula = (formula: string, own: OwnNames, run: RunDescription): string | null =>
  troubleOfQuantity(formulaKeyIn(formula, own), run);

/**
 * A scene with other quantities of its own. Whatever used one that is still there uses it as it is now; names in other formulas
 * and in conditions follow.
 */
export function withQuantitiesChanged(scene: Scene, quantities: Scene['quantities']): Scene {
  const before = new Map(scene.quantities.map((q) => [q.id, q.name]));
  const names: Record<string, string> = {};
  for (const { id, name } of quantities) {
    const old = before.get(id);
    if (old !== undefined && old !== name) names[old] = name;
  }
  return withKeysFollowing(withKeysRenamed({ ...scene, quantities }, {}, names), scene);
}

/** A scene with other part sets of its own. What measures on one that is still there measures on it as it is now. */
export const withSetsChanged = (scene: Scene, sets: Scene['sets']): Scene =>
  withKeysFollowing({ ...scene, sets }, scene);

/** A scene in which whatever used quantities and part sets of its own as they were before uses them as they are now. */
function withKeysFollowing(scene: Scene, before: Scene): Scene {
  const old = new Map(expandedQuantities(before).map((q) => [q.id, q.key]));
  const keys: Record<string, string> = {};
  for (const { id, key } of expandedQuantities(scene)) {
    const was = old.get(id);
    if (was !== undefined && was !== key) keys[was] = key;
  }
  return withRulesOfNow(withKeysRenamed(scene, keys, {}));
}

/** A scene in which what measures on its part sets does so by the rules they have now. */
export function withRulesOfNow(scene: Scene): Scene {
  if (scene.sets.length === 0) return scene;
  const rules = scene.sets.map((set) => expandedSet(set, formulasIn(scene)));
  return withKeysSaid(
    scene,
    (key) => inFormulaOfKey(key, (formula) => expandedFormula(formula, [], rules)) ?? key,
  );
}

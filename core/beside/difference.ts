import { mapsFor } from '../colour/maps/registry.ts';
import { inFormula } from '../fields/formula/formula-tree.ts';
import { type Component, parseQuantity, quantityName } from '../model/quantity.ts';
import { fieldByKey, type RunDescription, type RunField } from '../model/run.ts';
import { newScale } from '../scene/default-scene.ts';
import type { Layer, Scene } from '../scene/document.ts';
import { applyEdit } from '../scene/edits.ts';
import { expandedQuantities, withSceneQuantities } from '../scene/named-quantities.ts';
import { likeStep } from './like-step.ts';

/** What one pane shows less what another does. */
export interface Difference {
  scene: Scene;
  /** Name of the quantity in it. */
  name: string;
}

/** A scene on its run, as one of the two that are compared. */
interface Compared {
  scene: Scene;
  run: RunDescription;
  /** Of the run. */
  id: string;
}

const ID = 'difference';

/** What a scene colours first by values. */
export const quantityOnShow = ({ layers }: Scene): { field: string; component: Component } | null =>
  layers
    .filter((l) => l.visible && l.opacity > 0 && l.colour.kind === 'field')
    .map((l) => l.colour as ByField)[0] ?? null;

type ByField = Extract<Layer['colour'], { kind: 'field' }>;

/**
 * The first of two scenes, coloured by how much a quantity is larger there than in the second: number by number where both have
 * the same mesh, else what runs between the nodes of the second at the same place.
 *
 * @param quantity its key; null for what the first scene shows
 * @returns why there is none, in words, where there is none
 */
export function differenceOf(
  first: Compared,
  second: Compared,
  quantity: string | null,
): Difference | string {
  const { run } = first;
  const asked = quantity === null ? quantityOnShow(first.scene) : parseQuantity(quantity);
  if (!asked) return 'The first scene shows no values. Choose the quantity to compare.';
  const field = fieldByKey(withSceneQuantities(run, first.scene), asked.field);
  if (!field) return 'The first run does not have that quantity. Choose another one.';
  const formula = formulaOfDifference(first, second, field, asked.component);
  const name = `difference of ${quantityName(field, asked.component)}`;
  const scene = applyEdit(first.scene, { type: 'quantity.save', quantity: { id: ID, name, formula } });
  const own = expandedQuantities(scene).find((q) => q.id === ID)!;
  const made = fieldByKey(withSceneQuantities(knowingOther(run, second.run), scene), own.key);
  if (!made)
    return `The difference of ${quantityName(field, asked.component)} cannot be had between these two.`;
  const scale = {
    ...newScale({ ...made, name }, 0, ID, name),
    map: mapsFor('signed')[0].id,
    symmetric: 0,
    range: { kind: 'shown' as const },
  };
  const colour = { kind: 'field' as const, field: own.key, component: 0 as const, scale: ID };
  const isSame = (c: Layer['colour']): boolean =>
    c.kind === 'field' && c.field === asked.field && c.component === asked.component;
  const some = scene.layers.some((l) => isSame(l.colour));
  const layers = scene.layers.map((l) =>
    (some ? isSame(l.colour) : l.colour.kind === 'field') ? { ...l, colour } : l,
  );
  return { scene: { ...scene, layers, scales: [...scene.scales, scale] }, name };
}

/** A run whose formulas can speak of another one by its name. */
export const knowingOther = (run: RunDescription, other: RunDescription): RunDescription => ({
  ...run,
  others: { ...run.others, [other.name]: other },
});

function formulaOfDifference(
  first: Compared,
  second: Compared,
  field: RunField,
  component: Component,
): string {
  const own = numberIn(field, component);
  const { step } = second.scene;
  const at = `at_step(${step + 1}, ${own})`;
  if (first.id === second.id) return `(${own}) - (${at})`;
  const isLike = (likeStep(first.run, first.scene.step, second.run) ?? step) === step;
  const there = isLike ? own : at;
  return `(${own}) - in_run(${JSON.stringify(second.run.name)}, ${there})`;
}

/** A number of a field as formulas say it. */
function numberIn(field: RunField, component: Component): string {
  const name = inFormula(field.name);
  if (field.components === 1) return name;
  if (component === 'magnitude')
    return field.components === 3 ? `length(${name})` : `sqrt(dot(${name}, ${name}))`;
  const letters = field.components === 3 ? ['x', 'y', 'z'] : ['xx', 'yy', 'zz', 'xy', 'yz', 'xz'];
  return `${name}.${letters[component] ?? 'x'}`;
}

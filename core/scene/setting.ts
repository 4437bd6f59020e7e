import { sensibleField } from '../fields/default-quantity.ts';
import { formulaOfKey } from '../fields/formula/expanded-formula.ts';
import { readyFormulas } from '../fields/formula/ready-formulas.ts';
import { followsCycle, quantityField } from '../fields/quantity-sources.ts';
import type { FormulasOfRun } from '../language/read-quantity.ts';
import {
  componentsOf,
  type Quantity,
  quantityKey,
  quantityName,
  quantityStatistics,
} from '../model/quantity.ts';
import { isLonePoints, type RunDescription, type RunField, runBounds, sharesOf } from '../model/run.ts';
import type { Statistics } from '../model/statistics.ts';
import type { OperationSetting } from '../ops/chain/operation.ts';
import type { Layer, Scale, Scene } from './document.ts';
import {
  formulaKeyIn,
  type OwnNames,
  runsToOpen,
  sentencesToMeasure,
  troubleOfFormula,
  withSceneQuantities,
} from './named-quantities.ts';
import { settleScale } from './settle-scale.ts';
import { shareOfCycle } from './things/cycle.ts';

const known = new WeakMap<readonly RunField[], Quantity[]>();

/** The components of a field as quantities, each under its own name. */
const componentsAsQuantities = (field: RunField): Quantity[] =>
  componentsOf(field).map((component) => ({
    field: field.key,
    component,
    name: quantityName(field, component),
    unit: field.unit,
    components: field.components,
    location: field.location,
    role: field.role,
    ...extremes(quantityStatistics(field, component, null)),
  }));

/** Everything of a run that a layer can be coloured by or an operation can read, under names that are all different. */
export function quantitiesOf(run: RunDescription): Quantity[] {
  const found = known.get(run.fields);
  if (found) return found;
  const out: Quantity[] = [];
  for (const q of run.fields.flatMap(componentsAsQuantities)) {
    const { name: plain, location, field, component } = q;
    const taken = (name: string): boolean => out.some((o) => o.name.toLowerCase() === name.toLowerCase());
    const perCell = location === 'cell' ? `${plain} per cell` : `${plain} per point`;
    out.push({ ...q, name: !taken(plain) ? plain : !taken(perCell) ? perCell : `${field} ${component}` });
  }
  known.set(run.fields, out);
  return out;
}

function extremes(stats: Statistics | null): Pick<Quantity, 'low' | 'high' | 'mean'> {
  if (!stats || !Number.isFinite(stats.min)) return { low: 0, high: 1, mean: 0.5 };
  return { low: stats.min, high: stats.max, mean: stats.count > 0 ? stats.sum / stats.count : stats.min };
}

/** See `OperationSetting`. */
function pointsOf({ parts }: RunDescription): OperationSetting['points'] {
  const lone = parts.filter(isLonePoints);
  const counts = (lone.length > 0 ? lone : parts).flatMap((p) => p.meshes.map((m) => m.pointCount));
  return { count: Math.max(0, ...counts), packed: parts.some((p) => p.kind === 'atoms') };
}

/** The colour scale of a layer; of a plain one that of the line it follows, on which it lies. */
function scaleBehind(
  { colour, from }: Pick<Layer, 'colour'> & Partial<Pick<Layer, 'from'>>,
  scene: Scene,
  seen: readonly string[] = [],
): Scale | undefined {
  if (colour.kind === 'field') return scene.scales.find((s) => s.id === colour.scale);
  const source = scene.layers.find((l) => l.id === from && !seen.includes(l.id));
  return source && scaleBehind(source, scene, [...seen, source.id]);
}

/** What elements of a list are called by their number. */
const numbered = (what: string, list: readonly { id: string }[] = []): { text: string; value: string }[] =>
  list.map(({ id }, i) => ({ text: `${what} ${i + 1}`, value: id }));

/** What formulas in sentences come to; they may use the quantities of the scene. */
const formulasOf = (run: RunDescription, own: OwnNames): FormulasOfRun => ({
  read(text) {
    const trouble = troubleOfFormula(text, own, run);
    if (trouble) return trouble;
    const field = quantityField(formulaKeyIn(text, own), run);
    if (field) return componentsAsQuantities({ ...field, name: `(${text})` });
    const [unknown] = [...sentencesToMeasure(text, own, run), ...runsToOpen(text, own, run)];
    return `"${unknown}" is not known yet: make the formula a quantity of your own.`;
  },
  byKey(key) {
    const field = formulaOfKey(key) === null ? null : quantityField(key, run);
    return field ? componentsAsQuantities(field) : [];
  },
});

/** What operations and sentences may know of a run; of a layer and its scene, where there are any. */
export function settingOf(
  plain: RunDescription,
  scene?: Scene,
  layer?: Pick<Layer, 'colour'> & Partial<Pick<Layer, 'from'>>,
): OperationSetting {
  const run = scene ? withSceneQuantities(plain, scene) : plain;
  const quantities = quantitiesOf(run);
  const colour = layer?.colour;
  const chosen = colour?.kind === 'field' ? { field: colour.field, component: colour.component } : null;
  const sensible = sensibleField(run);
  const of = (field: string, component: number | 'magnitude') =>
    quantities.find((q) => q.field === field && q.component === component) ?? null;
  const displacements = run.fields.filter((f) => f.role === 'displacement' && f.components >= 2);
  // The shapes of modes swing.
  const displacement = displacements.find((f) => followsCycle(f.key)) ?? displacements[0];
  const scale = layer && scene && scaleBehind(layer, scene);
  return {
    bounds: runBounds(run),
    dimension: run.dimension,
    lengthUnit: run.lengthUnit,
    timeUnit: run.timeUnit,
    times: run.steps.map((step) => step.time),
    cycle: scene ? shareOfCycle(scene.cycle) : 0,
    quantities,
    computable: readyFormulas(run).filter(({ name }) => !quantities.some((q) => q.name === name)),
    formulas: formulasOf(run, scene ?? { quantities: [], sets: [] }),
    scales: scene?.scales.map((s, i) => ({ text: `scale ${i + 1}`, value: s.id })) ?? [],
    gauges: numbered('gauge', scene?.gauges),
    charts: numbered('chart', scene?.charts),
    curves: numbered(
      'curve',
      scene?.charts.flatMap((c) => c.curves),
    ),
    fields: run.fields,
    preferred:
      (chosen && of(chosen.field, chosen.component)) ??
      (sensible && of(sensible.field.key, sensible.component)),
    displacement: displacement ? of(displacement.key, 'magnitude') : null,
    levels: scale && scene ? settleScale(scale, run, scene.step).levels : [],
    sharesOf: (field, component) => sharesOf(run, quantityKey(field, component)),
    steps: run.steps.length,
    points: pointsOf(run),
    sets: run.sets.map((s) => s.name),
    parts: run.parts.map((p) => p.name),
    particles: run.parts.filter(isLonePoints).map((p) => p.name),
  };
}

import { needsOfRule } from '../fields/part-set.ts';
import { lackingQuantity, ownName } from '../fields/quantity-sources.ts';
import type { FieldNeed } from '../fields/sources/quantity-source.ts';
import { measureById } from '../measure/registry.ts';
import type { RunDescription } from '../model/run.ts';
import type { SetRule } from '../model/set-rule.ts';
import { understood, whyNotUnderstood } from '../ops/chain/understood.ts';
import { annotationKind } from './annotations/registry.ts';
import type { Gauge, Layer, Scene } from './document.ts';
import { ruleOfSet, wholeChain } from './layer-chain.ts';
import { sayParts } from './layer-sentence.ts';
import { expandedQuantities, withSceneQuantities } from './named-quantities.ts';
import { settingOf } from './setting.ts';
import { sceneThings } from './things/registry.ts';
import { scale } from './things/scale.ts';

/**
 * What a scene asks for that a run does not have, in words, each thing once with all that ask for it. The rest is shown
 * all the same. It follows from what everything in the scene says it needs: operations, part sets, colours, scales,
 * looks of parts.
 */
export const sceneMismatches = (scene: Scene, run: RunDescription): string[] =>
  askedBy(scene, new Mismatches(withSceneQuantities(run, scene))).list();

/** Keys of the fields and names of the parts that a scene asks a run for. */
export function needsOfScene(scene: Scene, run: RunDescription): { fields: Set<string>; parts: Set<string> } {
  const { fields, parts } = askedBy(scene, new Mismatches(withSceneQuantities(run, scene)));
  return { fields, parts };
}

function askedBy(scene: Scene, found: Mismatches): Mismatches {
  for (const { name, key } of expandedQuantities(scene))
    found.need({ field: key }, `the quantity “${name}” is made so`);
  for (const layer of scene.layers) needsOfLayer(layer, scene, found);
  for (const gauge of scene.gauges) needsOfGauge(gauge, scene, found);
  for (const { name, rule } of scene.sets) needsOfSet(rule, `the part set “${name}” is made of it`, found);
  for (const one of scene.scales)
    for (const field of scale.needs?.(one) ?? [])
      found.need({ field }, `the scale “${one.name}” is made for it`);
  for (const one of scene.annotations) {
    const kind = annotationKind(one.kind);
    for (const field of kind.needs?.(one) ?? []) found.need({ field }, `${kind.name} tells of it`);
    for (const part of kind.parts?.(one) ?? []) found.part(part, `${kind.name} hangs on it`);
  }
  for (const thing of sceneThings)
    for (const field of thing.needs?.(scene[thing.id]) ?? [])
      found.need({ field }, `${thing.name} is made for it`);
  for (const name of Object.keys(scene.parts)) found.part(name, 'its look is set');
  return found;
}

class Mismatches {
  private readonly asking = new Map<string, Set<string>>();
  readonly fields = new Set<string>();
  readonly parts = new Set<string>();

  constructor(readonly run: RunDescription) {}

  add(what: string, who: string | null = null): void {
    const askers = this.asking.get(what) ?? new Set();
    if (who !== null) askers.add(who);
    this.asking.set(what, askers);
  }

  part(name: string, who: string | null = null): void {
    this.parts.add(name);
    if (!this.run.parts.some((p) => p.name === name)) this.add(`the run has no part "${name}"`, who);
  }

  need({ field, step }: FieldNeed, who: string): void {
    const { run } = this;
    if (field !== '') this.fields.add(field);
    const lacking = lackingQuantity(field, run);
    if (field === '') this.add('no quantity is chosen', who);
    else if (lacking) this.add(`the run has no ${lacking}`, who);
    else if (typeof step === 'number' && step >= run.steps.length)
      this.add(`the run has no step ${step + 1} of ${ownName(field)}, only ${run.steps.length} steps`, who);
  }

  list(): string[] {
    return [...this.asking].map(([what, who]) => (who.size > 0 ? `${what}: ${[...who].join(', ')}` : what));
  }
}

const bare = (sentence: string): string => sentence.replace(/\.$/, '');

function needsOfGauge(gauge: Gauge, scene: Scene, found: Mismatches): void {
  const called = gauge.name ? `the gauge “${gauge.name}”` : 'a gauge';
  try {
    const measure = measureById(gauge.measure);
    for (const need of measure.needs(measure.schema.parse(gauge.options)))
      found.need(need, `${called} measures it`);
  } catch (error) {
    found.add(`${called}: ${bare((error as Error).message)}`);
  }
  needsOfLayer(gauge.on, scene, found, called);
}

function needsOfLayer(
  layer: Layer,
  scene: Scene,
  found: Mismatches,
  line = layer.name ? `“${layer.name}”` : `line ${scene.layers.indexOf(layer) + 1}`,
): void {
  const { run } = found;
  const { missing } = wholeChain(layer, scene);
  if (missing) found.add(`${line}: ${bare(missing)}`);
  for (const name of layer.parts ?? []) found.part(name);
  if (layer.set !== null && !ruleOfSet(layer.set, scene, run))
    found.add(`the run has no part set "${layer.set}"`);
  const { colour, time } = layer;
  if (colour.kind === 'field')
    found.need({ field: colour.field }, `${layer.name ?? sayParts(layer, run)} is coloured by it`);
  if (time.kind === 'fixed' && time.step >= run.steps.length)
    found.add(`the run has no step ${time.step + 1}, only ${run.steps.length} steps`, `${line} shows it`);
  const setting = settingOf(run, scene, layer);
  for (const step of layer.chain) {
    const known = understood(step);
    if (!known) {
      found.add(`${line}: ${bare(whyNotUnderstood(step) ?? '')}`);
      continue;
    }
    const { operation, options } = known;
    const what = `${operation.name.toLowerCase()} of ${line}`;
    try {
      const settled = operation.settle?.(options, setting) ?? options;
      for (const need of operation.needs?.(settled) ?? []) found.need(need, `the ${what} reads it`);
    } catch (error) {
      found.add(`the ${what}: ${bare((error as Error).message)}`);
    }
  }
}

function needsOfSet(rule: SetRule, who: string, found: Mismatches): void {
  switch (rule.kind) {
    case 'parts':
      for (const name of rule.parts) found.part(name, who);
      break;
    case 'cells':
      for (const name of Object.keys(rule.cells)) found.part(name, who);
      break;
    case 'region':
      found.part(rule.part, who);
      break;
    case 'union':
    case 'intersection':
    case 'difference':
    case 'complement':
      for (const inner of rule.of) needsOfSet(inner, who, found);
      break;
    default:
      try {
        const sets = found.run.sets.map((s) => s.name);
        for (const need of needsOfRule(rule, found.run.fields, sets)) found.need(need, who);
      } catch (error) {
        found.add(bare((error as Error).message), who);
      }
  }
}

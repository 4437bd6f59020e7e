import { needsOfRule } from '#core/fields/part-set.ts';
import { absentQuantity, comesWithShapes, originOf } from '#core/fields/quantity-sources.ts';
import { meshOnward } from '#core/fields/sources/between-steps.ts';
import type { FieldNeed, FieldOrigin } from '#core/fields/sources/quantity-source.ts';
import { sayList } from '#core/language/sentence.ts';
import { type Levels, needsShares } from '#core/model/levels.ts';
import { type Component, quantityKey } from '#core/model/quantity.ts';
import type { RunDescription, RunPart } from '#core/model/run.ts';
import type { ChainStep } from '#core/ops/chain/chain.ts';
import { settledStep } from '#core/ops/chain/settled-step.ts';
import { understoodSteps } from '#core/ops/chain/understood.ts';
import { needName } from '#core/ops/chain/workpiece.ts';
import { operationById } from '#core/ops/registry.ts';
import type { Attachment } from '#core/scene/annotations/attachment.ts';
import { needsOfAnnotations } from '#core/scene/annotations/needs.ts';
import type { Layer, Scene } from '#core/scene/document.ts';
import { onwardOfLayer, ruleOfSet, stepOfLayer, wholeChain } from '#core/scene/layer-chain.ts';
import { settingOf } from '#core/scene/setting.ts';
import { scaleNeedsShares } from '#core/scene/settle-scale.ts';
import { scalesOfLayer } from '#core/scene/shown-scales.ts';
import { needsSpread } from '#core/scene/spread-of-scale.ts';
import { turnOfCycle } from '#core/scene/things/cycle.ts';
import type { BesideSource, GeometryRequest } from './geometry-maker.ts';
import type { PartSource } from './part-sources.ts';
import type { RangesNeeded } from './ranges.ts';

export interface LayerRequests {
  layer: string;
  requests: { part: string; request: GeometryRequest }[];
  /** Why it cannot be shown, or null. */
  trouble: string | null;
  /** Why a quantity it shows or reads is not there at the step, or null. */
  absent: string | null;
}

/** What the edges of a layer show, where they are drawn and show a quantity of their own. */
const edgesShown = ({ edges }: Layer): Layer['edges']['by'] => (edges.shown ? edges.by : null);

/** What a layer must know of its run as a whole, as far as it can be told. */
export function rangesOfLayer(layer: Layer, scene: Scene, run: RunDescription): RangesNeeded {
  const { colour } = layer;
  const edgesBy = edgesShown(layer);
  const coloured = [...(colour.kind === 'field' ? [colour.field] : []), ...(edgesBy ? [edgesBy.field] : [])];
  const used = scene.scales.filter((s) => scalesOfLayer(layer).includes(s.id));
  const spread = used.filter(scaleNeedsShares).map((s) => s.quantity);
  const whole = wholeChain(layer, scene);
  try {
    const setting = settingOf(run, scene, layer);
    const rule = whole.set === null ? null : ruleOfSet(whole.set, scene, run);
    const ofSet = rule ? needsOfRule(rule, setting.fields, setting.sets) : [];
    const chain = understoodSteps(whole.chain);
    const needs = needsOfChain(chain.map((step) => settledStep(step, setting)));
    return {
      ranges: [...coloured, ...[...ofSet, ...needs].map((need) => need.field)],
      shares: [...spread, ...chain.flatMap(sharesOfStep)],
    };
  } catch {
    // A condition that is not understood is told when the layer is asked for.
    return { ranges: coloured, shares: spread };
  }
}

/** Quantities whose quantiles an operation takes its levels from. */
function sharesOfStep(step: ChainStep): string[] {
  if (step.off) return [];
  const options = step.options as Record<string, unknown>;
  const uses = operationById(step.op).controls.some(
    ({ kind, key }) => kind === 'levels' && needsShares(options[key] as Levels | null),
  );
  return uses ? [quantityKey(String(options.field), options.component as Component)] : [];
}

/** What a chain reads at the step on show. */
const needsOfChain = (chain: ChainStep[]): FieldNeed[] =>
  chain.flatMap((s) => (s.off ? [] : (operationById(s.op).needs?.(s.options) ?? [])));

/** What operations that look at all steps read at each of them. */
const needsThrough = (chain: ChainStep[]): FieldNeed[] =>
  needsOfChain(chain.filter((s) => operationById(s.op).reads === 'all steps'));

/** What words that hang on a part, or on any, tell of it. */
const needsOfAttached = (attached: readonly Attachment[], part: string): FieldNeed[] =>
  attached.flatMap((a) =>
    'values' in a && (!('part' in a) || a.part === part) ? a.values.map(({ field }) => ({ field })) : [],
  );

/** Parts at each step of the run, with what is read there. */
const stepsThrough = (
  parts: readonly RunPart[],
  run: RunDescription,
  needs: readonly FieldNeed[],
  turn: number,
): GeometryRequest['through'] =>
  run.steps.map(({ time }, index) => ({
    time,
    parts: parts.flatMap((part): PartSource[] => {
      const shown = part.steps[index];
      if (!shown) return [];
      const fields: Record<string, FieldOrigin> = {};
      for (const need of needs) {
        const origin = originOf(need, { run, part, step: index, turn });
        if (origin) fields[needName(need)] = origin;
      }
      return [{ part: part.name, mesh: part.meshes[shown.mesh], fields }];
    }),
  }));

/** Why one of some quantities is on none of the parts that are there at a step, as far as something is known of that. */
function absentOf(
  needs: readonly FieldNeed[],
  there: readonly PartSource[],
  run: RunDescription,
  step: number,
): string | null {
  const lacking = needs.filter((need) => there.every((p) => !p.fields[needName(need)]));
  const parts = run.parts.filter((part) => there.some((p) => p.part === part.name));
  for (const need of lacking)
    for (const part of parts) {
      const found = absentQuantity(need, { run, part, step });
      if (found !== null) return found;
    }
  return null;
}

/**
 * What a layer needs of every part it shows, with everything settled that depends on the run, the scene and the step.
 *
 * @param shownStep that of the scene, or another: then the scene must not be on its way to the next one
 * @param more what is looked for beside what words hang on
 * @param reads what else is read of every part
 */
export function requestsOfLayer(
  layer: Layer,
  scene: Scene,
  run: RunDescription,
  shownStep: number,
  more: readonly Attachment[] = [],
  reads: readonly FieldNeed[] = [],
): LayerRequests {
  const whole = wholeChain(layer, scene);
  const nothing = (trouble: string): LayerRequests => ({
    layer: layer.id,
    requests: [],
    trouble,
    absent: null,
  });
  if (whole.missing) return nothing(whole.missing);
  const setting = settingOf(run, { ...scene, step: shownStep }, layer);
  const rule = whole.set === null ? null : ruleOfSet(whole.set, scene, run);
  if (whole.set !== null && !rule)
    return nothing(`There is no part set "${whole.set}" any more. Choose another source.`);
  let chain: ChainStep[];
  let setNeeds: FieldNeed[];
  try {
    chain = understoodSteps(whole.chain).map((step) => settledStep(step, setting));
    setNeeds = rule ? needsOfRule(rule, setting.fields, setting.sets) : [];
  } catch (error) {
    return nothing((error as Error).message);
  }
  const step = stepOfLayer(layer, shownStep, run.steps.length);
  const onward = onwardOfLayer(layer, scene, step, run.steps.length);
  const turn = turnOfCycle(scene.cycle);
  const { colour } = layer;
  const edgesBy = edgesShown(layer);
  const scale = colour.kind === 'field' ? scene.scales.find((s) => s.id === colour.scale) : undefined;
  const needs: FieldNeed[] = [
    ...setNeeds,
    ...needsOfChain(chain),
    ...(colour.kind === 'field' ? [{ field: colour.field }] : []),
    ...(edgesBy ? [{ field: edgesBy.field }] : []),
    ...reads,
  ];
  const attached = [...needsOfAnnotations(scene, run).attachments, ...more];
  const names = {
    fields: setting.fields.map(({ key, name, components, unit }) => ({ key, name, components, unit })),
    sets: [...setting.sets],
  };
  const shownParts = run.parts
    .filter((p) => whole.parts === null || whole.parts.includes(p.name))
    .filter((p) => !scene.parts[p.name]?.hidden);
  const through = chain.some((s) => !s.off && operationById(s.op).reads === 'all steps')
    ? stepsThrough(shownParts, run, needsThrough(chain.filter((s) => !s.off)), turn)
    : [];
  const sourcesWith = (
    which: readonly RunPart[],
    read: (part: RunPart) => readonly FieldNeed[],
  ): PartSource[] =>
    which.flatMap((part) => {
      const state = part.steps[step];
      if (!state) return [];
      const fields: Record<string, FieldOrigin> = {};
      for (const need of read(part)) {
        const origin = originOf(need, { run, part, step, onward, turn });
        if (origin) fields[needName(need)] = origin;
      }
      return [{ part: part.name, mesh: meshOnward(part, step, onward), fields }];
    });
  const parts = sourcesWith(shownParts, (part) => [...needs, ...needsOfAttached(attached, part.name)]);
  const beside = chain
    .flatMap((s) => (s.off ? [] : (operationById(s.op).beside?.(s.options) ?? [])))
    .flatMap((of): BesideSource[] => {
      if (of.kind === 'part') {
        const named = run.parts.filter((p) => p.name === of.name);
        return [{ of, parts: sourcesWith(named, () => []), set: null, setNeeds: [] }];
      }
      const set = ruleOfSet(of.name, scene, run);
      if (!set) return [];
      const read = needsOfRule(set, setting.fields, setting.sets);
      return [{ of, parts: sourcesWith(run.parts, () => read), set, setNeeds: read }];
    });
  const makes = new Set(chain.flatMap((s) => (s.off ? [] : (operationById(s.op).traits?.makes ?? []))));
  const has = (of: PartSource[], field: string): boolean =>
    comesWithShapes(field) ? makes.has(field) : of.some((p) => p.fields[field]);
  const requestOf = (of: PartSource[], edges: boolean): GeometryRequest => ({
    parts: of,
    beside,
    through,
    step,
    origin: run.origin,
    set: rule,
    chain,
    names: rule || beside.some((b) => b.set) ? names : { fields: [], sets: [] },
    setNeeds,
    colour:
      colour.kind === 'field' && has(of, colour.field)
        ? { field: colour.field, component: colour.component }
        : null,
    edges,
    edgeColour:
      edges && edgesBy && has(of, edgesBy.field)
        ? { field: edgesBy.field, component: edgesBy.component }
        : null,
    spread: scale !== undefined && needsSpread(scale, run),
    attached: attached.filter((a) => !('part' in a) || of.some((p) => p.part === a.part)),
    near: null,
    have: null,
    ahead: false,
  });
  // What looks at all parts of the layer gets them as one; looks of single parts then have no place.
  const together = chain.some((s) => !s.off && operationById(s.op).scope === 'layer');
  const requests =
    together && parts.length > 0
      ? [{ part: sayList(parts.map((p) => p.part)), request: requestOf(parts, layer.edges.shown) }]
      : parts.map((p) => ({
          part: p.part,
          request: requestOf([p], scene.parts[p.part]?.edges ?? layer.edges.shown),
        }));
  return { layer: layer.id, requests, trouble: null, absent: absentOf(needs, parts, run, step) };
}

import { needsOfRule } from '#core/fields/part-set.ts';
import { isAxial } from '#core/model/roles.ts';
import { fieldByKey, type PartStep, type RunDescription, type RunPart } from '#core/model/run.ts';
import type { ChainStep } from '#core/ops/chain.ts';
import type { FieldNeed, OperationSetting } from '#core/ops/operation.ts';
import { operationById } from '#core/ops/registry.ts';
import { understoodSteps } from '#core/ops/understood.ts';
import { needName } from '#core/ops/workpiece.ts';
import type { Layer, Scene } from '#core/scene/document.ts';
import { ruleOfSet, stepOfLayer, wholeChain } from '#core/scene/layer-chain.ts';
import { settingOf } from '#core/scene/setting.ts';
import type { FieldOrigin, GeometryRequest } from './geometry-maker.ts';

export interface LayerRequests {
  layer: string;
  requests: { part: string; request: GeometryRequest }[];
  /** Why it cannot be shown, or null. */
  trouble: string | null;
}

/** What a layer needs of every part it shows, with everything settled that depends on the run, the scene and the step. */
export function requestsOfLayer(
  layer: Layer,
  scene: Scene,
  run: RunDescription,
  shownStep: number,
): LayerRequests {
  const whole = wholeChain(layer, scene);
  const nothing = (trouble: string): LayerRequests => ({ layer: layer.id, requests: [], trouble });
  if (whole.missing) return nothing(whole.missing);
  const setting = settingOf(run, { ...scene, step: shownStep }, layer);
  const rule = whole.set === null ? null : ruleOfSet(whole.set, scene, run);
  if (whole.set !== null && !rule)
    return nothing(`There is no part set "${whole.set}" any more. Choose another source.`);
  let chain: ChainStep[];
  let setNeeds: FieldNeed[];
  try {
    chain = understoodSteps(whole.chain).map((step) => settled(step, setting));
    setNeeds = rule ? needsOfRule(rule, setting.fields, setting.sets) : [];
  } catch (error) {
    return nothing((error as Error).message);
  }
  const step = stepOfLayer(layer, shownStep, run.steps.length);
  const { colour } = layer;
  const needs: FieldNeed[] = [
    ...setNeeds,
    ...chain.flatMap((s) => (s.off ? [] : (operationById(s.op).needs?.(s.options) ?? []))),
    ...(colour.kind === 'field' ? [{ field: colour.field }] : []),
  ];
  const names = {
    fields: run.fields.map(({ key, name, components }) => ({ key, name, components })),
    sets: [...setting.sets],
  };
  const requests = run.parts
    .filter((p) => whole.parts === null || whole.parts.includes(p.name))
    .filter((p) => !scene.parts[p.name]?.hidden)
    .flatMap((part) => {
      const state = part.steps[step];
      if (!state) return [];
      const fields: Record<string, FieldOrigin> = {};
      for (const need of needs) {
        const origin = originOf(need, run, part, state);
        if (origin) fields[needName(need)] = origin;
      }
      const request: GeometryRequest = {
        mesh: part.meshes[state.mesh],
        origin: run.origin,
        part: part.name,
        set: rule,
        chain,
        fields,
        names: rule ? names : { fields: [], sets: [] },
        setNeeds,
        colour:
          colour.kind === 'field' && fields[colour.field]
            ? { field: colour.field, component: colour.component }
            : null,
        edges: scene.parts[part.name]?.edges ?? layer.edges.shown,
        have: null,
        ahead: false,
      };
      return [{ part: part.name, request }];
    });
  return { layer: layer.id, requests, trouble: null };
}

function settled(step: ChainStep, setting: OperationSetting): ChainStep {
  const operation = operationById(step.op);
  const options = operation.schema.parse(step.options);
  return { ...step, options: step.off ? options : (operation.settle?.(options, setting) ?? options) };
}

/** Where a field that is needed comes from; null when the part does not have it. */
function originOf(
  { field: key, step }: FieldNeed,
  run: RunDescription,
  part: RunPart,
  shown: PartStep,
): FieldOrigin | null {
  if (key.startsWith('set:')) {
    const cells = run.sets.find((s) => s.name === key.slice(4))?.parts.find((p) => p.part === part.name);
    return { kind: 'cells', cells: cells ? (cells.cells ?? 'all') : 'none' };
  }
  if (key.startsWith('mesh:')) return { kind: 'measure', measure: key };
  const field = fieldByKey(run, key);
  const state =
    step === null || step === undefined ? shown : part.steps[Math.min(step, run.steps.length - 1)];
  const array = state?.fields[key];
  if (!field || !array) return null;
  // A field of another step fits only the same mesh.
  if (state.mesh !== shown.mesh && part.meshes[state.mesh].pointCount !== part.meshes[shown.mesh].pointCount)
    return null;
  const { location, components, name } = field;
  return { kind: 'array', array, location, components, axial: isAxial(name, components) };
}

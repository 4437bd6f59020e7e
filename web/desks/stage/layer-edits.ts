import { type Component, quantityKey, quantityName } from '#core/model/quantity.ts';
import type { RunField } from '#core/model/run.ts';
import type { OperationSetting } from '#core/ops/chain/operation.ts';
import { newStep, withStepIds } from '#core/ops/chain/step.ts';
import { understood } from '#core/ops/chain/understood.ts';
import type { AnyOperation } from '#core/ops/registry.ts';
import { bodiesHiding, displacementOf } from '#core/scene/bodies-around.ts';
import { cameraAxes } from '#core/scene/camera.ts';
import { newScale } from '#core/scene/default-scene.ts';
import type { Layer, Scale } from '#core/scene/document.ts';
import { freeLegendPlace } from '#core/scene/legend-places.ts';
import { type FaceAt, probePlane } from '#core/scene/probe-plane.ts';
import { colourOfNew } from '#core/scene/read-colour.ts';
import { freshLayer, readLayer, usualParts } from '#core/scene/read-layer.ts';
import { settingOf } from '#core/scene/setting.ts';
import { shownScales } from '#core/scene/shown-scales.ts';
import { plainEdges } from '#core/scene/things/layer-look.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit, sceneNow, useDesk } from './desk-store.ts';

/** The scale a quantity has already, or a new one: layers that show the same share their colours. */
function scaleFor(field: RunField, component: Component): { id: string; made?: Scale } {
  const { scales } = sceneNow();
  const known = scales.find((s) => s.quantity === quantityKey(field.key, component));
  if (known) return { id: known.id };
  const made = newScale(
    field,
    component,
    freshId('scale'),
    quantityName(field, component),
    shownScales(sceneNow()),
  );
  return { id: made.id, made };
}

export function colourBy(layer: string, field: RunField, component: Component): void {
  const { id, made } = scaleFor(field, component);
  const { layers, scales } = sceneNow();
  const colour = layers.find((l) => l.id === layer)?.colour;
  const before = colour?.kind === 'field' ? scales.find((s) => s.id === colour.scale) : undefined;
  const shared = layers.filter((l) => l.colour.kind === 'field' && l.colour.scale === before?.id).length > 1;
  // A scale that takes the place of another takes over the place of its legend too.
  if (made && before && !shared) made.legend = { ...before.legend, title: null };
  edit({
    type: 'layer.change',
    id: layer,
    change: { colour: { kind: 'field', field: field.key, component, scale: id } },
    scale: made,
  });
}

/** Gives a layer the colours, the opacity, the edges, the lines and the sides of another. */
export function takeLook(layer: Layer, from: Layer): void {
  const { colour, opacity, edges, lineWidth, sides } = from;
  edit({ type: 'layer.change', id: layer.id, change: { colour, opacity, edges, lineWidth, sides } });
}

/** Gives a layer a scale of its own, alike to the one it shared. */
export function ownScale(layer: Layer, scale: Scale): void {
  if (layer.colour.kind !== 'field') return;
  const made: Scale = {
    ...scale,
    id: freshId('scale'),
    legend: { ...scale.legend, x: freeLegendPlace(shownScales(sceneNow())) },
  };
  edit({
    type: 'layer.change',
    id: layer.id,
    change: { colour: { ...layer.colour, scale: made.id } },
    scale: made,
  });
}

/** Adds a line, and lets one see it: bodies that would hide it become as thin as glass in the same step. */
export function addNewLayer(layer: Layer, scale?: Scale): void {
  const { run } = useDesk.getState();
  edit({ type: 'layer.add', layer, scale, thin: bodiesHiding(layer, sceneNow(), run) });
}

/** Adds a line of the scene; it shows what a newcomer most likely wants of its kind. */
export function addLayer(operation: AnyOperation): void {
  const { run, selected } = useDesk.getState();
  const scene = sceneNow();
  const setting = settingOf(run, scene);
  const layer: Layer = {
    ...freshLayer(run, freshId('layer')),
    parts: selected ?? usualParts(run, operation),
    chain: [],
  };
  const own = operation.traits?.plain ? [] : [begun(operation, setting)];
  const moved = operation.traits?.displaces ? [] : displacementOf(layer, scene, run);
  layer.chain = withStepIds([...moved, ...own]);
  const scale = colourOfNew(layer, scene, setting, run, freshId('scale'));
  addNewLayer(layer, scale ?? undefined);
  useDesk.setState({ openLayer: layer.id });
}

/** Adds a line by a sentence that is known to be understood. */
export function addSentence(sentence: string): void {
  const { run } = useDesk.getState();
  const read = readLayer(sentence, sceneNow(), run, null, freshId('layer'));
  if (!('layer' in read)) return;
  addNewLayer(read.layer, read.scale ?? undefined);
  useDesk.setState({ openLayer: read.layer.id });
}

/** Puts a plane below a face that was pointed at, with what follows it, in one step of undo. */
export function addProbePlane(at: FaceAt): void {
  const { run } = useDesk.getState();
  const { layers, scale } = probePlane(at, sceneNow(), run, () => freshId('layer'));
  const key = freshId('probe');
  for (const [n, layer] of layers.entries())
    edit(
      n === 0
        ? { type: 'layer.add', layer, scale: scale ?? undefined, thin: bodiesHiding(layer, sceneNow(), run) }
        : { type: 'layer.add', layer },
      key,
    );
  useDesk.setState({ openLayer: layers[0].id });
}

/** A step of an operation with the options it begins with, turned towards whoever looks. */
function begun(operation: AnyOperation, setting: OperationSetting): ReturnType<typeof newStep> {
  const options = operation.defaults(setting);
  const { back } = cameraAxes(sceneNow().camera);
  return newStep(operation, operation.traits?.seenFrom?.(options, back) ?? options);
}

/** Adds an operation behind the others of a line. */
export function addOperation(layer: Layer, operation: AnyOperation): void {
  const setting = settingOf(useDesk.getState().run, sceneNow(), layer);
  const key = freshId('grown');
  edit({ type: 'chain.add', id: layer.id, step: begun(operation, setting) }, key);
  // A flat run that becomes a body is seen as one, in the same step of undo, as soon as its shape is known.
  if (useDesk.getState().flat) useDesk.setState({ becomesBody: key });
}

/** A new line that takes this one as its source, in the same colours to begin with. */
export function followLayer(source: Layer): void {
  const layer: Layer = {
    ...source,
    id: freshId('layer'),
    name: null,
    from: source.id,
    parts: null,
    set: null,
    chain: [],
  };
  edit({ type: 'layer.add', layer });
  useDesk.setState({ openLayer: layer.id });
}

/** The line as it was before it was deformed, faint, and only where it veils nothing. */
export function addGhost(source: Layer): void {
  const layer: Layer = {
    ...source,
    id: freshId('layer'),
    name: 'undeformed ghost',
    chain: source.chain.filter((s) => !understood(s)?.operation.traits?.displaces),
    colour: { kind: 'plain', colour: '#5a5753' },
    edges: plainEdges,
    sides: 'clear',
    opacity: 0.3,
  };
  edit({ type: 'layer.add', layer });
}

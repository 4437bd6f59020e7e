import type { RunField } from '#core/model/run.ts';
import type { AnyOperation } from '#core/ops/registry.ts';
import { defaultScene, naturalComponent, newScale, sensibleField } from '#core/scene/default-scene.ts';
import type { Component, Layer, Scale } from '#core/scene/document.ts';
import { settingOf } from '#core/scene/layer-sentence.ts';
import { quantityKey, quantityName } from '#core/scene/quantity.ts';
import { edit, freshId, sceneNow, useDesk } from './desk-store.ts';

/** The scale a quantity has already, or a new one: layers that show the same share their colours. */
function scaleFor(field: RunField, component: Component): { id: string; made?: Scale } {
  const { scales } = sceneNow();
  const known = scales.find((s) => s.quantity === quantityKey(field.key, component));
  if (known) return { id: known.id };
  const made = newScale(field, component, freshId('scale'), quantityName(field, component), scales.length);
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

/** Gives a layer a scale of its own, alike to the one it shared. */
export function ownScale(layer: Layer, scale: Scale): void {
  if (layer.colour.kind !== 'field') return;
  const made: Scale = { ...scale, id: freshId('scale'), legend: { ...scale.legend, x: 1 - scale.legend.x } };
  edit({
    type: 'layer.change',
    id: layer.id,
    change: { colour: { ...layer.colour, scale: made.id } },
    scale: made,
  });
}

/** Adds a line of the scene; it shows what a newcomer most likely wants of its kind. */
export function addLayer(operation: AnyOperation | null): void {
  const { run } = useDesk.getState();
  const chosen = sensibleField(run);
  const scale = chosen ? scaleFor(chosen.field, chosen.component) : null;
  const volumes = run.parts.filter((p) => p.meshes.some((m) => m.dimension === Math.min(3, run.dimension)));
  const largest = [...volumes].sort((a, b) => b.meshes[0].cellCount - a.meshes[0].cellCount)[0];
  const layer: Layer = {
    ...defaultScene(run).layers[0],
    id: freshId('layer'),
    name: null,
    parts: run.parts.length === 1 || !largest ? null : [largest.name],
    chain:
      operation && operation.id !== 'surface'
        ? [{ op: operation.id, options: operation.defaults(settingOf(run)) }]
        : [],
    // On a flat run a section is a line on its own surface: in the same colours it would not be seen.
    colour:
      chosen && scale && !(run.dimension === 2 && operation?.id === 'section')
        ? {
            kind: 'field',
            field: chosen.field.key,
            component: naturalComponent(chosen.field),
            scale: scale.id,
          }
        : { kind: 'plain', colour: '#5a5753' },
    sides: 'both',
  };
  edit({ type: 'layer.add', layer, scale: scale?.made });
  useDesk.setState({ openLayer: layer.id });
}

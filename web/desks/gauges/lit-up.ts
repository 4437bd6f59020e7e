import { measures } from '#core/measure/registry.ts';
import { annotationKind } from '#core/scene/annotations/registry.ts';
import type { Layer, Scene } from '#core/scene/document.ts';
import { freshLayer } from '#core/scene/read-layer.ts';
import { isReading } from '#core/scene/reading.ts';
import { useDesk } from '#web/desks/stage/desk-store.ts';

const LIT = '#e8590c';

/** The scene with what a gauge is measured on lit up, and the direction that counts as positive as an arrow. */
export function withMeasured(scene: Scene, gauge: string | null): Scene {
  const { run, readings } = useDesk.getState();
  const found = gauge === null ? undefined : scene.gauges.find((g) => g.id === gauge);
  if (!found) return scene;
  const lit: Layer = {
    ...freshLayer(run, 'measured'),
    ...found.on,
    id: 'measured',
    name: null,
    visible: true,
    colour: { kind: 'plain', colour: LIT },
    opacity: 0.45,
    lineWidth: 2.5,
  };
  const told = {
    ...annotationKind('reading').plain,
    id: 'measured',
    kind: 'reading' as const,
    visible: true,
    gauge: found.id,
  };
  const read = readings[found.id];
  // Where nothing points anywhere the number stands on the desk already.
  const points = isReading(read) && (read.place ?? read.positive ?? (Array.isArray(read.value) || null));
  const known = scene.annotations.some((a) => a.kind === 'reading' && a.gauge === found.id && a.visible);
  // A place lights up nothing but itself.
  const whole = measures.some((m) => m.id === found.measure && m.asks === 'everything');
  return {
    ...scene,
    layers: whole ? scene.layers : [...scene.layers, lit],
    annotations: known || !points ? scene.annotations : [...scene.annotations, told],
  };
}

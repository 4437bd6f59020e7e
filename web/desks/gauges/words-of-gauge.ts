import { annotationKind } from '#core/scene/annotations/registry.ts';
import type { Gauge } from '#core/scene/document.ts';
import { gaugeLabel } from '#core/scene/gauge-label.ts';
import type { Reading } from '#core/scene/reading.ts';
import { settingOf } from '#core/scene/setting.ts';
import { edit, freshId, sceneNow, useDesk } from '#web/desks/stage/desk-store.ts';

/** Writes a gauge on the picture, as words that tell it at every step. */
export function addWordsOfGauge(
  gauge: Gauge,
  reading: Reading | null,
  format: (value: number) => string,
): void {
  const scene = sceneNow();
  const { run } = useDesk.getState();
  const kind = annotationKind('text');
  const label = gaugeLabel(gauge, scene, run);
  const value = reading
    ? typeof reading.value === 'number'
      ? reading.value
      : Math.hypot(...reading.value)
    : 1;
  const unit = reading?.unit ? ` ${reading.unit}` : '';
  const text = `${label.charAt(0).toUpperCase()}${label.slice(1)}: {${label}:${format(value)}}${unit}`;
  const others = scene.annotations.filter((a) => a.kind === 'text').length;
  edit({
    type: 'annotation.add',
    annotation: {
      ...kind.defaults(settingOf(run, scene), scene),
      text,
      x: 0.03,
      y: Math.min(0.9, 0.06 + 0.06 * others),
      id: freshId('words'),
      kind: 'text',
      visible: true,
    },
  });
}

import type { RunDescription } from '../../model/run.ts';
import type { Scene } from '../document.ts';
import type { AnnotationNeeds } from './annotation.ts';
import { attachmentKey } from './attachment.ts';
import { annotationKind } from './registry.ts';

/** What the words and marks on show must know of their run, each thing once. */
export function needsOfAnnotations(scene: Scene, run: RunDescription): Required<AnnotationNeeds> {
  const all = scene.annotations
    .filter((a) => a.visible)
    .flatMap((a) => annotationKind(a.kind).knows?.(a, run, scene) ?? []);
  const attachments = new Map(all.flatMap((n) => n.attachments.map((a) => [attachmentKey(a), a])));
  return {
    ranges: [...new Set(all.flatMap((n) => n.ranges))],
    attachments: [...attachments.values()],
    charts: [...new Set(all.flatMap((n) => n.charts ?? []))],
    gauges: [...new Set(all.flatMap((n) => n.gauges ?? []))],
  };
}

import type { Bounds } from '#core/model/mesh.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { AnnotationSetting, Hanging } from '#core/scene/annotations/annotation.ts';
import { attachmentKey, type Found } from '#core/scene/annotations/attachment.ts';
import { type Shape, shifted } from '#core/scene/annotations/drawing.ts';
import { measuredOnPicture } from '#core/scene/annotations/measured-on-picture.ts';
import { boxAt, leaderEnd, placeLabels } from '#core/scene/annotations/place-labels.ts';
import { type Annotation, annotationKind } from '#core/scene/annotations/registry.ts';
import type { Backdrop } from '#core/scene/backdrops/backdrop.ts';
import { projectPoint } from '#core/scene/camera.ts';
import type { Curves } from '#core/scene/charts/chart-drawn.ts';
import type { Scene } from '#core/scene/document.ts';
import type { Readings } from '#core/scene/reading.ts';
import { imageOf } from './images.ts';
import { type Box, measured, type WordsPainter } from './lettering.ts';
import { letters, paintShapes, type Sheet } from './paint-shapes.ts';

/** What annotations are laid out by. */
export interface Annotated {
  scene: Scene;
  run: RunDescription;
  step: number;
  bounds: Bounds;
  /** What they hang on, by `attachmentKey`. */
  attached: Readonly<Record<string, Found | null>>;
  /** What gauges read that they tell of, by their ids. */
  readings: Readings;
  /** What the curves of its charts are, by their ids. */
  curves: Curves;
}

/** Where an annotation lies on the picture, for handling it on the stage. */
export interface AnnotationBox extends Box {
  id: string;
  /** Where it hangs, in pixels. */
  anchor: { x: number; y: number } | null;
  of: Annotation;
}

/** What an annotation may know of a picture. */
export function annotationSetting(
  painter: WordsPainter,
  { scene, run, step, bounds, attached, readings, curves }: Annotated,
  { width, height }: { width: number; height: number },
  tone: Backdrop,
): Omit<AnnotationSetting, 'number'> {
  return {
    scene,
    run,
    step,
    bounds,
    width,
    height,
    unit: height / 100,
    room: roomOf(scene, { width, height }),
    readings,
    curves,
    measured: measuredOnPicture(scene, run),
    tone,
    measure: (text, size, weight, kind) => measured(painter, text, size, weight, letters(kind)),
    project: (place) => {
      const { x, y, depth } = projectPoint(scene.camera, place, width / height);
      // In parallel projection nothing is too near to be seen.
      const seen = depth > 0 || scene.camera.projection !== 'perspective';
      return seen ? { x: x * width, y: y * height, depth } : null;
    },
    found: (attachment) => attached[attachmentKey(attachment)] ?? null,
    shapeOf: (source) => imageOf(source)?.shape ?? null,
  };
}

/** What bars along the edges leave of a picture. */
export function roomOf(scene: Scene, { width, height }: { width: number; height: number }): Box {
  let [top, bottom] = [0, 0];
  for (const annotation of scene.annotations) {
    if (!annotation.visible) continue;
    const taken = annotationKind(annotation.kind).takesRoom?.(annotation, { unit: height / 100 });
    top = Math.max(top, taken?.top ?? 0);
    bottom = Math.max(bottom, taken?.bottom ?? 0);
  }
  return { x: 0, y: top, width, height: height - top - bottom };
}

/** The annotations on show, each with its number among those that are counted. */
export function numbered(annotations: readonly Annotation[]): { annotation: Annotation; number: number }[] {
  const counts: Record<string, number> = {};
  return annotations
    .filter((a) => a.visible)
    .map((annotation) => {
      const number = (counts[annotation.kind] ?? 0) + 1;
      counts[annotation.kind] = number;
      return { annotation, number };
    });
}

/**
 * Paints the words and marks of a scene in their order; words that hang find their places around what stands already.
 *
 * @param taken where legends and the time are
 */
export function paintAnnotations(
  painter: WordsPainter,
  annotated: Annotated,
  sheet: Sheet,
  taken: readonly Box[],
): AnnotationBox[] {
  const { size } = sheet;
  const common = annotationSetting(painter, annotated, size, sheet.tone);
  const laid = numbered(annotated.scene.annotations).map(({ annotation, number }) => {
    const kind = annotationKind(annotation.kind);
    const setting: AnnotationSetting = { ...common, number };
    return {
      annotation,
      drawing: kind.layout?.(annotation, setting) ?? null,
      hanging: kind.hang?.(annotation, setting) ?? null,
    };
  });
  const standing = [...taken, ...laid.flatMap(({ drawing }) => (drawing?.box ? [drawing.box] : []))];
  const hanging = laid.flatMap(({ hanging: h }) => (h ? [h] : []));
  const middles = new Map(placed(hanging, standing, size).map((middle, i) => [hanging[i], middle]));
  const boxes: AnnotationBox[] = [];
  // Lines lie under all words.
  for (const { hanging: h } of laid) if (h) paintShapes(painter, leader(h, middles.get(h)!), sheet);
  for (const { annotation, drawing, hanging: h } of laid) {
    const { id } = annotation;
    if (drawing) {
      paintShapes(painter, drawing.shapes, sheet);
      if (drawing.box) boxes.push({ id, ...drawing.box, anchor: null, of: annotation });
    }
    if (!h) continue;
    const box = boxAt(middles.get(h)!, h.block);
    paintShapes(painter, shifted(h.block.shapes, box.x, box.y), sheet);
    boxes.push({ id, ...box, anchor: h.anchor, of: annotation });
  }
  return boxes;
}

function placed(
  hanging: readonly Hanging[],
  taken: readonly Box[],
  size: Sheet['size'],
): { x: number; y: number }[] {
  return placeLabels(
    hanging.map(({ anchor, block, offset }) => ({
      anchor,
      width: block.width,
      height: block.height,
      fixed: offset && { x: anchor.x + offset[0] * size.height, y: anchor.y + offset[1] * size.height },
    })),
    taken,
    size,
  );
}

/** The line from where words hang to them, with a dot at its end. */
function leader({ anchor, block, ink, lineWidth }: Hanging, middle: { x: number; y: number }): Shape[] {
  const end = leaderEnd(anchor, boxAt(middle, block));
  return [
    {
      kind: 'line',
      spots: [
        [anchor.x, anchor.y],
        [end.x, end.y],
      ],
      width: lineWidth,
      ink,
      halo: true,
    },
    { kind: 'disc', x: anchor.x, y: anchor.y, radius: 2.2 * lineWidth, fill: ink, rim: null },
  ];
}

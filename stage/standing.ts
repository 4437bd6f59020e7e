import { boundsOfMark } from '#core/model/mark.ts';
import { type Bounds, boundsInFiles, joinBounds } from '#core/model/mesh.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Standing } from '#core/scene/annotations/annotation.ts';
import { annotationKind } from '#core/scene/annotations/registry.ts';
import { backdropOf } from '#core/scene/backdrops/registry.ts';
import type { Layer, Scene } from '#core/scene/document.ts';
import { freshLayer } from '#core/scene/read-layer.ts';
import type { FramePart } from '#engine/scene-source.ts';
import { sceneryParts } from './scenery/scenery-parts.ts';
import { imageOf } from './words/images.ts';

/** Annotations that stand in the scene itself, and scenery: lines of it that nobody else sees. */
export interface StandingParts {
  layers: Layer[];
  parts: FramePart[];
  /** Of pictures and scenery among them, in the coordinates of the files; empty where there are none. */
  bounds: Bounds;
  /** Of the scenery alone, which takes light and casts shadows. */
  lit: Bounds;
  /** Changes when their shapes or pictures do. */
  key: string;
}

/** Width of their lines, in that of the lines of layers. */
const THIN = 0.35;

/** @param bounds of everything on show, in the coordinates of the files */
export function standingParts(
  scene: Scene,
  { run, bounds }: { run: RunDescription; bounds: Bounds },
): StandingParts {
  const tone = backdropOf(scene.backdrop);
  const found = scene.annotations.flatMap((annotation) => {
    const standing = annotation.visible
      ? annotationKind(annotation.kind).stand?.(annotation, { scene, run, bounds, tone })
      : null;
    return standing ? [{ id: `annotation ${annotation.id}`, standing }] : [];
  });
  const beside = sceneryParts(scene, run);
  const parts = [...beside.parts, ...found.map(({ id, standing }) => partOf(id, standing))];
  return {
    layers: [
      ...beside.layers,
      ...found.map(({ id, standing }) => ({
        ...freshLayer(run, id),
        opacity: standing.opacity,
        lineWidth: THIN,
        colour: { kind: 'plain' as const, colour: standing.colour },
      })),
    ],
    parts,
    bounds: found
      .filter(({ standing }) => standing.picture !== null)
      .flatMap(({ standing }) => standing.marks.map((mark) => boundsInFiles(boundsOfMark(mark), run.origin)))
      .reduce(joinBounds, beside.bounds),
    lit: beside.bounds,
    key: JSON.stringify(parts.map((p) => [p.key, p.picture !== null])),
  };
}

function partOf(id: string, { marks, picture }: Standing): FramePart {
  const positions = marks.map((m) => ('positions' in m ? Array.from(m.positions) : []));
  return {
    layer: id,
    part: id,
    key: `${id} ${JSON.stringify(positions)}`,
    shape: { marks, bounds: [0, 0, 0, 0, 0, 0], report: {} },
    values: marks.map(() => null),
    edgeValues: marks.map(() => null),
    spread: null,
    picture: picture === null ? null : (imageOf(picture)?.bitmap ?? null),
  };
}

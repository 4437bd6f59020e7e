import { LRUCache } from 'lru-cache';
import { seenThrough } from '#core/light/finish.ts';
import { valuesOf } from '#core/light/own-finish.ts';
import { boundsOfMark, type SurfaceMark } from '#core/model/mark.ts';
import { type Bounds, boundsInFiles, emptyBounds, joinBounds } from '#core/model/mesh.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Layer, Piece, Scene } from '#core/scene/document.ts';
import type { Enclosure } from '#core/scene/enclosure.ts';
import { freshLayer } from '#core/scene/read-layer.ts';
import {
  lookOfBody,
  type PieceSurface,
  stoodSurface,
  surfacesOfPiece,
} from '#core/scene/scenery/piece-marks.ts';
import { sceneryKind } from '#core/scene/scenery/registry.ts';
import { metreOf } from '#core/scene/scenery/scenery-kind.ts';
import { upOf } from '#core/scene/things/upright.ts';
import type { FramePart } from '#engine/scene-source.ts';
import type { Pickable } from '../picking.ts';
import { bodiesOf } from './enclosed-bodies.ts';

/** Scenery as lines and parts of the stage that nobody else sees. */
export interface SceneryParts {
  layers: Layer[];
  parts: FramePart[];
  /** In the coordinates of the files; empty where there is none. */
  bounds: Bounds;
}

/** How many pieces are kept made: as bodies, and where they stand. */
const KEPT = 200;

const bodies = new LRUCache<string, PieceSurface[]>({ max: KEPT });
const stood = new LRUCache<string, SurfaceMark[]>({ max: KEPT });

const fileOf = (piece: Piece): Enclosure | null => sceneryKind(piece.kind).file?.(piece) ?? null;

/** The files of what is on show. */
export const enclosuresOfScenery = ({ scenery }: Pick<Scene, 'scenery'>): Enclosure[] =>
  scenery.filter((s) => s.visible).flatMap((s) => fileOf(s) ?? []);

/** The beginning of the names of its lines and parts, with the id of the piece behind it. */
const OPENING = 'scenery ';

/** The piece that a line of the stage belongs to; null for any other line. */
export const pieceOfLayer = (layer: string): string | null =>
  layer.startsWith(OPENING) ? layer.slice(OPENING.length, layer.lastIndexOf(' ')) : null;

/** What of a scene stands beside its results. Files that were not loaded yet are left out. */
export function sceneryParts(scene: Scene, run: RunDescription): SceneryParts {
  const shown = scene.scenery.filter((piece) => piece.visible && piece.opacity > 0);
  const found = shown.flatMap((piece) => bodiesOfPiece(piece, scene, run));
  return {
    layers: found.map(({ id, look: { finish, opacity, colour } }) => ({
      ...freshLayer(run, id),
      finish,
      opacity,
      colour: { kind: 'plain', colour },
    })),
    parts: found.map(
      ({ id, key, mark, picture }): FramePart => ({
        layer: id,
        part: id,
        key,
        shape: { marks: [mark], bounds: [0, 0, 0, 0, 0, 0], report: {} },
        values: [null],
        edgeValues: [null],
        spread: null,
        picture,
      }),
    ),
    bounds: found
      .map(({ mark }) => boundsInFiles(boundsOfMark(mark), run.origin))
      .reduce(joinBounds, emptyBounds()),
  };
}

/** What of it can be pointed at: what hides more of what is behind it than not. */
export function sceneryPickables(scene: Scene, run: RunDescription): Pickable[] {
  const { layers, parts } = sceneryParts(scene, run);
  return parts.flatMap(({ layer, part, shape: { marks } }, i): Pickable[] => {
    const finish = valuesOf(layers[i].finish);
    const hides = layers[i].opacity * (finish ? 1 - seenThrough(finish) : 1);
    return hides > 0.5
      ? [{ layer, part, marks, values: [null], inside: false, side: 'both', hides: null }]
      : [];
  });
}

function bodiesOfPiece(piece: Piece, scene: Scene, run: RunDescription) {
  const enclosure = fileOf(piece);
  const file = enclosure && bodiesOf(enclosure);
  const metre = metreOf(run);
  // Where it stands, its look and what it is called make no other bodies.
  const { id, name, group, locked, finish, colour, opacity, visible, place, turn, ...shape } = piece;
  const shapeKey = JSON.stringify([shape, metre, file !== null]);
  const own = kept(bodies, shapeKey, () => surfacesOfPiece(piece, { file, metre }));
  const placeKey = JSON.stringify([shapeKey, place, turn, scene.upright, run.origin]);
  const marks = kept(stood, placeKey, () =>
    own.map(({ surface }) => stoodSurface(surface, piece, upOf(scene.upright), run.origin)),
  );
  return own.map((body, i) => {
    const look = lookOfBody(piece, body);
    const picture = look.picture === null ? null : (file?.images[look.picture] ?? null);
    return { id: `${OPENING}${id} ${i}`, key: `${placeKey} ${i}`, mark: marks[i], look, picture };
  });
}

function kept<V extends object>(cache: LRUCache<string, V>, key: string, make: () => V): V {
  const known = cache.get(key);
  if (known) return known;
  const made = make();
  cache.set(key, made);
  return made;
}

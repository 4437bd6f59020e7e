import { BackSide, DoubleSide, Ray, Vector3 } from 'three';
import type { CompiledScale } from '#core/colour/compiled-scale.ts';
import type { DotMark, LineMark, Mark, SphereMark, SurfaceMark } from '#core/model/mark.ts';
import { add, dot, subtract, times, type Vector } from '#core/model/vectors.ts';
import { cameraAxes, halfHeight, lensShift, rayThrough } from '#core/scene/camera.ts';
import type { Camera, Layer, Scene } from '#core/scene/document.ts';
import { settleScale } from '#core/scene/settle-scale.ts';
import { spreadOfScale } from '#core/scene/spread-of-scale.ts';
import { ownColour } from '#core/scene/things/part-look.ts';
import type { WipeSide } from '#core/scene/things/wipe.ts';
import type { Frame } from '#engine/scene-source.ts';
import { searchTree } from './search-tree.ts';

/** What is drawn of a part of a layer, as far as pointing at it goes. */
export interface Pickable {
  layer: string;
  part: string;
  marks: readonly Mark[];
  /** One value a vertex for each mark; null where it shows no field. */
  values: readonly (Float32Array | null)[];
  /** Whether only what turns its back to the camera is shown. */
  inside: boolean;
  /** On which side of the wipe it is shown. */
  side: WipeSide;
  /** What its colour scale does not show; null where it shows everything. */
  hides: ((value: number) => boolean) | null;
}

/** What of a frame is on show, with the layers and parts it belongs to. */
export function pickablesOf(frame: Frame, scene: Scene): Pickable[] {
  return frame.parts.flatMap(({ layer: id, part, shape, values }) => {
    const layer = scene.layers.find((l) => l.id === id);
    if (!layer?.visible || layer.opacity === 0 || scene.parts[part]?.opacity === 0) return [];
    const coloured = layer.colour.kind === 'field' && ownColour(scene.parts[part], layer) === null;
    const scale = coloured ? settledOf(layer, scene, frame) : null;
    return {
      layer: id,
      part,
      marks: shape.marks,
      values: coloured ? values : values.map(() => null),
      inside: layer.sides === 'inside',
      side: layer.wipe,
      hides: scale?.mayHide ? (value) => scale.hides(value) : null,
    };
  });
}

/** The colour scale of a layer as it is on show. */
function settledOf({ colour }: Layer, scene: Scene, { run, step, parts }: Frame): CompiledScale | null {
  const scale = colour.kind === 'field' ? scene.scales.find((s) => s.id === colour.scale) : undefined;
  return scale ? settleScale(scale, run, step, spreadOfScale(scale, scene, parts)) : null;
}

export interface Picked {
  layer: string;
  part: string;
  /** In the coordinates of the files. */
  place: Vector;
  /** Of the face there, towards the viewer; of lines and dots the way to the viewer. */
  normal: Vector;
  value: number | null;
  /** Of the part; null on lines and dots. */
  cell: number | null;
}

/** A place on the picture, as fractions from its top left, and the picture's size in pixels. */
export interface PlaceOnPicture {
  x: number;
  y: number;
  width: number;
  height: number;
}

interface Hit {
  /** Way from the camera along the ray. */
  depth: number;
  normal: Vector | null;
  value: number | null;
  cell: number | null;
}

/** Lines and dots lie on surfaces: from so much nearer, as a share of the way, they win. */
const ON_TOP = 2e-3;

/**
 * What is nearest to the camera under a place of the picture; null for the backdrop. Nothing is drawn for it.
 *
 * @param origin of the run, to which the positions of marks are relative
 * @param lineWidth width of thin lines on the picture, in its pixels
 */
export async function pick(
  shown: readonly Pickable[],
  camera: Camera,
  origin: Vector,
  at: PlaceOnPicture,
  lineWidth: number,
): Promise<Picked | null> {
  const { from, along } = rayThrough(camera, at.x, at.y, at.width / at.height);
  const start = subtract(from, origin);
  const near = new Nearby(camera, origin, at);
  let best: (Hit & { layer: string; part: string }) | null = null;
  for (const { layer, part, marks, values, inside, hides } of shown)
    for (const [i, mark] of marks.entries()) {
      let hit: Hit | null = null;
      const seen: Seen = { values: values[i], hides };
      if (mark.kind === 'surface') hit = await onSurface(mark, seen, start, along, inside);
      else if (mark.kind === 'line') hit = near.onLines(mark, seen, 1.5 * lineWidth + 1);
      else if (mark.kind === 'dot') hit = near.onDots(mark, seen, 1.5 * lineWidth + 1);
      else if (mark.kind === 'sphere') hit = onSpheres(mark, seen, start, along, near);
      if (hit && (!best || hit.depth < best.depth)) best = { ...hit, layer, part };
    }
  if (!best) return null;
  const { layer, part, depth, normal, value, cell } = best;
  const towards = times(along, -1);
  return { layer, part, place: add(from, times(along, depth)), normal: normal ?? towards, value, cell };
}

/** The values of a mark, and which of them are not shown. */
interface Seen {
  values: Float32Array | null;
  hides: Pickable['hides'];
}

const isHidden = ({ values, hides }: Seen, value: number): boolean =>
  values !== null && hides !== null && hides(value);

async function onSurface(
  mark: SurfaceMark,
  seen: Seen,
  from: Vector,
  along: Vector,
  inside: boolean,
): Promise<Hit | null> {
  const tree = await searchTree(mark);
  const ray = new Ray(new Vector3(...from), new Vector3(...along));
  const side = inside ? BackSide : DoubleSide;
  const first = tree.raycastFirst(ray, side);
  // Only where something may be hidden one has to look at all that lies along the ray.
  const all =
    seen.values && seen.hides ? tree.raycast(ray, side).sort((a, b) => a.distance - b.distance) : [first];
  for (const hit of all) {
    const found = hit && onFace(mark, seen, hit, along);
    if (found) return found;
  }
  return null;
}

/** What is met on a face; null where it is hidden there. */
function onFace(
  mark: SurfaceMark,
  seen: Seen,
  hit: { faceIndex?: number | null; point: Vector3; distance: number },
  along: Vector,
): Hit | null {
  if (hit.faceIndex === undefined || hit.faceIndex === null) return null;
  const corners = mark.triangles.subarray(3 * hit.faceIndex, 3 * hit.faceIndex + 3);
  const weights = sharesOf(mark.positions, corners, hit.point.toArray());
  const mixed = (data: Float32Array, width: number, k: number): number =>
    corners.reduce((sum, v, i) => sum + weights[i] * data[width * v + k], 0);
  const value = seen.values ? mixed(seen.values, 1, 0) : Number.NaN;
  if (isHidden(seen, value)) return null;
  const normal = [0, 1, 2].map((k) => mixed(mark.normals, 3, k)) as Vector;
  const length = Math.hypot(...normal) || 1;
  return {
    depth: hit.distance,
    normal: times(normal, (dot(normal, along) > 0 ? -1 : 1) / length),
    value: Number.isFinite(value) ? value : null,
    cell: mark.cells[hit.faceIndex],
  };
}

function onSpheres(
  { positions: p, spheres, radius: alike, radii, onPicture }: SphereMark,
  seen: Seen,
  from: Vector,
  along: Vector,
  near: Nearby,
): Hit | null {
  let found: Hit | null = null;
  for (const v of spheres) {
    const to: Vector = [p[3 * v] - from[0], p[3 * v + 1] - from[1], p[3 * v + 2] - from[2]];
    const way = dot(to, along);
    const own = radii ? radii[v] : alike;
    const radius = onPicture ? own * near.pictureHeight(p, v) : own;
    const inside = radius ** 2 - (dot(to, to) - way * way);
    const depth = way - Math.sqrt(Math.max(0, inside));
    if (inside < 0 || radius <= 0 || depth <= 0 || (found && found.depth <= depth)) continue;
    const value = seen.values ? seen.values[v] : Number.NaN;
    if (isHidden(seen, value)) continue;
    const normal = times(subtract(times(along, depth), to), 1 / radius);
    found = { depth, normal, value: Number.isFinite(value) ? value : null, cell: null };
  }
  return found;
}

/** Barycentric coordinates of a place in a triangle. */
function sharesOf(positions: Float32Array, corners: Uint32Array, place: number[]): Vector {
  const [a, b, c] = Array.from(corners, (v) => [...positions.subarray(3 * v, 3 * v + 3)] as Vector);
  const [u, v, w] = [subtract(b, a), subtract(c, a), subtract(place as Vector, a)];
  const [uu, uv, vv, wu, wv] = [dot(u, u), dot(u, v), dot(v, v), dot(w, u), dot(w, v)];
  const area = uu * vv - uv * uv || 1;
  const t = (vv * wu - uv * wv) / area;
  const s = (uu * wv - uv * wu) / area;
  return [1 - t - s, t, s];
}

/** What lies within a few pixels of a place on the picture. */
class Nearby {
  private readonly eye: Vector;
  private readonly right: Vector;
  private readonly up: Vector;
  private readonly back: Vector;
  /** Where on the screen the place is, in pixels from the middle. */
  private readonly x: number;
  private readonly y: number;
  private readonly scale: number;
  private readonly perspective: boolean;
  /** Height of the picture, by the depth where there is perspective. */
  private readonly tall: number;
  /** Of the vertex looked at last. */
  private px = 0;
  private py = 0;
  private depth = 0;

  constructor(camera: Camera, origin: Vector, at: PlaceOnPicture) {
    const { right, up, back } = cameraAxes(camera);
    this.eye = subtract(camera.position, origin);
    [this.right, this.up, this.back] = [right, up, back];
    const [across, rise] = lensShift(camera);
    this.x = (at.x - 0.5) * at.width + across * at.height;
    this.y = (0.5 - at.y + rise) * at.height;
    this.perspective = camera.projection === 'perspective';
    this.tall = 2 * halfHeight(camera, 1);
    this.scale = at.height / this.tall;
  }

  onLines(mark: LineMark, seen: Seen, reach: number): Hit | null {
    const { segments, positions } = mark;
    let found: Hit | null = null;
    for (let i = 0; i < segments.length; i += 2) {
      this.look(positions, segments[i]);
      const [ax, ay, ad] = [this.px, this.py, this.depth];
      this.look(positions, segments[i + 1]);
      if (ad <= 0 || this.depth <= 0) continue;
      const [dx, dy] = [this.px - ax, this.py - ay];
      const length = dx * dx + dy * dy;
      const t = length > 0 ? Math.min(1, Math.max(0, ((this.x - ax) * dx + (this.y - ay) * dy) / length)) : 0;
      if (Math.hypot(ax + t * dx - this.x, ay + t * dy - this.y) > reach) continue;
      const depth = ad + t * (this.depth - ad);
      if (found && found.depth <= this.along(depth)) continue;
      const { values } = seen;
      const [a, b] = values ? [values[segments[i]], values[segments[i + 1]]] : [Number.NaN, Number.NaN];
      if (!isHidden(seen, a + t * (b - a))) found = this.hit(depth, a + t * (b - a));
    }
    return found;
  }

  onDots({ dots, positions }: DotMark, seen: Seen, reach: number): Hit | null {
    let found: Hit | null = null;
    for (const v of dots) {
      this.look(positions, v);
      if (this.depth <= 0 || Math.hypot(this.px - this.x, this.py - this.y) > reach) continue;
      const value = seen.values ? seen.values[v] : Number.NaN;
      if (isHidden(seen, value)) continue;
      if (!found || this.along(this.depth) < found.depth) found = this.hit(this.depth, value);
    }
    return found;
  }

  /** How much of the model the height of the picture is where a vertex stands. */
  pictureHeight(p: Float32Array, v: number): number {
    this.look(p, v);
    return this.tall * (this.perspective ? this.depth : 1);
  }

  private hit(depth: number, value: number): Hit {
    return {
      depth: this.along(depth),
      normal: null,
      value: Number.isFinite(value) ? value : null,
      cell: null,
    };
  }

  /** From the depth before the camera to the way along the ray, a little shorter so that what lies on top wins. */
  private along(depth: number): number {
    const way = this.perspective ? depth * Math.hypot(1, this.x / this.scale, this.y / this.scale) : depth;
    return way * (1 - ON_TOP);
  }

  private look(p: Float32Array, v: number): void {
    const { eye, right, up, back, scale } = this;
    const x = p[3 * v] - eye[0];
    const y = p[3 * v + 1] - eye[1];
    const z = p[3 * v + 2] - eye[2];
    this.depth = -(x * back[0] + y * back[1] + z * back[2]);
    const s = this.perspective ? scale / this.depth : scale;
    this.px = (x * right[0] + y * right[1] + z * right[2]) * s;
    this.py = (x * up[0] + y * up[1] + z * up[2]) * s;
  }
}

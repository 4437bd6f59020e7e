import { rgbToHex } from '#core/colour/cielab.ts';
import { type CompiledScale, MISSING } from '#core/colour/compiled-scale.ts';
import type {
  BodyToWrite,
  CameraToWrite,
  MaterialToWrite,
  ScaleToWrite,
  SceneToWrite,
} from '#core/formats/surfaces/scene-to-write.ts';
import { sayNumber } from '#core/language/sentence.ts';
import { type FinishOf, valuesOf } from '#core/light/own-finish.ts';
import type { BodyPicture } from '#core/model/body.ts';
import type { Mark, SurfaceMark } from '#core/model/mark.ts';
import { boundsCentre, boundsDiagonal } from '#core/model/mesh.ts';
import type { RunDescription } from '#core/model/run.ts';
import { cross, dot, subtract, type Vector } from '#core/model/vectors.ts';
import { cameraAxes, halfHeight } from '#core/scene/camera.ts';
import type { Camera, Layer, Scene } from '#core/scene/document.ts';
import { rigOf } from '#core/scene/light-rigs/registry.ts';
import { metreOf } from '#core/scene/scenery/scenery-kind.ts';
import { settleScale } from '#core/scene/settle-scale.ts';
import { shownScales } from '#core/scene/shown-scales.ts';
import { spreadOfScale } from '#core/scene/spread-of-scale.ts';
import { isMirroring } from '#core/scene/things/floor.ts';
import { ownColour } from '#core/scene/things/part-look.ts';
import { upOf } from '#core/scene/things/upright.ts';
import { isWiped } from '#core/scene/things/wipe.ts';
import type { Frame, FramePart } from '#engine/scene-source.ts';
import { rigFrame, shiningLights } from '../lit-by.ts';
import { PLANE_CORNERS } from '../plane-corners.ts';
import { standingParts } from '../standing.ts';
import { legendTitle } from '../words/paint-words.ts';
import { type ColourPicture, colourPicture } from './colour-picture.ts';
import { type CopiedBodies, copiedArrows, copiedSpheres, MOST_COPIES } from './copied-bodies.ts';

export interface BodiesOptions {
  /** Whether values are shown in exactly the colours of their legend, whatever the light. */
  exact: boolean;
  /** Width over height of the picture. */
  aspect: number;
  /** How long each step is shown, in seconds. */
  pace: number;
  /** Turns a picture that lies on a body into a file. */
  pack(picture: ImageBitmap): Promise<BodyPicture>;
}

type ValuedBody = BodyToWrite & { values: NonNullable<BodyToWrite['values']> };

/** Light of the first of several lights, in lux: viewers show a white body in it as bright as this one does. */
const LUX = 3;

/** A scene as bodies for other programs, frame by frame. */
export class SceneBodies {
  private readonly bodies: BodyToWrite[] = [];
  private readonly materials: MaterialToWrite[] = [];
  private readonly materialOf = new Map<string, number>();
  private readonly pictures: BodyPicture[] = [];
  private readonly colours = new Map<CompiledScale, { index: number; colours: ColourPicture }>();
  private readonly scales: ScaleToWrite[] = [];
  private readonly scaleOf = new Map<string, Map<CompiledScale, number>>();
  private readonly bitmaps = new Map<ImageBitmap, number>();
  private readonly steps: string[] = [];
  private readonly leftOut = new Set<string>();
  private first: Frame | null = null;

  constructor(
    private readonly scene: Scene,
    private readonly options: BodiesOptions,
  ) {
    if (isMirroring(scene.floor) || ['plain', 'tiles'].includes(scene.floor.kind))
      this.leftOut.add('the floor');
    if (isWiped(scene)) this.leftOut.add('the wipe: what lies before and behind it is there together');
  }

  /** What was taken over up to now. */
  get soFar(): Pick<SceneToWrite, 'bodies' | 'scales'> {
    return { bodies: this.bodies, scales: this.scales };
  }

  /** What could not be written, in words. */
  get notes(): string[] {
    return [...this.leftOut];
  }

  /**
   * Takes over what a frame shows.
   *
   * @param several whether other steps follow or came before
   */
  async add(frame: Frame, name: string, several: boolean): Promise<void> {
    const { scene } = this;
    const step = several ? this.steps.length : null;
    this.steps.push(name);
    const standing = standingParts(scene, frame);
    // Once for each scale, however many parts use it.
    const settled = new Map(
      shownScales(scene).map((scale) => [
        scale.id,
        settleScale(scale, frame.run, frame.step, spreadOfScale(scale, scene, frame.parts)),
      ]),
    );
    for (const part of frame.parts) {
      const layer = scene.layers.find((l) => l.id === part.layer);
      if (layer) await this.part(part, layer, frame, step, settled);
    }
    // What stands beside the results is there at every step.
    if (this.first === null)
      for (const part of standing.parts)
        await this.part(part, standing.layers.find((l) => l.id === part.layer)!, frame, null, settled);
    this.first ??= frame;
  }

  /** Adds a picture on a plane, in exactly its colours. */
  addPlane(name: string, picture: BodyPicture, corners: readonly Vector[]): void {
    this.pictures.push(picture);
    const material = this.material({
      ...plain,
      name,
      colour: '#ffffff',
      picture: this.pictures.length - 1,
      unlit: true,
      blended: true,
    });
    this.bodies.push({
      name,
      kind: 'triangles',
      positions: Float32Array.from(corners.flat()),
      normals: null,
      elements: Uint32Array.of(0, 1, 2, 0, 2, 3),
      places: PLANE_CORNERS,
      material,
      values: null,
      step: null,
    });
  }

  finish(): SceneToWrite {
    const { scene, options, first } = this;
    if (!first) throw new Error('Nothing was added.');
    const up = upOf(scene.upright);
    const { run, bounds } = first;
    const rig = rigOf(scene.light);
    const lights = shiningLights(rig, scene.light, rigFrame(rig, scene.light, scene.camera, up), null);
    const whole = lights.reduce((sum, l) => sum + l.share, 0);
    const views = [{ name: 'as on the stage', camera: scene.camera }, ...scene.cameras];
    return {
      name: scene.name,
      metres: 1 / metreOf(run),
      up,
      bodies: this.bodies,
      materials: this.materials,
      pictures: this.pictures,
      scales: this.scales,
      cameras: views.map(({ name, camera }) =>
        cameraToWrite(name, camera, run.origin, bounds, options.aspect),
      ),
      lights: lights.map(({ to, share, colour }, i) => ({
        name: `light ${i + 1}`,
        to,
        colour,
        strength: (LUX * scene.light.strength * share) / whole,
      })),
      steps: this.steps,
      pace: options.pace,
    };
  }

  private async part(
    part: FramePart,
    layer: Layer,
    frame: Frame,
    step: number | null,
    settled: ReadonlyMap<string, CompiledScale>,
  ): Promise<void> {
    const { scene } = this;
    if (!layer.visible || layer.opacity === 0) return;
    const look = scene.parts[part.part];
    const own = ownColour(look, layer);
    const finish = look?.finish ?? layer.finish;
    const opacity = layer.opacity * (look?.opacity ?? 1);
    const compiled =
      layer.colour.kind === 'field' && own === null ? settled.get(layer.colour.scale) : undefined;
    const colour =
      own ?? valuesOf(finish)?.colour ?? (layer.colour.kind === 'plain' ? layer.colour.colour : plain.colour);
    const picture = part.picture && (await this.pictureOf(part.picture));
    for (const [i, mark] of part.shape.marks.entries()) {
      const drawn = this.drawn(mark, frame);
      if (!drawn) continue;
      const name = part.part;
      const given = compiled ? part.values[i] : null;
      const { from, ...shape } = drawn;
      const inside = layer.sides === 'inside' && shape.kind === 'triangles' && shape.normals !== null;
      const base = { ...(inside ? turnedInside(shape) : shape), name, step, values: null };
      if (compiled && given) {
        const of = from ? Float32Array.from(from, (v) => given[v]) : given;
        const values = { of, scale: this.scaleIndex(layer, compiled, frame.run) };
        this.valued({ ...base, values }, compiled, finish, opacity, inside);
      } else {
        const laid = mark.kind === 'surface' && picture !== null ? placesOn(mark) : null;
        // A picture on a plane shows its own colours; one on a body takes the light with it.
        const onPlane = laid !== null && mark.kind === 'surface' && !mark.places;
        const material = this.material({
          ...materialOf(finish, onPlane ? '#ffffff' : colour, opacity),
          picture: laid && picture,
          unlit: onPlane,
          blended: onPlane,
          repeats: laid !== null && !onPlane,
          oneSided: inside,
        });
        this.put({ ...base, places: laid, material });
      }
      if (mark.kind === 'surface' && (look?.edges ?? layer.edges.shown) && mark.edges.length > 0) {
        const ofEdges = this.material({ ...plain, name: 'edges', colour: layer.edges.colour, unlit: true });
        this.put({
          ...base,
          name: `${name}, edges`,
          kind: 'lines',
          normals: null,
          elements: mark.edges,
          places: null,
          material: ofEdges,
        });
      }
    }
  }

  /** A mark as vertices and elements; null for what only pictures can show. */
  private drawn(
    mark: Mark,
    frame: Frame,
  ):
    | (Pick<BodyToWrite, 'kind' | 'positions' | 'normals' | 'elements'> & { from: Uint32Array | null })
    | null {
    const body = ({ positions, normals, triangles, from }: CopiedBodies) =>
      ({ kind: 'triangles', positions, normals, elements: triangles, from }) as const;
    switch (mark.kind) {
      case 'surface':
        return {
          kind: 'triangles',
          positions: mark.positions,
          normals: mark.normals,
          elements: mark.triangles,
          from: null,
        };
      case 'line':
        return {
          kind: 'lines',
          positions: mark.positions,
          normals: null,
          elements: mark.segments,
          from: null,
        };
      case 'dot':
        return { kind: 'points', positions: mark.positions, normals: null, elements: mark.dots, from: null };
      case 'sphere':
        this.tellThinned(mark.spheres.length);
        return body(copiedSpheres(mark, pictureHeight(this.scene, frame)));
      case 'arrow':
        this.tellThinned(mark.arrows.length);
        return body(copiedArrows(mark, pictureHeight(this.scene, frame)));
      case 'text':
        this.leftOut.add('texts along lines');
        return null;
      case 'volume':
        this.leftOut.add('clouds');
        return null;
    }
  }

  private tellThinned(count: number): void {
    if (count > MOST_COPIES) this.leftOut.add(`all but ${MOST_COPIES} of ${count} balls or arrows`);
  }

  private async pictureOf(bitmap: ImageBitmap): Promise<number> {
    let index = this.bitmaps.get(bitmap);
    if (index === undefined) {
      index = this.pictures.length;
      this.pictures.push(await this.options.pack(bitmap));
      this.bitmaps.set(bitmap, index);
    }
    return index;
  }

  private coloursOf(scale: CompiledScale): { index: number; colours: ColourPicture } {
    let known = this.colours.get(scale);
    if (!known) {
      const colours = colourPicture(scale);
      const index = this.pictures.push(colours.picture) - 1;
      this.colours.set(scale, (known = { index, colours }));
    }
    return known;
  }

  /** Where the scale of a layer stands among those that are written, as it is settled. */
  private scaleIndex({ colour }: Layer, compiled: CompiledScale, run: RunDescription): number {
    const scale = this.scene.scales.find((s) => colour.kind === 'field' && s.id === colour.scale)!;
    const settled = this.scaleOf.get(scale.id) ?? new Map<CompiledScale, number>();
    this.scaleOf.set(scale.id, settled);
    let index = settled.get(compiled);
    if (index === undefined) {
      const { index: picture, colours } = this.coloursOf(compiled);
      const { factor, shift } = compiled.colours.unit ?? { factor: 1, shift: 0 };
      const [from, to] = colours.ends;
      index =
        this.scales.push({
          ...legendTitle(scale, run),
          factor,
          shift,
          picture,
          mixed: colours.mixed,
          from,
          to,
          line: colours.line,
          ticks: compiled.ticks().map((value) => ({
            at: compiled.fraction(value),
            says:
              compiled.categories?.find((c) => c.value === value)?.name ??
              sayNumber(compiled.shownNumber(value)),
          })),
        }) - 1;
      settled.set(compiled, index);
    }
    return index;
  }

  /** What shows values: what has none apart, and what its scale hides left out. */
  private valued(
    base: Omit<ValuedBody, 'places' | 'material'>,
    scale: CompiledScale,
    finish: FinishOf,
    opacity: number,
    oneSided: boolean,
  ): void {
    const { of: values } = base.values;
    const { colours, index } = this.coloursOf(scale);
    const places = new Float32Array(2 * values.length);
    const without = new Uint8Array(values.length);
    for (let v = 0; v < values.length; v++) {
      const across = colours.across(values[v]);
      without[v] = across === null ? 1 : 0;
      places[2 * v] = across ?? 0;
      places[2 * v + 1] = 0.5;
    }
    const size = { triangles: 3, lines: 2, points: 1 }[base.kind];
    const corners = (e: number): Uint32Array => base.elements.subarray(size * e, size * e + size);
    const shown: number[] = [];
    const missing: number[] = [];
    for (let e = 0; e < base.elements.length / size; e++) {
      const own = corners(e);
      if (scale.mayHide && own.every((v) => scale.hides(values[v]))) continue;
      (own.some((v) => without[v] === 1) ? missing : shown).push(...own);
    }
    if (scale.mayHide) this.leftOut.add('what a scale hides within a face: it ends at the edges of faces');
    const look = {
      ...materialOf(finish, '#ffffff', opacity),
      metal: 0,
      clear: 0,
      coat: 0,
      glow: 0,
      oneSided,
    };
    const material = this.material({
      ...look,
      name: 'values',
      picture: index,
      mixed: colours.mixed,
      unlit: this.options.exact,
      blended: scale.isSeenThrough,
    });
    const whole = shown.length === base.elements.length;
    this.put({ ...base, elements: whole ? base.elements : Uint32Array.from(shown), places, material });
    const { missing: code = rgbToHex(MISSING) } = scale.colours;
    if (missing.length > 0 && code !== 'hidden') {
      const grey = this.material({
        ...look,
        name: 'no value',
        colour: code,
        picture: null,
        unlit: this.options.exact,
      });
      this.put({
        ...base,
        name: `${base.name}, no value`,
        elements: Uint32Array.from(missing),
        values: null,
        places: null,
        material: grey,
      });
    }
  }

  private put(body: BodyToWrite): void {
    if (body.elements.length > 0) this.bodies.push(body);
  }

  private material(material: MaterialToWrite): number {
    const key = JSON.stringify(material);
    let index = this.materialOf.get(key);
    if (index === undefined) {
      index = this.materials.push(material) - 1;
      this.materialOf.set(key, index);
    }
    return index;
  }
}

const plain: MaterialToWrite = {
  name: 'plain',
  colour: '#b3ada3',
  metal: 0,
  roughness: 0.8,
  opacity: 1,
  clear: 0,
  index: 1.5,
  coat: 0,
  glow: 0,
  picture: null,
  unlit: false,
  mixed: true,
  blended: false,
  repeats: false,
  oneSided: false,
};

/** A finish as a material others know; patterns within it are left to its mean look. */
function materialOf(finish: FinishOf, colour: string, opacity: number): MaterialToWrite {
  const values = valuesOf(finish);
  if (!values) return { ...plain, colour, opacity };
  const { name, metal, roughness, clear, index, coat, glow } = values;
  return { ...plain, name, colour, opacity, metal, roughness, clear, index, coat, glow };
}

/** By the triangles they were made of: steps that share those share these. */
const turned = new WeakMap<Uint32Array, Pick<BodyToWrite, 'normals' | 'elements'>>();

/** A surface that is seen from inside only: its triangles and normals look there. */
function turnedInside<B extends Pick<BodyToWrite, 'positions' | 'normals' | 'elements'>>(body: B): B {
  const { positions, elements } = body;
  const known = turned.get(elements);
  if (known) return { ...body, ...known };
  const normals = body.normals!.map((v) => -v);
  const out = elements.slice();
  const at = (of: Float32Array, v: number): Vector => [of[3 * v], of[3 * v + 1], of[3 * v + 2]];
  for (let t = 0; t < out.length; t += 3) {
    const [a, b, c] = out.subarray(t, t + 3);
    const own = at(positions, a);
    const face = cross(subtract(at(positions, b), own), subtract(at(positions, c), own));
    if (dot(face, at(normals, a)) < 0) [out[t + 1], out[t + 2]] = [c, b];
  }
  turned.set(elements, { normals, elements: out });
  return { ...body, normals, elements: out };
}

/** Where a picture lies on a surface: as its file says, or all over a plane. */
const placesOn = ({ places, positions }: SurfaceMark): Float32Array | null =>
  places ?? (positions.length === 12 ? PLANE_CORNERS : null);

/** Length of the height of the picture where the model stands. */
function pictureHeight({ camera }: Scene, { bounds }: Frame): number {
  const depth = dot(subtract(camera.position, boundsCentre(bounds)), cameraAxes(camera).back);
  return 2 * halfHeight(camera, Math.max(depth, 1e-9));
}

function cameraToWrite(
  name: string,
  camera: Camera,
  origin: Vector,
  bounds: Frame['bounds'],
  aspect: number,
): CameraToWrite {
  const { right, up, back } = cameraAxes(camera);
  const radius = boundsDiagonal(bounds) / 2 || 1;
  const depth = dot(subtract(camera.position, boundsCentre(bounds)), back);
  const far = Math.max(depth + 4 * radius, radius);
  return {
    name,
    position: subtract(camera.position, origin),
    right,
    up,
    back,
    lens:
      camera.projection === 'perspective'
        ? { openingDegrees: camera.fieldOfView }
        : { halfHeight: camera.height / 2 },
    aspect,
    near: Math.max(depth - 4 * radius, far / 5000),
    far,
  };
}

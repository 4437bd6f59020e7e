import {
  BufferAttribute,
  BufferGeometry,
  ClampToEdgeWrapping,
  DoubleSide,
  FrontSide,
  LinearFilter,
  LineBasicMaterial,
  LineSegments,
  type Material,
  Mesh,
  MeshBasicMaterial,
  MeshStandardMaterial,
  NearestFilter,
  Points,
  PointsMaterial,
  RepeatWrapping,
  SRGBColorSpace,
  Texture,
  type TypedArray,
} from 'three';
import type { MaterialToWrite, ScaleToWrite } from '#core/formats/surfaces/scene-to-write.ts';
import type { LivingBody } from '#core/report/living-figure.ts';
import type { CarriedFigure } from './carried-figure.ts';
import { valueMaterial } from './value-material.ts';

export type DrawnObject = Mesh | LineSegments | Points;

/** A body as it is drawn, with what it is of. */
export interface DrawnBody {
  body: LivingBody;
  /** By which its values are shown; null where it shows none. */
  scale: ScaleToWrite | null;
  material: MaterialToWrite;
  object: DrawnObject;
}

/** Bodies of a figure as three.js draws them; what several have in common is on the card once. */
export class FigureBodies {
  readonly drawn: DrawnBody[];
  private readonly attributes = new Map<TypedArray, BufferAttribute>();
  private readonly textures = new Map<string, Texture>();
  private readonly materials = new Map<string, Material>();

  /** @param dots pixels that a point is wide */
  constructor(
    private readonly carried: CarriedFigure,
    private readonly dots: number,
  ) {
    const { scene } = carried.figure;
    this.drawn = scene.bodies.map((body) => ({
      body,
      scale: body.values && scene.scales[body.values.scale],
      material: scene.materials[body.material],
      object: this.objectOf(body),
    }));
  }

  /** Shows what belongs to a moment, by its index. */
  show(moment: number): void {
    for (const { body, object } of this.drawn) object.visible = body.step === null || body.step === moment;
  }

  dispose(): void {
    for (const { object } of this.drawn) object.geometry.dispose();
    for (const material of this.materials.values()) material.dispose();
    for (const texture of this.textures.values()) texture.dispose();
  }

  private objectOf(body: LivingBody): DrawnObject {
    const geometry = this.geometryOf(body);
    const material = this.materialOf(body);
    switch (body.kind) {
      case 'triangles':
        return new Mesh(geometry, material);
      case 'lines':
        return new LineSegments(geometry, material);
      case 'points':
        return new Points(geometry, material);
    }
  }

  private geometryOf({ positions, normals, elements, values, places }: LivingBody): BufferGeometry {
    const geometry = new BufferGeometry();
    geometry.setIndex(this.attribute(elements, 1));
    geometry.setAttribute('position', this.attribute(positions, 3));
    if (normals) geometry.setAttribute('normal', this.attribute(normals, 3, true));
    if (values) geometry.setAttribute('value', this.attribute(values.of, 1));
    // Values lie by places of their own along their scale, and pictures by those that three.js knows.
    if (places) geometry.setAttribute(values ? 'place' : 'uv', this.attribute(places, 2));
    return geometry;
  }

  private attribute(array: TypedArray, size: number, normalized = false): BufferAttribute {
    let known = this.attributes.get(array);
    if (!known) this.attributes.set(array, (known = new BufferAttribute(array, size, normalized)));
    return known;
  }

  private materialOf({ kind, material, values, normals }: LivingBody): Material {
    const shaded = this.carried.figure.shaded && normals !== null;
    const key = `${kind} ${material} ${values?.scale} ${normals !== null}`;
    let known = this.materials.get(key);
    if (!known) {
      const { materials, scales } = this.carried.figure.scene;
      const look = materials[material];
      known = values
        ? valueMaterial(
            scales[values.scale],
            look,
            this.texture(scales[values.scale].picture, scales[values.scale].mixed, false),
            shaded,
            this.dots,
          )
        : this.plainMaterial(kind, look);
      this.materials.set(key, known);
    }
    return known;
  }

  private plainMaterial(kind: LivingBody['kind'], look: MaterialToWrite): Material {
    const { colour: color, opacity, unlit, roughness, metal, glow, picture, oneSided } = look;
    const map = picture === null ? null : this.texture(picture, look.mixed, true, look.repeats);
    const isClear = opacity < 1 || look.clear > 0 || look.blended;
    const base = { color, opacity: opacity * (1 - 0.75 * look.clear), transparent: isClear };
    if (kind === 'lines') return new LineBasicMaterial(base);
    if (kind === 'points') return new PointsMaterial({ ...base, size: this.dots, sizeAttenuation: false });
    const faces = {
      ...base,
      map,
      depthWrite: !isClear,
      side: oneSided ? FrontSide : DoubleSide,
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
    };
    if (unlit) return new MeshBasicMaterial(faces);
    return new MeshStandardMaterial({
      ...faces,
      roughness,
      metalness: metal,
      emissive: color,
      emissiveIntensity: glow,
    });
  }

  /** @param lit whether light falls on it: then its colours are taken for what they are */
  private texture(index: number, mixed: boolean, lit: boolean, repeats = false): Texture {
    const key = `${index} ${mixed} ${lit} ${repeats}`;
    let known = this.textures.get(key);
    if (!known) {
      known = new Texture(this.carried.pictures[index]);
      known.flipY = false;
      known.wrapS = known.wrapT = repeats ? RepeatWrapping : ClampToEdgeWrapping;
      known.minFilter = known.magFilter = mixed ? LinearFilter : NearestFilter;
      known.generateMipmaps = false;
      if (lit) known.colorSpace = SRGBColorSpace;
      known.needsUpdate = true;
      this.textures.set(key, known);
    }
    return known;
  }
}

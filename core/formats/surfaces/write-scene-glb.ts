import {
  type Accessor,
  type Buffer,
  Document,
  type Material,
  type mat4,
  type Node,
  type Primitive,
  type Scene,
  type Texture,
  WebIO,
} from '@gltf-transform/core';
import {
  EXTMeshoptCompression,
  KHRLightsPunctual,
  KHRMaterialsClearcoat,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsTransmission,
  KHRMaterialsUnlit,
} from '@gltf-transform/extensions';
import { MeshoptEncoder } from 'meshoptimizer/encoder';
import { linearOf } from '../../model/srgb.ts';
import { cross, times, unit, type Vector } from '../../model/vectors.ts';
import { gltfRows } from './gltf-axes.ts';
import type {
  BodyToWrite,
  CameraToWrite,
  LightToWrite,
  MaterialToWrite,
  SceneToWrite,
} from './scene-to-write.ts';

const extensions = [
  EXTMeshoptCompression,
  KHRLightsPunctual,
  KHRMaterialsClearcoat,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsTransmission,
  KHRMaterialsUnlit,
];

/**
 * Writes a scene as GLB (Khronos, glTF 2.0): in metres with +y up, values as places on a picture of their colours, steps as
 * nodes that an animation shows one after the other.
 *
 * @param packed whether meshes are packed by meshopt, which viewers must know
 */
export async function writeSceneGlb(given: SceneToWrite, packed: boolean): Promise<Uint8Array<ArrayBuffer>> {
  const document = new Document();
  const made = new GlbScene(document, given);
  made.write();
  const io = new WebIO().registerExtensions(extensions);
  if (packed) {
    await MeshoptEncoder.ready;
    io.registerDependencies({ 'meshopt.encoder': MeshoptEncoder });
    document
      .createExtension(EXTMeshoptCompression)
      .setRequired(true)
      .setEncoderOptions({ method: EXTMeshoptCompression.EncoderMethod.QUANTIZE });
  }
  return (await io.writeBinary(document)) as Uint8Array<ArrayBuffer>;
}

/** Modes of primitives by the standard (section 3.7.2.1). */
const modes = { triangles: 4, lines: 1, points: 0 } as const;

class GlbScene {
  private readonly buffer: Buffer;
  private readonly scene: Scene;
  /** Arrays that several steps share are written once. */
  private readonly accessors = new Map<Float32Array | Uint32Array, Accessor>();
  /** From the axes of the scene to right, up and back of glTF. */
  private readonly rows: [Vector, Vector, Vector];

  constructor(
    private readonly document: Document,
    private readonly given: SceneToWrite,
  ) {
    this.buffer = document.createBuffer();
    this.scene = document.createScene(given.name);
    document.getRoot().setDefaultScene(this.scene);
    this.rows = gltfRows(given.up);
  }

  write(): void {
    const { given, document } = this;
    const pictures = given.pictures.map(({ type, bytes }, i) =>
      document
        .createTexture(`picture ${i + 1}`)
        .setMimeType(type)
        .setImage(bytes),
    );
    const materials = given.materials.map((material) => this.material(material, pictures));
    const root = document.createNode(given.name).setMatrix(this.rootMatrix());
    this.scene.addChild(root);
    const steps = given.steps.map((name) => document.createNode(name));
    for (const body of given.bodies) {
      const node = this.body(body, materials[body.material]);
      (body.step === null || steps.length < 2 ? root : steps[body.step]).addChild(node);
    }
    if (steps.length > 1) {
      for (const step of steps) root.addChild(step);
      this.showInTurn(steps);
    }
    for (const camera of given.cameras) this.camera(camera);
    for (const light of given.lights) this.light(light);
  }

  /** A direction of the scene in the axes of glTF. */
  private turned = (v: Vector): Vector =>
    this.rows.map((row) => row[0] * v[0] + row[1] * v[1] + row[2] * v[2]) as Vector;

  private rootMatrix(): mat4 {
    const { metres } = this.given;
    const columns = [0, 1, 2].map((k) => this.rows.map((row) => row[k] * metres));
    return [...columns.flatMap((c) => [...c, 0]), 0, 0, 0, 1] as unknown as mat4;
  }

  private accessor(data: Float32Array | Uint32Array, type: 'SCALAR' | 'VEC2' | 'VEC3'): Accessor {
    let found = this.accessors.get(data);
    if (!found) {
      found = this.document
        .createAccessor()
        .setType(type)
        .setArray(data as Float32Array<ArrayBuffer>)
        .setBuffer(this.buffer);
      this.accessors.set(data, found);
    }
    return found;
  }

  private body({ name, kind, positions, normals, elements, places }: BodyToWrite, material: Material): Node {
    const primitive: Primitive = this.document
      .createPrimitive()
      .setMode(modes[kind])
      .setAttribute('POSITION', this.accessor(positions, 'VEC3'))
      .setIndices(this.accessor(elements, 'SCALAR'))
      .setMaterial(material);
    if (normals) primitive.setAttribute('NORMAL', this.accessor(normals, 'VEC3'));
    if (places) primitive.setAttribute('TEXCOORD_0', this.accessor(places, 'VEC2'));
    return this.document.createNode(name).setMesh(this.document.createMesh(name).addPrimitive(primitive));
  }

  private material(given: MaterialToWrite, pictures: readonly Texture[]): Material {
    const { document } = this;
    const [r, g, b] = linearOf(given.colour);
    const made = document
      .createMaterial(given.name)
      .setBaseColorFactor([r, g, b, given.opacity])
      .setMetallicFactor(given.metal)
      .setRoughnessFactor(given.roughness)
      .setDoubleSided(!given.oneSided);
    if (given.opacity < 1 || given.blended) made.setAlphaMode('BLEND');
    if (given.picture !== null) {
      made.setBaseColorTexture(pictures[given.picture]);
      const info = made.getBaseColorTextureInfo()!;
      const filter = given.mixed ? 9729 : 9728;
      // Beyond the ends of a scale lies what its ends show.
      const wrap = given.repeats ? 10497 : 33071;
      info.setWrapS(wrap).setWrapT(wrap).setMagFilter(filter).setMinFilter(filter);
    }
    if (given.unlit) {
      made.setExtension('KHR_materials_unlit', document.createExtension(KHRMaterialsUnlit).createUnlit());
      return made;
    }
    if (given.clear > 0) {
      const transmission = document.createExtension(KHRMaterialsTransmission).createTransmission();
      made.setExtension('KHR_materials_transmission', transmission.setTransmissionFactor(given.clear));
    }
    if (given.index !== 1.5)
      made.setExtension(
        'KHR_materials_ior',
        document.createExtension(KHRMaterialsIOR).createIOR().setIOR(given.index),
      );
    if (given.coat > 0) {
      const coat = document.createExtension(KHRMaterialsClearcoat).createClearcoat();
      made.setExtension(
        'KHR_materials_clearcoat',
        coat.setClearcoatFactor(given.coat).setClearcoatRoughnessFactor(0.1),
      );
    }
    if (given.glow > 0) {
      made.setEmissiveFactor([r, g, b]);
      const strength = document.createExtension(KHRMaterialsEmissiveStrength).createEmissiveStrength();
      made.setExtension('KHR_materials_emissive_strength', strength.setEmissiveStrength(given.glow));
    }
    return made;
  }

  /** Scales of zero and one, which every viewer that plays animations understands, show one step after the other. */
  private showInTurn(steps: readonly Node[]): void {
    const { document, given } = this;
    const animation = document.createAnimation('steps');
    const moments = Float32Array.from({ length: steps.length + 1 }, (_, i) => i * given.pace);
    const input = this.accessor(moments, 'SCALAR');
    for (const [n, step] of steps.entries()) {
      const shown = Float32Array.from({ length: 3 * (steps.length + 1) }, (_, i) =>
        Math.min(Math.floor(i / 3), steps.length - 1) === n ? 1 : 0,
      );
      const sampler = document
        .createAnimationSampler()
        .setInterpolation('STEP')
        .setInput(input)
        .setOutput(this.accessor(shown, 'VEC3'));
      const channel = document
        .createAnimationChannel()
        .setTargetNode(step)
        .setTargetPath('scale')
        .setSampler(sampler);
      animation.addSampler(sampler).addChannel(channel);
      // What does not play shows the last step, as the scene does that was given out.
      if (n < steps.length - 1) step.setScale([0, 0, 0]);
    }
  }

  /** A node with axes of the scene, without its scale: cameras and lights must have none. */
  private placed(name: string, at: Vector, axes: readonly [Vector, Vector, Vector]): Node {
    const columns = axes.map(this.turned);
    const place = times(this.turned(at), this.given.metres);
    const matrix = [...columns.flatMap((c) => [...c, 0]), ...place, 1] as unknown as mat4;
    const node = this.document.createNode(name).setMatrix(matrix);
    this.scene.addChild(node);
    return node;
  }

  private camera({ name, position, right, up, back, lens, aspect, near, far }: CameraToWrite): void {
    const { metres } = this.given;
    const camera = this.document
      .createCamera(name)
      .setZNear(near * metres)
      .setZFar(far * metres);
    if ('openingDegrees' in lens)
      camera
        .setType('perspective')
        .setYFov((lens.openingDegrees * Math.PI) / 180)
        .setAspectRatio(aspect);
    else
      camera
        .setType('orthographic')
        .setYMag(lens.halfHeight * metres)
        .setXMag(lens.halfHeight * metres * aspect);
    this.placed(name, position, [right, up, back]).setCamera(camera);
  }

  private light({ name, to, colour, strength }: LightToWrite): void {
    const light = this.document
      .createExtension(KHRLightsPunctual)
      .createLight(name)
      .setType('directional')
      .setColor(colour)
      .setIntensity(strength);
    // Light goes along -z of its node.
    const helper: Vector = Math.abs(to[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
    const across = unit(cross(helper, to));
    this.placed(name, [0, 0, 0], [across, cross(to, across), to]).setExtension('KHR_lights_punctual', light);
  }
}

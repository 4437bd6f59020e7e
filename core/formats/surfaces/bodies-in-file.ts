import type { Material, Node, Primitive, Texture } from '@gltf-transform/core';
import type { Clearcoat, EmissiveStrength, IOR, Transmission } from '@gltf-transform/extensions';
import type { Body, BodyFile, BodyMaterial, BodyPicture } from '../../model/body.ts';
import { ReadError } from '../../model/read-error.ts';
import { hexOfLinear } from '../../model/srgb.ts';
import { memorySource } from '../bytes/byte-source.ts';
import { trianglesOf } from '../cells/triangles.ts';
import { Findings } from '../door/findings.ts';
import type { FileFormat, OpenedRun } from '../format.ts';
import { portableTools } from '../portable-tools.ts';
import {
  looksLikeGltf,
  type Matrix,
  moved,
  numbersOf,
  readGltfDocument,
  trianglesOfPrimitive,
} from './gltf-document.ts';
import { obj } from './obj.ts';
import { ply } from './ply.ts';
import { stl } from './stl.ts';

/** Formats of bodies without materials. */
const plain: readonly FileFormat[] = [stl, obj, ply];

/**
 * Reads a file as bodies to stand beside results: with their materials and pictures where it has such.
 *
 * @param bytes of an STL, OBJ, PLY, glTF or GLB file; glTF with everything in the one file
 * @throws ReadError when it is damaged, of another kind, or holds no triangles
 */
export async function readBodies(bytes: Uint8Array, name: string): Promise<BodyFile> {
  const head = bytes.subarray(0, 65536);
  const file = looksLikeGltf(head) ? await readGltf(bytes) : await readPlain(bytes, head, name);
  const bodies = file.bodies.filter((b) => b.triangles.length > 0);
  if (bodies.length === 0)
    throw new ReadError('the file holds no triangles', name, 'Write it again with its surfaces.');
  for (const body of bodies) {
    if (!body.points.every(Number.isFinite))
      throw new ReadError(
        `"${body.name}" has coordinates that are no numbers`,
        name,
        'Write the file again; it may be damaged.',
      );
    const count = body.points.length / 3;
    if (body.triangles.some((p) => p >= count))
      throw new ReadError(
        `"${body.name}" has triangles of points that are not there`,
        name,
        'Write the file again; it may be damaged.',
      );
  }
  return { ...file, bodies };
}

async function readPlain(bytes: Uint8Array, head: Uint8Array, name: string): Promise<BodyFile> {
  const format = plain.find((f) => f.detect(head, name));
  if (!format)
    throw new ReadError(
      'this is no file of bodies that is understood here',
      name,
      'Choose an STL, OBJ, PLY, glTF or GLB file.',
    );
  const opened = (await format.open(memorySource(bytes), { ...portableTools, name })) as OpenedRun;
  const bodies = opened.parts.flatMap((part, i): Body[] => {
    const mesh = part.at(0)?.readMesh();
    if (!mesh) return [];
    return [
      {
        name: part.name ?? `body ${i + 1}`,
        points: Float32Array.from(mesh.points),
        triangles: Uint32Array.from(trianglesOf(mesh).corners),
        normals: null,
        places: null,
        material: null,
      },
    ];
  });
  return { bodies, pictures: [], lengthUnit: null, up: null, notes: [...opened.findings.list] };
}

async function readGltf(bytes: Uint8Array): Promise<BodyFile> {
  const { document } = await readGltfDocument(bytes, () => null);
  const findings = new Findings();
  const root = document.getRoot();
  const pictures = new Pictures(findings);
  // The scene the file opens with; where it has none, all that is in it.
  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  const bodies: Body[] = [];
  const take = (node: Node): void => void bodies.push(...bodiesOf(node, pictures, findings));
  if (scene) scene.traverse(take);
  else for (const node of root.listNodes()) take(node);
  if (root.listAnimations().length > 0) findings.add('its movements are left out');
  return { bodies, pictures: pictures.list, lengthUnit: 'm', up: 'y', notes: [...findings.list] };
}

/** Pictures of the surfaces that are shown, each once. */
class Pictures {
  readonly list: BodyPicture[] = [];
  private readonly known = new Map<Texture, number>();

  constructor(private readonly findings: Findings) {}

  indexOf(texture: Texture | null): number | null {
    const image = texture?.getImage();
    if (!texture || !image) return null;
    if (image.length === 0) {
      this.findings.add('pictures beside the file are left out: write it as GLB, with all in one file');
      return null;
    }
    const found = this.known.get(texture);
    if (found !== undefined) return found;
    this.list.push({ type: texture.getMimeType(), bytes: Uint8Array.from(image) });
    this.known.set(texture, this.list.length - 1);
    return this.list.length - 1;
  }
}

function bodiesOf(node: Node, pictures: Pictures, findings: Findings): Body[] {
  const mesh = node.getMesh();
  if (!mesh) return [];
  if (node.getSkin()) findings.add('what bends with a skeleton stands as it was drawn');
  const matrix = node.getWorldMatrix();
  return mesh.listPrimitives().flatMap((primitive, i): Body[] => {
    const position = primitive.getAttribute('POSITION');
    const triangles = position && trianglesOfPrimitive(primitive);
    if (!position || !triangles) {
      findings.add('lines and points are left out');
      return [];
    }
    if (primitive.getAttribute('COLOR_0')) findings.add('colours of single points are left out');
    const name = node.getName() || mesh.getName() || 'body';
    const { material, channel } = materialOf(primitive.getMaterial(), pictures, findings);
    const places = numbersOf(primitive, `TEXCOORD_${channel}`);
    if (material && material.picture !== null && !places) material.picture = null;
    return [
      {
        name: i > 0 ? `${name} ${i + 1}` : name,
        points: moved(numbersOf(primitive, 'POSITION')!, matrix),
        triangles: isMirrored(matrix) ? turnedAround(triangles) : triangles,
        normals: normalsOf(primitive, matrix),
        places,
        material,
      },
    ];
  });
}

/** The cofactors of the turning part of a matrix: they turn normals, up to their length. */
function cofactors(m: Matrix): number[] {
  const a = (r: number, c: number): number => m[4 * c + r];
  const out: number[] = [];
  for (let c = 0; c < 3; c++)
    for (let r = 0; r < 3; r++) {
      const [r1, r2, c1, c2] = [(r + 1) % 3, (r + 2) % 3, (c + 1) % 3, (c + 2) % 3];
      out.push(a(r1, c1) * a(r2, c2) - a(r1, c2) * a(r2, c1));
    }
  return out;
}

const isMirrored = (m: Matrix): boolean => {
  const c = cofactors(m);
  return m[0] * c[0] + m[1] * c[1] + m[2] * c[2] < 0;
};

function turnedAround(triangles: Uint32Array): Uint32Array {
  const out = triangles.slice();
  for (let t = 0; t < out.length; t += 3) [out[t + 1], out[t + 2]] = [triangles[t + 2], triangles[t + 1]];
  return out;
}

/** Normals turned with their node; null where the file has none, or some without a direction. */
function normalsOf(primitive: Primitive, matrix: Matrix): Float32Array | null {
  const normals = numbersOf(primitive, 'NORMAL');
  if (!normals) return null;
  const c = cofactors(matrix);
  const sign = isMirrored(matrix) ? -1 : 1;
  for (let i = 0; i < normals.length; i += 3) {
    const [x, y, z] = [normals[i], normals[i + 1], normals[i + 2]];
    const turned = [0, 1, 2].map((k) => sign * (c[k] * x + c[3 + k] * y + c[6 + k] * z));
    const length = Math.hypot(...turned);
    if (!(length > 0)) return null;
    for (let k = 0; k < 3; k++) normals[i + k] = turned[k] / length;
  }
  return normals;
}

function materialOf(
  material: Material | null,
  pictures: Pictures,
  findings: Findings,
): { material: BodyMaterial | null; channel: number } {
  if (!material) return { material: null, channel: 0 };
  const info = material.getBaseColorTextureInfo();
  if (info?.getExtension('KHR_texture_transform'))
    findings.add('pictures that are moved or turned on their body lie as they are');
  if (material.getNormalTexture() || material.getMetallicRoughnessTexture() || material.getOcclusionTexture())
    findings.add('pictures of relief, roughness and shade are left out');
  const coat = material.getExtension<Clearcoat>('KHR_materials_clearcoat');
  const ior = material.getExtension<IOR>('KHR_materials_ior');
  const clear = material.getExtension<Transmission>('KHR_materials_transmission');
  const strength = material.getExtension<EmissiveStrength>('KHR_materials_emissive_strength');
  const [r, g, b, alpha] = material.getBaseColorFactor();
  const shine = Math.max(...material.getEmissiveFactor()) * (strength?.getEmissiveStrength() ?? 1);
  const bounded = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));
  return {
    channel: info?.getTexCoord() ?? 0,
    material: {
      name: material.getName(),
      // What shines has the colour of its light.
      colour: hexOfLinear(shine > 0 ? scaledToOne(material.getEmissiveFactor()) : [r, g, b]),
      metal: bounded(material.getMetallicFactor(), 0, 1),
      roughness: bounded(material.getRoughnessFactor(), 0, 1),
      opacity: material.getAlphaMode() === 'BLEND' ? bounded(alpha, 0, 1) : 1,
      clear: bounded(clear?.getTransmissionFactor() ?? 0, 0, 1),
      index: bounded(ior?.getIOR() ?? 1.5, 1, 3),
      coat: bounded(coat?.getClearcoatFactor() ?? 0, 0, 1),
      glow: bounded(shine, 0, 20),
      picture: pictures.indexOf(material.getBaseColorTexture()),
    },
  };
}

const scaledToOne = (light: readonly number[]): number[] => light.map((v) => v / Math.max(...light));

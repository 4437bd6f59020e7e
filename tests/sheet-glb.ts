import { Document, WebIO } from '@gltf-transform/core';
import {
  EXTMeshoptCompression,
  KHRDracoMeshCompression,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsTransmission,
} from '@gltf-transform/extensions';
import { encode } from 'fast-png';
import { MeshoptEncoder } from 'meshoptimizer/encoder';

/** Rows of a sheet, bent so that its points are all different. */
const ROWS = 9;

/** A sheet of 64 squares from 0 to 1, bent a little, with normals, a picture of four colours and a material. */
export function sheet(change: (document: Document) => void = () => undefined): Document {
  const document = new Document();
  const buffer = document.createBuffer();
  const at = Array.from({ length: ROWS * ROWS }, (_, i) => [(i % ROWS) / 8, Math.floor(i / ROWS) / 8]);
  const accessor = (type: 'VEC2' | 'VEC3', numbers: number[]) =>
    document.createAccessor().setType(type).setArray(Float32Array.from(numbers)).setBuffer(buffer);
  const corners = at.flatMap((_, i) =>
    i % ROWS < 8 && i < ROWS * 8 ? [i, i + 1, i + ROWS + 1, i, i + ROWS + 1, i + ROWS] : [],
  );
  const quarters = [
    [255, 0, 0],
    [0, 255, 0],
    [0, 0, 255],
    [255, 255, 255],
  ];
  // Of 16 by 16 pixels, so that quarters have an inside.
  const pixels = Array.from({ length: 256 }, (_, i) => quarters[2 * Number(i >= 128) + Number(i % 16 >= 8)]);
  const picture = document
    .createTexture('quarters')
    .setMimeType('image/png')
    .setImage(
      encode({
        width: 16,
        height: 16,
        data: Uint8Array.from(pixels.flat()),
        channels: 3,
      }) as Uint8Array<ArrayBuffer>,
    );
  const material = document
    .createMaterial('glazed')
    .setBaseColorFactor([0.5, 0.214, 0, 1])
    .setBaseColorTexture(picture)
    .setMetallicFactor(0.25)
    .setRoughnessFactor(0.6);
  const primitive = document
    .createPrimitive()
    .setAttribute(
      'POSITION',
      accessor(
        'VEC3',
        at.flatMap(([x, y]) => [x, y, 0.1 * x * x]),
      ),
    )
    .setAttribute(
      'NORMAL',
      accessor(
        'VEC3',
        at.flatMap(([x]) => [-0.2 * x, 0, 1].map((v) => v / Math.hypot(0.2 * x, 1))),
      ),
    )
    .setAttribute(
      'TEXCOORD_0',
      accessor(
        'VEC2',
        at.flatMap(([x, y]) => [x, 1 - y]),
      ),
    )
    .setIndices(
      document.createAccessor().setType('SCALAR').setArray(Uint16Array.from(corners)).setBuffer(buffer),
    )
    .setMaterial(material);
  const node = document.createNode('sheet').setMesh(document.createMesh('sheet').addPrimitive(primitive));
  document.createScene().addChild(node);
  change(document);
  return document;
}

/** As GLB. */
export const written = (document: Document): Promise<Uint8Array> =>
  new WebIO()
    .registerExtensions([KHRMaterialsEmissiveStrength, KHRMaterialsTransmission])
    .writeBinary(document);

export async function dracoPacked(document: Document): Promise<Uint8Array> {
  const { default: encoder } = await import('draco3dgltf/draco_encoder_gltf_nodejs.js');
  document.createExtension(KHRDracoMeshCompression).setRequired(true);
  return new WebIO()
    .registerExtensions([KHRDracoMeshCompression])
    .registerDependencies({ 'draco3d.encoder': await encoder() })
    .writeBinary(document);
}

export async function meshoptPacked(document: Document): Promise<Uint8Array> {
  await MeshoptEncoder.ready;
  document
    .createExtension(EXTMeshoptCompression)
    .setRequired(true)
    .setEncoderOptions({ method: EXTMeshoptCompression.EncoderMethod.QUANTIZE });
  return new WebIO()
    .registerExtensions([EXTMeshoptCompression])
    .registerDependencies({ 'meshopt.encoder': MeshoptEncoder })
    .writeBinary(document);
}

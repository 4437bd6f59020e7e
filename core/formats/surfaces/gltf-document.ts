import { type Document, type Primitive, WebIO } from '@gltf-transform/core';
import {
  EXTMeshoptCompression,
  EXTTextureAVIF,
  EXTTextureWebP,
  KHRDracoMeshCompression,
  KHRMaterialsClearcoat,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsTransmission,
  KHRMaterialsUnlit,
  KHRMeshQuantization,
  KHRTextureTransform,
} from '@gltf-transform/extensions';
import { MeshoptDecoder } from 'meshoptimizer/decoder';
import { byName } from '../../model/by-name.ts';
import { ReadError } from '../../model/read-error.ts';

const decoder = new TextDecoder();

const understood = [
  EXTMeshoptCompression,
  EXTTextureAVIF,
  EXTTextureWebP,
  KHRDracoMeshCompression,
  KHRMaterialsClearcoat,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsTransmission,
  KHRMaterialsUnlit,
  KHRMeshQuantization,
  KHRTextureTransform,
];

/** Whether the first bytes are those of a glTF file, packed or as text. */
export function looksLikeGltf(head: Uint8Array): boolean {
  const text = decoder.decode(head.subarray(0, 65536));
  return (
    text.startsWith('glTF') ||
    (/^\s*\{/.test(text) && /"asset"\s*:/.test(text) && /"version"\s*:\s*"2/.test(text))
  );
}

let dracoProgram: (() => Promise<ArrayBuffer>) | null = null;

/** Where the program of the Draco decoder comes from, where it does not lie beside the library as in Node. */
export function bringDracoFrom(program: () => Promise<ArrayBuffer>): void {
  dracoProgram = program;
}

/** Only files that are packed so need it. */
async function dracoDecoder(): Promise<object> {
  const { default: createDecoderModule } = await import('draco3dgltf/draco_decoder_gltf_nodejs.js');
  return createDecoderModule(dracoProgram ? { wasmBinary: await dracoProgram() } : {});
}

/** What of an unpacked file tells that a decoder is needed, by the name of its extension. */
const needs = (json: { extensionsUsed?: string[] }, extension: string): boolean =>
  json.extensionsUsed?.includes(extension) === true;

/** The description of a file, of which the packed form has it first. */
function descriptionOf(bytes: Uint8Array): { extensionsUsed?: string[]; extensionsRequired?: string[] } {
  if (decoder.decode(bytes.subarray(0, 4)) !== 'glTF') return JSON.parse(decoder.decode(bytes));
  const length = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(12, true);
  return JSON.parse(decoder.decode(bytes.subarray(20, 20 + length)));
}

/**
 * Reads a glTF or GLB file, also where its meshes are packed by Draco or meshopt.
 *
 * @param beside bytes of another file by its address, or null where it is not there
 * @returns the document, and the addresses of the files beside it that it reads
 * @throws ReadError when it is damaged, or needs what is not understood
 */
export async function readGltfDocument(
  bytes: Uint8Array,
  beside: (uri: string) => Uint8Array | null,
): Promise<{ document: Document; uses: string[] }> {
  const uses: string[] = [];
  try {
    const description = descriptionOf(bytes);
    const known = understood.map((extension) => extension.EXTENSION_NAME as string);
    const strange = description.extensionsRequired?.find((name) => !known.includes(name));
    if (strange)
      throw new ReadError(
        `the file needs "${strange}", which is not understood here`,
        'extensionsRequired',
        'Write it again without that.',
      );
    const io = new WebIO().registerExtensions(understood);
    if (needs(description, EXTMeshoptCompression.EXTENSION_NAME)) {
      await MeshoptDecoder.ready;
      io.registerDependencies({ 'meshopt.decoder': MeshoptDecoder });
    }
    if (needs(description, KHRDracoMeshCompression.EXTENSION_NAME))
      io.registerDependencies({ 'draco3d.decoder': await dracoDecoder() });
    if (decoder.decode(bytes.subarray(0, 4)) === 'glTF')
      return { document: await io.readBinary(Uint8Array.from(bytes)), uses };
    const json = JSON.parse(decoder.decode(bytes));
    const resources: Record<string, Uint8Array<ArrayBuffer>> = byName({});
    for (const { uri } of json.buffers ?? []) {
      if (typeof uri !== 'string' || uri.startsWith('data:')) continue;
      const found = beside(uri);
      if (!found)
        throw new ReadError(`the buffer "${uri}" is not there`, 'buffers', 'Bring it in with this file.');
      uses.push(uri);
      resources[uri] = Uint8Array.from(found);
    }
    for (const image of json.images ?? []) if (image.uri) resources[image.uri] ??= new Uint8Array(0);
    return { document: await io.readJSON({ json, resources }), uses };
  } catch (error) {
    if (error instanceof ReadError) throw error;
    throw new ReadError(
      'the glTF file is damaged: its description and its buffers do not fit together',
      'whole file',
      'Copy or write it again.',
    );
  }
}

/** Modes of primitives by the standard (Khronos, glTF 2.0, section 3.7.2.1). */
const [TRIANGLES, STRIP, FAN] = [4, 5, 6];

/** The triangles of a primitive, three points each; null where it has none. */
export function trianglesOfPrimitive(primitive: Primitive): Uint32Array | null {
  const count = primitive.getAttribute('POSITION')?.getCount() ?? 0;
  const indices = primitive.getIndices();
  const at = (i: number): number => (indices ? indices.getScalar(i) : i);
  const n = indices?.getCount() ?? count;
  const mode = primitive.getMode();
  if (mode === TRIANGLES) return Uint32Array.from({ length: n - (n % 3) }, (_, i) => at(i));
  if (mode !== STRIP && mode !== FAN) return null;
  const out = new Uint32Array(3 * Math.max(0, n - 2));
  for (let t = 0; t + 2 < n; t++)
    out.set(
      mode === FAN ? [at(0), at(t + 1), at(t + 2)] : [at(t), at(t + 1 + (t % 2)), at(t + 2 - (t % 2))],
      3 * t,
    );
  return out;
}

/** Numbers of an attribute, whatever the form they are stored in; null where it has none. */
export function numbersOf(primitive: Primitive, semantic: string): Float32Array | null {
  const attribute = primitive.getAttribute(semantic);
  if (!attribute) return null;
  const size = attribute.getElementSize();
  const out = new Float32Array(size * attribute.getCount());
  const element: number[] = [];
  for (let i = 0; i < attribute.getCount(); i++) out.set(attribute.getElement(i, element), size * i);
  return out;
}

/** Sixteen numbers, column by column. */
export type Matrix = readonly number[];

/** Points brought to where a matrix puts them, in place. */
export function moved(points: Float32Array, m: Matrix): Float32Array {
  for (let i = 0; i < points.length; i += 3) {
    const [x, y, z] = [points[i], points[i + 1], points[i + 2]];
    for (let k = 0; k < 3; k++) points[i + k] = m[k] * x + m[4 + k] * y + m[8 + k] * z + m[12 + k];
  }
  return points;
}

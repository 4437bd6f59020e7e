import { unzlibSync } from 'fflate';
import { ReadError } from '../model/read-error.ts';
import { decodeBase64 } from './base64.ts';
import type { FileFormat, OpenedCollection, OpenedMesh, ReadTools } from './format.ts';
import { vtkXmlCollection } from './vtk-xml-collection.ts';
import { vtkXmlUnstructured } from './vtk-xml-unstructured.ts';

/** Every format that can be read. A new one is a file beside this and a line here. */
export const formats: readonly FileFormat[] = [vtkXmlUnstructured, vtkXmlCollection];

/** Reading with nothing but the language. */
export const portableTools: ReadTools = {
  inflate: (data, size) => unzlibSync(data, { out: new Uint8Array(size) }),
  decodeBase64,
  find: (bytes, byte, from) => bytes.indexOf(byte, from),
};

export function detectFormat(head: Uint8Array): FileFormat | null {
  return formats.find((f) => f.detect(head)) ?? null;
}

/**
 * Opens a file by its content.
 *
 * @throws ReadError when no format recognises it or the format finds it damaged
 */
export function openFile(bytes: Uint8Array, tools: ReadTools = portableTools): OpenedMesh | OpenedCollection {
  if (bytes.length === 0) {
    throw new ReadError('the file is empty', 'byte 0', 'Copy or write it again.');
  }
  const format = detectFormat(bytes.subarray(0, 4096));
  if (!format) {
    throw new ReadError(
      'the content is of no known format',
      'first bytes of the file',
      `Known are: ${formats.map((f) => `${f.name} (${f.extensions.join(', ')})`).join('; ')}.`,
    );
  }
  return format.open(bytes, tools);
}

import { unzlibSync } from 'fflate';
import { ReadError } from '../model/read-error.ts';
import { decodeBase64 } from './bytes/base64.ts';
import type { ReadTools } from './format.ts';

/** Reading with nothing but the language. */
export const portableTools: ReadTools = {
  inflate: (data, size) => unzlibSync(data, { out: new Uint8Array(size) }),
  decodeBase64,
  find: (bytes, byte, from) => bytes.indexOf(byte, from),
  hierarchy: () =>
    Promise.reject(
      new ReadError(
        'HDF5 files are not read here',
        'whole file',
        'Open it through the server or the command.',
      ),
    ),
  name: 'file',
  beside: () => null,
  listBeside: () => [],
};

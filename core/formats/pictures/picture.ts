import { ReadError } from '../../model/read-error.ts';
import type { ByteSource } from '../bytes/byte-source.ts';
import { Findings } from '../door/findings.ts';
import type { FileFormat, OpenedPicture, ReadTools } from '../format.ts';

const isPng = (b: Uint8Array): boolean => b[0] === 0x89 && b[1] === 0x50 && b[2] === 0x4e && b[3] === 0x47;
const isJpeg = (b: Uint8Array): boolean => b[0] === 0xff && b[1] === 0xd8 && b[2] === 0xff;

/** PNG and JPEG pictures as planes, placed by a world file beside them or a unit for each pixel. */
export const picture: FileFormat = {
  id: 'picture',
  name: 'picture',
  extensions: ['.png', '.jpg', '.jpeg'],
  manySteps: true,
  detect: (head) => isPng(head) || isJpeg(head),
  open(source, tools): OpenedPicture {
    const head = source.read(0, 65536);
    const png = isPng(head);
    const [width, height] = png ? pngSize(head) : jpegSize(source);
    const findings = new Findings();
    const world = worldFile(tools, findings);
    const at = (column: number, row: number): [number, number, number] => {
      const [a, d, b, e, c, f] = world?.numbers ?? [1, 0, 0, -1, 0.5, height - 0.5];
      return [a * (column - 0.5) + b * (row - 0.5) + c, d * (column - 0.5) + e * (row - 0.5) + f, 0];
    };
    return {
      kind: 'picture',
      type: png ? 'image/png' : 'image/jpeg',
      width,
      height,
      corners: [at(0, height), at(width, height), at(width, 0), at(0, 0)],
      uses: world ? [world.name] : [],
      findings,
    };
  },
};

/** The six numbers that place a picture on a map; it belongs to the picture of the same name. */
export const worldFileFormat: FileFormat = {
  id: 'world-file',
  name: 'world file of a picture',
  extensions: ['.pgw', '.jgw', '.wld'],
  companion: 'a picture of the same name',
  detect(head) {
    const lines = new TextDecoder().decode(head.subarray(0, 1024)).trim().split(/\r?\n/);
    return lines.length === 6 && lines.every((l) => l.trim() !== '' && Number.isFinite(Number(l)));
  },
  open() {
    throw new ReadError('a world file only places a picture', 'whole file', 'Bring it in with its picture.');
  },
};

function pngSize(head: Uint8Array): [number, number] {
  if (head.length < 24)
    throw new ReadError('the picture is cut off', 'header of the PNG file', 'Copy it again.');
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  return [view.getUint32(16), view.getUint32(20)];
}

function jpegSize(source: ByteSource): [number, number] {
  const bytes = source.read(0, Math.min(source.length, 2 ** 20));
  let at = 2;
  while (at + 9 < bytes.length && bytes[at] === 0xff) {
    const marker = bytes[at + 1];
    // Frame headers hold the size; three markers of the same range are something else.
    if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker))
      return [bytes[at + 7] * 256 + bytes[at + 8], bytes[at + 5] * 256 + bytes[at + 6]];
    at += 2 + bytes[at + 2] * 256 + bytes[at + 3];
  }
  throw new ReadError(
    'the size of the picture is not found',
    'header of the JPEG file',
    'Save the picture again.',
  );
}

function worldFile(tools: ReadTools, findings: Findings): { name: string; numbers: number[] } | null {
  const base = (tools.name.split('/').pop() ?? '').replace(/\.[^.]+$/, '');
  for (const ending of ['pgw', 'jgw', 'pngw', 'jpgw', 'wld']) {
    const found = tools.beside(`${base}.${ending}`);
    if (!found) continue;
    const numbers = new TextDecoder().decode(found.read(0, 1024)).trim().split(/\s+/).map(Number);
    if (numbers.length === 6 && numbers.every(Number.isFinite)) return { name: `${base}.${ending}`, numbers };
    findings.add(`the world file ${base}.${ending} does not hold six numbers and is not used`);
  }
  return null;
}

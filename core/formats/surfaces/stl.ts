import { GrowingFloat64 } from '../../model/arrays.ts';
import { ReadError } from '../../model/read-error.ts';
import { type ByteSource, eachLine } from '../bytes/byte-source.ts';
import { Findings } from '../door/findings.ts';
import { meshInMemory, weld } from '../door/mesh-in-memory.ts';
import { openedRun, steadyPart } from '../door/opened-run.ts';
import type { FileFormat } from '../format.ts';

const decoder = new TextDecoder();
const ascii = (head: Uint8Array, length = 512): string => decoder.decode(head.subarray(0, length));

/** STL surfaces, binary and ascii. Corners at the same place become one point, so that shading is smooth. */
export const stl: FileFormat = {
  id: 'stl',
  name: 'STL surface',
  extensions: ['.stl'],
  detect(head, name) {
    if (/^\s*solid\b/.test(ascii(head)) && /facet\s+normal|endsolid/.test(ascii(head, 4096))) return true;
    return head.length >= 84 && /\.stl$/i.test(name) && !/^\s*[<{]/.test(ascii(head, 8));
  },
  open(source) {
    const findings = new Findings();
    const text =
      /^\s*solid\b/.test(ascii(source.read(0, 80))) &&
      /facet|endsolid/.test(ascii(source.read(0, 4096), 4096));
    const solids = text ? readAsciiStl(source, findings) : [{ name: null, corners: readBinaryStl(source) }];
    const parts = solids
      .filter((s) => s.corners.length > 0)
      .map((s) => steadyPart(solids.length > 1 ? s.name : null, meshInMemory(weld(s.corners), [], findings)));
    if (parts.length === 0)
      throw new ReadError('the file holds no triangles', 'whole file', 'Write it again.');
    return openedRun(parts, { findings });
  },
};

function readBinaryStl(source: ByteSource): Float32Array {
  const head = source.read(0, 84);
  const count = new DataView(head.buffer, head.byteOffset, head.byteLength).getUint32(80, true);
  if (source.length < 84 + 50 * count || count === 0) {
    throw new ReadError(
      `${count} triangles need ${84 + 50 * count} bytes but the file has ${source.length}`,
      'header of the STL file',
      'The file is cut off or no STL file; write it again.',
    );
  }
  const corners = new Float32Array(9 * count);
  const batch = 100_000;
  for (let from = 0; from < count; from += batch) {
    const n = Math.min(batch, count - from);
    const bytes = source.read(84 + 50 * from, 84 + 50 * (from + n));
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    for (let t = 0; t < n; t++)
      for (let k = 0; k < 9; k++) corners[9 * (from + t) + k] = view.getFloat32(50 * t + 12 + 4 * k, true);
  }
  return corners;
}

/** Reads solids as text; triangles before the end of a file that is cut off are given, and that is told. */
function readAsciiStl(
  source: ByteSource,
  findings: Findings,
): { name: string | null; corners: Float64Array }[] {
  const solids: { name: string | null; corners: GrowingFloat64 }[] = [];
  let ended = false;
  eachLine(source, 0, (bytes, at) => {
    const words = decoder.decode(bytes).trim().split(/\s+/);
    if (words[0] !== '') ended = words[0] === 'endsolid';
    if (words[0] === 'solid')
      solids.push({ name: words.slice(1).join(' ') || null, corners: new GrowingFloat64() });
    else if (words[0] === 'vertex') {
      for (let k = 1; k <= 3; k++) {
        const v = Number(words[k]);
        if (Number.isNaN(v))
          throw new ReadError(`"${words[k] ?? ''}" is not a number`, `byte ${at}`, 'Write the file again.');
        solids[solids.length - 1]?.corners.push(v);
      }
    }
    return undefined;
  });
  if (!ended) {
    const whole = Math.floor((solids.at(-1)?.corners.length ?? 0) / 9);
    findings.add(`the file is cut off in its last solid: the ${whole} triangles before that are shown`);
  }
  return solids.map((s) => {
    const corners = s.corners.toArray();
    return { name: s.name, corners: corners.subarray(0, corners.length - (corners.length % 9)) };
  });
}

import { GrowingFloat64, GrowingUint32 } from '../../model/arrays.ts';
import { LINE, POLYGON, QUAD, TRIANGLE } from '../../model/cell-types.ts';
import { ReadError } from '../../model/read-error.ts';
import { eachLine } from '../bytes/byte-source.ts';
import { Findings } from '../door/findings.ts';
import { meshInMemory } from '../door/mesh-in-memory.ts';
import { openedRun, steadyPart } from '../door/opened-run.ts';
import type { FileFormat, RawMesh } from '../format.ts';

const decoder = new TextDecoder();

class Group {
  readonly types = new GrowingUint32();
  readonly ends = new GrowingUint32();
  readonly nodes = new GrowingUint32();
  constructor(readonly name: string) {}
}

/** OBJ surfaces; each group or object is a part of its own, colours and texture coordinates are left out. */
export const obj: FileFormat = {
  id: 'obj',
  name: 'OBJ surface',
  extensions: ['.obj'],
  detect(head) {
    const lines = decoder.decode(head.subarray(0, 16384)).split(/\r?\n/).slice(0, -1);
    const words = lines.filter((l) => l.trim() !== '' && !l.trim().startsWith('#'));
    return (
      words.some((l) => /^v\s+[-\d.]/.test(l)) &&
      words.every((l) => /^\s*(v|vn|vt|vp|f|l|p|g|o|s|usemtl|mtllib|usemap)(\s|$)/.test(l))
    );
  },
  open(source) {
    const findings = new Findings();
    const points = new GrowingFloat64();
    const groups = new Map<string, Group>();
    let group: Group | null = null;
    eachLine(source, 0, (bytes, at) => {
      const words = decoder.decode(bytes).trim().split(/\s+/);
      const key = words[0];
      if (key === 'v') for (let k = 1; k <= 3; k++) points.push(numberOf(words[k], at));
      else if (key === 'g' || key === 'o') {
        const name = words.slice(1).join(' ') || 'default';
        group = groups.get(name) ?? new Group(name);
        groups.set(name, group);
      } else if (key === 'f' || key === 'l') {
        if (!group) groups.set('', (group = groups.get('') ?? new Group('')));
        const n = words.length - 1;
        if (n < (key === 'f' ? 3 : 2)) {
          findings.add('faces with too few corners are left out');
          return undefined;
        }
        const count = points.length / 3;
        for (let k = 1; k <= n; k++) {
          const index = Number.parseInt(words[k], 10);
          // Negative numbers count back from the latest point.
          group.nodes.push(index < 0 ? count + index : index - 1);
        }
        group.ends.push(group.nodes.length);
        group.types.push(key === 'l' ? (n === 2 ? LINE : 4) : n === 3 ? TRIANGLE : n === 4 ? QUAD : POLYGON);
      }
      return undefined;
    });
    const filled = [...groups.values()].filter((g) => g.types.length > 0);
    if (filled.length === 0)
      throw new ReadError('the file holds no faces or lines', 'whole file', 'Write it again with faces.');
    const all = points.toArray();
    const parts = filled.map((g) =>
      steadyPart(
        filled.length > 1 || g.name !== '' ? g.name : null,
        meshInMemory(groupMesh(g, all), [], findings),
      ),
    );
    if (parts.length === 1) parts[0].name = null;
    return openedRun(parts, { findings });
  },
};

function numberOf(word: string | undefined, at: number): number {
  const v = Number(word);
  if (word !== undefined && !Number.isNaN(v)) return v;
  throw new ReadError(
    `"${word ?? ''}" is not a number`,
    `byte ${at}`,
    'The file is damaged; write it again.',
  );
}

/** A group with just the points it uses. */
function groupMesh(group: Group, points: Float64Array): RawMesh {
  const map = new Map<number, number>();
  const nodes = group.nodes.toArray();
  const own: number[] = [];
  const connectivity = nodes.map((p) => {
    const known = map.get(p);
    if (known !== undefined) return known;
    if (3 * p + 2 >= points.length)
      throw new ReadError(
        `a face uses point ${p + 1} of ${points.length / 3}`,
        `group ${group.name}`,
        'Write the file again.',
      );
    map.set(p, map.size);
    own.push(points[3 * p], points[3 * p + 1], points[3 * p + 2]);
    return map.size - 1;
  });
  const offsets = new Uint32Array(group.ends.length + 1);
  offsets.set(group.ends.toArray(), 1);
  return {
    points: Float64Array.from(own),
    types: Uint8Array.from(group.types.toArray()),
    offsets,
    connectivity,
  };
}

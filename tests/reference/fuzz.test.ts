import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { memorySource } from '#core/formats/byte-source.ts';
import { openSource, portableTools } from '#core/formats/registry.ts';
import { ReadError } from '#core/model/read-error.ts';
import { fastTools } from '#web/server/file-source.ts';
import { openHierarchy } from '#web/server/hierarchy.ts';
import { seeded } from '../attack/damage.ts';
import { buildVolumeCase } from '../volume-case.ts';
import { buildVtu, hexBlock } from '../vtu-builder.ts';

/**
 * Damaged files of every format: cut off, with bits flipped, with bytes swapped and runs of bytes lost. Each must be
 * read or be refused with a reason, a place and a remedy, in little time and memory.
 */
const VARIANTS = 100;
const folder = 'tests/fixtures/formats';

function damage(bytes: Uint8Array, random: () => number): Uint8Array {
  const at = (): number => Math.floor(random() * bytes.length);
  const kind = Math.floor(random() * 4);
  if (kind === 0) return bytes.slice(0, at());
  const out = bytes.slice();
  const times = 1 + Math.floor(random() * 6);
  for (let n = 0; n < times; n++) {
    const i = at();
    if (kind === 1) out[i] ^= 1 << Math.floor(random() * 8);
    else if (kind === 2) [out[i], out[at()]] = [out[at()], out[i]];
    else out.copyWithin(i, Math.min(out.length - 1, i + 1 + Math.floor(random() * 16)));
  }
  return out;
}

const files = new Map<string, Uint8Array>();
for (const name of readdirSync(folder))
  if (name !== 'facts.json' && !/\.(bin|h5)$/.test(name))
    files.set(name, new Uint8Array(readFileSync(`${folder}/${name}`)));
for (const zlib of [false, true])
  files.set(
    `block-${zlib}.vtu`,
    new Uint8Array(
      buildVtu(hexBlock(2), [], { format: 'appended', appended: 'raw', header: 8, big: false, zlib }),
    ),
  );
files.set('chamber.obj', new Uint8Array(readFileSync('tests/fixtures/samples/chamber.obj')));
files.set(
  'landings.csv',
  new Uint8Array(readFileSync('tests/fixtures/samples/landings_first2000.csv').subarray(0, 8000)),
);
files.set(
  'a.dump',
  new TextEncoder().encode(
    `${'ITEM: TIMESTEP\n0\nITEM: NUMBER OF ATOMS\n3\nITEM: BOX BOUNDS xy xz yz pp pp pp\n0 1 0\n0 1 0\n0 1 0\nITEM: ATOMS id x y z\n1 0 0 0\n2 1 0 0\n3 0 1 0\n'.repeat(4)}`,
  ),
);
const caseFiles = buildVolumeCase(
  hexBlock(2),
  { '1': { T: { dimensions: '[0 0 0 1 0 0 0]', cells: [1, 2, 3, 4, 5, 6, 7, 8] } } },
  false,
);
for (const part of ['points', 'faces', 'owner', 'neighbour', 'boundary'])
  files.set(`case-${part}`, caseFiles[`constant/polyMesh/${part}`]);
files.set('case-T', caseFiles['1/T']);

/** Reads all there is; gives how it ended. */
async function readAll(name: string, bytes: Uint8Array): Promise<'read' | ReadError> {
  const own = name.startsWith('case-') ? name.slice(5) : null;
  const beside = (path: string): Uint8Array | null => {
    if (own) {
      const file = path.startsWith('../../') ? path.slice(6) : `constant/polyMesh/${path}`;
      return file.endsWith(`/${own}`) ? bytes : (caseFiles[file] ?? null);
    }
    try {
      return new Uint8Array(readFileSync(`${folder}/${path.replace(/[^\w.-]/g, '')}`));
    } catch {
      return null;
    }
  };
  const tools = {
    ...portableTools,
    ...fastTools,
    name: own ? 'oven/constant/polyMesh/points' : name,
    hierarchy: openHierarchy,
    beside: (path: string) => {
      const found = beside(path);
      return found ? memorySource(found) : null;
    },
    listBeside: (path: string) => (own ? (path === '../..' ? ['1'] : ['T']) : []),
  };
  const whole = own ? (own === 'points' ? bytes : caseFiles['constant/polyMesh/points']) : bytes;
  try {
    const opened = await openSource(memorySource(whole), tools);
    if (opened.kind === 'run') {
      for (const part of opened.parts) {
        for (let step = 0; step < Math.min(3, opened.steps.length); step++) {
          const mesh = part.at(step);
          if (!mesh) continue;
          mesh.readMesh();
          mesh.fields.forEach((_, i) => void mesh.readField(i));
          mesh.readGroups?.();
        }
      }
    }
    return 'read';
  } catch (error) {
    if (error instanceof ReadError) return error;
    throw error;
  }
}

describe('damaged files are read or refused', () => {
  for (const [nth, [name, bytes]] of [...files].entries()) {
    it(name, async () => {
      expect(await readAll(name, bytes)).toBe('read');
      const random = seeded(1000 + nth);
      for (let n = 0; n < VARIANTS; n++) {
        const begin = performance.now();
        const end = await readAll(name, damage(bytes, random));
        expect(performance.now() - begin, `variant ${n} took long`).toBeLessThan(5000);
        if (end === 'read') continue;
        for (const text of [end.reason, end.where, end.remedy])
          expect(text.length, `variant ${n}`).toBeGreaterThan(3);
      }
      expect(process.memoryUsage().rss).toBeLessThan(3 * 2 ** 30);
    }, 60_000);
  }
});

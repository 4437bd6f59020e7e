import { readdirSync, readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { zipSync } from 'fflate';
import { brickFrd } from '../frd-text.ts';
import { buildVolumeCase } from '../volume-case.ts';
import { buildVtu, hexBlock } from '../vtu-builder.ts';

/** A drop of files; the attack damages one of them at a time. */
export interface BaseDrop {
  name: string;
  files: Record<string, Uint8Array>;
  /** Those that may be damaged. */
  targets: string[];
}

const read = (path: string): Uint8Array => new Uint8Array(readFileSync(path));
const text = (lines: string): Uint8Array => new TextEncoder().encode(lines);

/** Whole small files of every format, archive and list that is read. */
export function baseDrops(): BaseDrop[] {
  const out: BaseDrop[] = [];
  const one = (name: string, bytes: Uint8Array): void =>
    void out.push({ name, files: { [name]: bytes }, targets: [name] });
  const folder = 'tests/fixtures/formats';
  const companions = readdirSync(folder).filter((n) => /\.(bin|h5)$/.test(n));
  for (const name of readdirSync(folder)) {
    if (name === 'facts.json' || companions.includes(name)) continue;
    const bytes = read(`${folder}/${name}`);
    const needs = companions.filter((c) => Buffer.from(bytes).includes(c));
    const files = Object.fromEntries(
      [name, ...needs].map((n) => [n, n === name ? bytes : read(`${folder}/${n}`)]),
    );
    out.push({ name, files, targets: Object.keys(files) });
  }
  for (const zlib of [false, true])
    one(
      `block-${zlib}.vtu`,
      new Uint8Array(
        buildVtu(hexBlock(2), [], { format: 'appended', appended: 'raw', header: 8, big: false, zlib }),
      ),
    );
  one('chamber.obj', read('tests/fixtures/samples/chamber.obj'));
  one('brick.frd', text(brickFrd));
  one('landings.csv', read('tests/fixtures/samples/landings_first2000.csv').subarray(0, 8000));
  one(
    'atoms.dump',
    text(
      'ITEM: TIMESTEP\n0\nITEM: NUMBER OF ATOMS\n3\nITEM: BOX BOUNDS xy xz yz pp pp pp\n0 1 0\n0 1 0\n0 1 0\nITEM: ATOMS id x y z\n1 0 0 0\n2 1 0 0\n3 0 1 0\n'.repeat(
        4,
      ),
    ),
  );
  const mesh = buildVolumeCase(
    hexBlock(2),
    { '1': { T: { dimensions: '[0 0 0 1 0 0 0]', cells: [1, 2, 3, 4, 5, 6, 7, 8] } } },
    false,
  );
  const files = Object.fromEntries(Object.entries(mesh).map(([n, bytes]) => [`oven/${n}`, bytes]));
  out.push({ name: 'case', files, targets: Object.keys(files) });
  const vtu = new Uint8Array(
    buildVtu(hexBlock(2), [], { format: 'ascii', header: 4, big: false, zlib: false }),
  );
  const list = text(
    '<?xml version="1.0"?>\n<VTKFile type="Collection" version="0.1"><Collection>' +
      [0, 1, 2].map((t) => `<DataSet timestep="${t}" part="0" file="step_${t}.vtu"/>`).join('') +
      '</Collection></VTKFile>\n',
  );
  const steps = Object.fromEntries([0, 1, 2].map((t) => [`step_${t}.vtu`, vtu]));
  out.push({ name: 'list.pvd', files: { 'list.pvd': list, ...steps }, targets: ['list.pvd', 'step_1.vtu'] });
  one('steps.zip', zipSync({ 'a/step_0.vtu': vtu, 'a/step_1.vtu': vtu }));
  one('block.vtu.gz', new Uint8Array(gzipSync(vtu)));
  return out;
}

import { parseFormula } from '#core/fields/formula/parse-formula.ts';
import { gradientAtPoints } from '#core/fields/gradient.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { tetrahedra } from './made-meshes.ts';
import { compare, timed } from './measure.ts';

const ROWS = 10_000_000;

const fields = (count: number): Float32Array[] =>
  Array.from({ length: count }, (_, f) =>
    Float32Array.from({ length: ROWS }, (__, i) => 1 + ((i * (f + 3)) % 1000) / 1000),
  );

/** What somebody would write by hand for the one formula. */
function bareLoop([a, b, c]: Float32Array[]): Float32Array {
  const out = new Float32Array(ROWS);
  for (let i = 0; i < ROWS; i++) out[i] = a[i] * b[i] + 0.5 * c[i];
  return out;
}

function bareRoot([a, b, c]: Float32Array[]): Float32Array {
  const out = new Float32Array(ROWS);
  for (let i = 0; i < ROWS; i++) out[i] = a[i] / (b[i] * c[i]) - 0.5 * b[i] * b[i];
  return out;
}

/** One pass over the cells of a mesh that looks at each of their nodes: the least a gradient can do. */
function passOverCells({ points, offsets, connectivity }: Mesh, values: Float32Array): Float32Array {
  const out = new Float32Array((3 * points.length) / 3);
  for (let c = 0; c + 1 < offsets.length; c++) {
    let [x, y, z] = [0, 0, 0];
    for (let i = offsets[c]; i < offsets[c + 1]; i++) {
      const p = connectivity[i];
      x += points[3 * p] * values[p];
      y += points[3 * p + 1] * values[p];
      z += points[3 * p + 2] * values[p];
    }
    for (let i = offsets[c]; i < offsets[c + 1]; i++) {
      const p = connectivity[i];
      out[3 * p] += x;
      out[3 * p + 1] += y;
      out[3 * p + 2] += z;
    }
  }
  return out;
}

export async function benchFormula(): Promise<void> {
  const [a, b, c] = fields(3);
  const columns: Record<string, Float32Array> = { a, b, c };
  const column = (name: string) => columns[name] ?? null;
  const simple = parseFormula('a * b + 0.5 * c');
  const longer = parseFormula('a / (b * c) - 0.5 * b ^ 2');
  compare(
    'formula of three fields, 10,000,000 points',
    timed(() => simple.evaluate(ROWS, column)),
    timed(() => bareLoop([a, b, c])),
    'of a bare typed loop, goal 2',
  );
  compare(
    'a longer one, with quotient and power',
    timed(() => longer.evaluate(ROWS, column)),
    timed(() => bareRoot([a, b, c])),
    'of a bare typed loop, goal 2',
  );

  const mesh = tetrahedra(55);
  const values = Float32Array.from({ length: mesh.points.length / 3 }, (_, p) =>
    Math.sin(5 * mesh.points[3 * p]),
  );
  compare(
    `gradient, ${mesh.types.length.toLocaleString('en')} tetrahedra`,
    timed(() => gradientAtPoints(mesh, values, 1)),
    timed(() => passOverCells(mesh, values)),
    'of one pass over the cells, goal 3',
  );
}

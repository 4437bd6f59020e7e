import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { unitOfDimensions } from '#core/formats/volume-case/volume-case-fields.ts';
import { inspect } from '../../cli/inspect.ts';
import { buildVolumeCase, type CaseFields } from '../volume-case.ts';
import { hexBlock } from '../vtu-builder.ts';

const folder = mkdtempSync(join(tmpdir(), 'dresser-case-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const write = (name: string, files: Record<string, Uint8Array>): string => {
  for (const [file, bytes] of Object.entries(files)) {
    const path = join(folder, name, file);
    mkdirSync(dirname(path), { recursive: true });
    writeFileSync(path, bytes);
  }
  return join(folder, name);
};

/** A case of 27 cells at three times, as public descriptions of the layout have it. */
const mesh = hexBlock(3);
const heat = (t: number): number[] => Array.from({ length: 27 }, (_, c) => 20 + c + 100 * t);
const fields: CaseFields = Object.fromEntries(
  ['0', '0.5', '1'].map((t) => [
    t,
    {
      T: { dimensions: '[0 0 0 1 0 0 0]', cells: heat(Number(t)), patches: { walls: 'uniform 300' } },
      U: { dimensions: '[0 1 -1 0 0 0 0]', vector: true, cells: heat(0).flatMap((v) => [v, -v, 0]) },
    },
  ]),
);

describe('a finite-volume case folder', () => {
  for (const binary of [false, true]) {
    it(`${binary ? 'binary' : 'ascii'}: interior and patches are parts, folders are times, units follow`, async () => {
      const { runs, errors } = await inspect([
        write(binary ? 'oven-b' : 'oven-a', buildVolumeCase(mesh, fields, binary)),
      ]);
      expect(errors).toEqual([]);
      expect(runs).toHaveLength(1);
      const [run] = runs;
      expect(run.name).toBe(binary ? 'oven-b' : 'oven-a');
      expect(run.steps.map((s) => s.time)).toEqual([0, 0.5, 1]);
      expect(run.parts.map((p) => [p.name, p.points, p.cellsByType])).toEqual([
        ['interior', 64, { hexahedron: 27 }],
        ['walls', 56, { quad: 54 }],
      ]);
      const T = run.fields.find((f) => f.name === 'T')!;
      expect(T).toMatchObject({ location: 'cell', unit: 'K', min: 20, max: 300, role: 'temperature' });
      const U = run.fields.find((f) => f.name === 'U')!;
      expect(U).toMatchObject({ components: 3, unit: 'm/s', role: 'velocity' });
      expect(U.componentRanges.map((r) => [r.min, r.max])).toEqual([
        [20, 46],
        [-46, -20],
        [0, 0],
      ]);
    });
  }

  it('divided over processes is put together again', async () => {
    // Two blocks side by side share the points of a face.
    const left = hexBlock(2);
    const right = { ...left, points: Float32Array.from(left.points, (v, i) => (i % 3 === 0 ? v + 1 : v)) };
    const one = buildVolumeCase(
      left,
      { '1': { T: { dimensions: '[0 0 0 1 0 0 0]', cells: heat(0).slice(0, 8) } } },
      false,
    );
    const two = buildVolumeCase(
      right,
      { '1': { T: { dimensions: '[0 0 0 1 0 0 0]', cells: heat(1).slice(0, 8) } } },
      false,
    );
    write('split/processor0', one);
    write('split/processor1', two);
    const { runs, errors } = await inspect([join(folder, 'split')]);
    expect(errors).toEqual([]);
    expect(runs).toHaveLength(1);
    const interior = runs[0].parts.find((p) => p.name === 'interior')!;
    expect(interior).toMatchObject({
      points: 54 - 9,
      cellsByType: { hexahedron: 16 },
      bounds: [0, 2, 0, 1, 0, 1],
    });
    expect(runs[0].fields[0]).toMatchObject({ min: 20, max: 127 });
  });

  it('units from exponents (SI, named where the trade does)', () => {
    expect(unitOfDimensions([1, -1, -2, 0, 0, 0, 0])).toBe('Pa');
    expect(unitOfDimensions([0, 2, -2, 0, 0, 0, 0])).toBe('m²/s²');
    expect(unitOfDimensions([1, -3, 0, 0, 0, 0, 0])).toBe('kg/m³');
    expect(unitOfDimensions([0, 0, 0, 0, 0, 0, 0])).toBeNull();
  });

  it('a part of a case alone asks for the rest', async () => {
    const files = buildVolumeCase(mesh, fields, false);
    const alone = write('alone', { T: files['0/T'] });
    const { runs, errors } = await inspect([alone]);
    expect(runs).toEqual([]);
    expect(errors[0].reason).toContain('only a part');
    const torn = write('torn', {
      ...files,
      'constant/polyMesh/faces': files['constant/polyMesh/faces'].subarray(0, 400),
    });
    const broken = await inspect([torn]);
    expect(broken.errors.length).toBeGreaterThan(0);
    expect(broken.errors[0].remedy.length).toBeGreaterThan(5);
  });
});

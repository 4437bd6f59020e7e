import { describe, expect, it } from 'vitest';
import { importSteps } from '../../tests/sample-run.ts';
import { hexBlock } from '../../tests/vtu-builder.ts';
import { type FieldToWrite, writeVtu } from '../formats/vtk-xml/vtk-xml-write.ts';

const block = hexBlock(1);
const field = (name: string, components: number): FieldToWrite => ({
  name,
  location: 'point',
  components,
  data: new Float32Array(8 * components),
});
const notes = async (fields: FieldToWrite[], mesh = block, length?: string): Promise<string> =>
  (await importSteps([{ time: 0, parts: { tin: writeVtu(mesh, fields, 0, { length }) } }])).run.notes.join(
    '; ',
  );

describe('what a run lacks is told as what will not be possible', () => {
  it('stress without displacement, and the other way round', async () => {
    expect(await notes([field('stress', 6)])).toMatch(/deformed shape will not be available/);
    expect(await notes([field('displacement', 3)])).toMatch(/no stress/);
    expect(await notes([field('stress', 6), field('displacement', 3)], block, 'm')).toBe('');
  });
  it('pressure without velocity', async () => {
    expect(await notes([field('p', 1)])).toMatch(/arrows and streamlines/);
    expect(await notes([field('p', 1), field('U', 3)])).not.toMatch(/streamlines/);
    // Another vector can be followed as well.
    expect(await notes([field('p', 1), field('current', 3)])).toMatch(
      /no velocity among the vectors: arrows and streamlines begin with current/,
    );
  });
  it('a relative velocity asks for its frame, a length for its unit', async () => {
    expect(await notes([field('Urel', 3)])).toMatch(/state the axis and speed/);
    expect(await notes([])).toMatch(/no unit of length/);
  });
  it('a surface alone', async () => {
    const skin = {
      ...block,
      types: new Uint8Array(2).fill(9),
      offsets: Uint32Array.of(0, 4, 8),
      connectivity: Uint32Array.of(0, 1, 3, 2, 0, 1, 5, 4),
    };
    expect(await notes([], skin)).toMatch(/only surfaces/);
  });
});

import { describe, expect, it } from 'vitest';
import { importSteps } from '../../tests/sample-run.ts';
import { hexBlock } from '../../tests/vtu-builder.ts';
import { type FieldToWrite, writeVtu } from '../formats/vtk-xml/vtk-xml-write.ts';
import { sensibleField } from './default-quantity.ts';

const block = hexBlock(1);
const field = (name: string, components = 1): FieldToWrite => ({
  name,
  location: 'point',
  components,
  data: Float32Array.from({ length: 8 * components }, (_, i) => i),
});

async function chosen(...fields: FieldToWrite[]): Promise<string | undefined> {
  const { run } = await importSteps([{ time: 0, parts: { tin: writeVtu(block, fields) } }]);
  return sensibleField(run)?.field.name;
}

describe('what a newcomer sees first', () => {
  it('is what the trade looks at first, wherever it stands in the file', async () => {
    expect(await chosen(field('moisture'), field('p'), field('T'))).toBe('T');
    expect(await chosen(field('moisture'), field('velocity', 3))).toBe('velocity');
  });
  it('is no coordinate and no number of a particle while there is something else', async () => {
    expect(await chosen(field('id'), field('x'), field('y'), field('z'), field('diameter'))).toBe('diameter');
    expect(await chosen(field('Points:0'), field('moisture'))).toBe('moisture');
    expect(await chosen(field('id'), field('x'))).toBe('x');
  });
  it('varies', async () => {
    const even = { ...field('T'), data: new Float32Array(8).fill(20) };
    expect(await chosen(even, field('moisture'))).toBe('moisture');
    expect(await chosen(even)).toBeUndefined();
  });
});

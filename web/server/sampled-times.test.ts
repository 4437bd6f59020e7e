import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { buildVtu, hexBlock } from '../../tests/vtu-builder.ts';
import { handleReading, type PreviewAnswer } from './reading-jobs.ts';
import { askAboutTimes } from './sampled-times.ts';

describe('the preview of numbered files', () => {
  const folder = mkdtempSync(join(tmpdir(), 'dresser-times-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const plain = { format: 'ascii', header: 4, big: false, zlib: false } as const;
  const vtu = new TextDecoder().decode(buildVtu(hexBlock(1), [], plain));
  const preview = async (times: (number | null)[]): Promise<string[]> => {
    const files = times.map((t, n) => {
      const stated = `<FieldData><DataArray type="Float64" Name="TimeValue" NumberOfTuples="1" format="ascii">${t}</DataArray></FieldData><Piece`;
      const path = join(folder, `oven_${n}.vtu`);
      writeFileSync(path, t === null ? vtu : vtu.replace('<Piece', stated));
      return { name: `oven_${n}.vtu`, path };
    });
    const job = {
      kind: 'understand',
      files,
      place: { lookIn: [], roots: null },
      scratch: folder,
      everyStep: false,
    };
    const { previews, problems } = (await handleReading(job, () => undefined)) as PreviewAnswer;
    return [...problems.map((p) => p.reason), ...previews.flatMap((p) => p.report?.warnings ?? [])];
  };
  const counted = (n: number, from = 0): number[] => Array.from({ length: n }, (_, i) => from + i);

  it('asks whether they are several runs when their times begin anew between', async () => {
    // The last time is behind the first: the ends alone do not tell.
    const asked = await preview([...counted(30), ...counted(31)]);
    expect(asked.join()).toMatch(
      /are these several runs\? The times go back from t = 2\d .* to t = \d at step 3\d/,
    );
  });
  it('asks nothing when they rise, or when none are stated', async () => {
    expect((await preview(counted(40))).join()).not.toMatch(/several runs/);
    expect((await preview(counted(5).map(() => null))).join()).not.toMatch(/several runs/);
  });
});

it('times that stand still are asked about too', () => {
  expect(
    askAboutTimes(
      new Map([
        [9, 2],
        [0, 1],
        [4, 2],
      ]),
    ),
  ).toMatch(/from t = 2 at step 5 to t = 2 at step 10/);
  expect(askAboutTimes(new Map([[3, 1]]))).toBeNull();
});

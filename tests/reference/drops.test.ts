import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { strToU8, zipSync } from 'fflate';
import { PNG } from 'pngjs';
import { afterAll, describe, expect, it } from 'vitest';
import type { OpenedPicture } from '#core/formats/format.ts';
import { writeVtp, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { openBytes } from '#web/server/reading.ts';
import { inspect } from '../../cli/inspect.ts';
import { readRuns } from '../read-run.ts';
import { temperature } from '../sample-run.ts';
import { hexBlock } from '../vtu-builder.ts';

const folder = mkdtempSync(join(tmpdir(), 'dresser-drops-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Writes files into a folder of their own and gives its path. */
let made = 0;
function dropOf(files: Record<string, Uint8Array | string>): string {
  const own = join(folder, String(made++));
  for (const [name, bytes] of Object.entries(files)) {
    mkdirSync(dirname(join(own, name)), { recursive: true });
    writeFileSync(join(own, name), bytes);
  }
  return own;
}

const block = hexBlock(2);
const oven = (n: number) => writeVtu(block, [temperature(block, () => 20 + n)]);

describe('lists of files', () => {
  it('a multi-block file names its parts by the blocks they are in', async () => {
    const vtm = `<?xml version="1.0"?><VTKFile type="vtkMultiBlockDataSet"><vtkMultiBlockDataSet>
      <Block index="0" name="oven"><DataSet index="0" name="air" file="m/a.vtu"/><DataSet index="1" name="skin" file="m/b.vtp"/></Block>
      <DataSet index="1" name="tin" file="m/c.vtu"/></vtkMultiBlockDataSet></VTKFile>`;
    const quad = {
      points: Float32Array.of(0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0),
      types: Uint8Array.of(9),
      offsets: Uint32Array.of(0, 4),
      connectivity: Uint32Array.of(0, 1, 2, 3),
    };
    const drop = dropOf({
      'all.vtm': vtm,
      'm/a.vtu': oven(0),
      'm/b.vtp': writeVtp(quad, []),
      'm/c.vtu': oven(5),
    });
    const { runs, errors } = await inspect([join(drop, 'all.vtm')]);
    expect(errors).toEqual([]);
    expect(runs[0].parts.map((p) => [p.name, p.cellsByType])).toEqual([
      ['oven / air', { hexahedron: 8 }],
      ['oven / skin', { quad: 1 }],
      ['tin', { hexahedron: 8 }],
    ]);
  });
  it('a series in JSON gives times', async () => {
    const series = JSON.stringify({
      'file-series-version': '1.0',
      files: [
        { name: 'x1.vtu', time: 0.5 },
        { name: 'x0.vtu', time: 0.25 },
      ],
    });
    const drop = dropOf({ 'x.vtu.series': series, 'x0.vtu': oven(0), 'x1.vtu': oven(1) });
    const { runs } = await inspect([drop]);
    expect(runs.map((r) => [r.name, r.steps.map((s) => s.time)])).toEqual([['x', [0.25, 0.5]]]);
    const broken = await inspect([dropOf({ 'x.vtu.series': series.slice(0, -4) })]);
    expect(broken.errors[0].reason).toMatch(/JSON is damaged/);
  });
});

describe('one mesh with many files of data', () => {
  const whole = readFileSync('tests/fixtures/formats/mixed-22-ascii.msh', 'utf8');
  const format = whole.slice(0, whole.indexOf('$Nodes'));
  const mesh = whole.slice(0, whole.indexOf('$NodeData'));
  const data = (time: number, scale: number): string =>
    `${format}$NodeData\n1\n"heat"\n1\n${time}\n3\n0\n1\n15\n${Array.from({ length: 15 }, (_, i) => `${i + 1} ${scale * i}`).join('\n')}\n$EndNodeData\n`;
  it('gets their fields at their steps', async () => {
    const drop = dropOf({ 'oven.msh': mesh, 'heat_1.msh': data(0.5, 2), 'heat_2.msh': data(0.75, 3) });
    const read = await readRuns([drop]);
    expect(read.problems).toEqual([]);
    expect(read.runs).toHaveLength(1);
    const heat = read.runs[0].fields.find((f) => f.name === 'heat')!;
    expect(read.runs[0].steps.map((s) => s.time)).toEqual([0.5, 0.75]);
    expect(read.runs[0].parts[0].meshes).toHaveLength(1);
    expect(heat.perStep.map((s) => s!.components[0].max)).toEqual([28, 42]);
  });
});

describe('archives', () => {
  it('hold anything, folders and other archives left as they are', async () => {
    const zip = zipSync({
      'results/a_1.vtu': oven(1),
      'results/a_2.vtu': oven(2),
      'results/': new Uint8Array(0),
      '__MACOSX/x': strToU8('x'),
    });
    const { runs, errors } = await inspect([
      join(dropOf({ 'run.zip': zip, 'b.vtu.gz': gzipSync(oven(9)) }), 'run.zip'),
    ]);
    expect(errors).toEqual([]);
    expect(runs.map((r) => [r.name, r.steps.length])).toEqual([['a', 2]]);
  });
  it('never write outside of their folder, whatever their names', async () => {
    const drop = dropOf({ 'evil.zip': zipSync({ '../../../../evil.vtu': oven(1) }) });
    const { runs } = await inspect([drop]);
    expect(runs).toHaveLength(1);
  });
  it('that are damaged or torn say so', async () => {
    const zip = zipSync({ 'a.vtu': oven(1) }, { level: 9 });
    zip.fill(255, 60, 200);
    const torn = gzipSync(oven(1)).subarray(0, 300);
    for (const drop of [dropOf({ 'a.zip': zip }), dropOf({ 'b.vtu.gz': torn })]) {
      const { runs, errors } = await inspect([drop]);
      expect(runs).toEqual([]);
      expect(errors[0].reason).toMatch(/archive is damaged|too early|no known format/);
    }
  });
});

describe('pictures', () => {
  const png = PNG.sync.write(new PNG({ width: 40, height: 30 }));
  it('stand on the plane, a unit for each pixel', async () => {
    const opened = (await openBytes(new Uint8Array(png), 'plan.png')) as OpenedPicture;
    expect([opened.width, opened.height, opened.type]).toEqual([40, 30, 'image/png']);
    expect(opened.corners).toEqual([
      [0, 0, 0],
      [40, 0, 0],
      [40, 30, 0],
      [0, 30, 0],
    ]);
  });
  it('are placed by a world file', async () => {
    // Pixels of half a metre, the middle of the upper left one at (100, 200).
    const drop = dropOf({ 'plan.png': png, 'plan.pgw': '0.5\n0\n0\n-0.5\n100\n200\n' });
    const { runs, errors } = await inspect([drop]);
    expect(errors).toEqual([]);
    expect(runs[0].parts[0]).toMatchObject({
      kind: 'picture',
      bounds: [99.75, 119.75, 185.25, 200.25, 0, 0],
    });
  });
  it('of JPEG tell their size from the frame header (ITU T.81, from memory)', async () => {
    const jpeg = Uint8Array.of(
      0xff,
      0xd8,
      0xff,
      0xe0,
      0,
      4,
      1,
      2,
      0xff,
      0xc4,
      0,
      3,
      9,
      0xff,
      0xc2,
      0,
      17,
      8,
      0,
      30,
      0,
      40,
      3,
      0,
      0,
      0,
    );
    expect(await openBytes(jpeg, 'plan.jpg')).toMatchObject({ width: 40, height: 30, type: 'image/jpeg' });
    await expect(openBytes(jpeg.subarray(0, 12), 'plan.jpg')).rejects.toThrow(/size of the picture/);
  });
});

describe('steps that differ', () => {
  it('may change their mesh; missing fields are named with their steps', async () => {
    const other = hexBlock(3);
    const drop = dropOf({ 'o_0.vtu': oven(0), 'o_1.vtu': writeVtu(other, []), 'o_2.vtu': oven(2) });
    const { runs } = await inspect([drop]);
    expect(runs[0].parts[0].changing).toBe(true);
    expect(runs[0].warnings.join()).toMatch(/temperature is missing in 1 of 3 steps of o \(step 2\)/);
    expect(runs[0].warnings.join()).toMatch(/2 different meshes/);
  });
});

import { describe, expect, it } from 'vitest';
import { firstMesh } from '../../../tests/open-mesh.ts';
import type { OpenedTable } from '../format.ts';
import { openFile } from '../registry.ts';
import { findLayout } from './table-layout.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

describe('tables', () => {
  const table = async (text: string): Promise<OpenedTable> =>
    (await openFile(bytes(text), 'a.csv')) as OpenedTable;
  it.each([
    ['commas', 'x,y,T\n1,2,3\n4,5,6\n'],
    ['semicolons and decimal commas', 'x;y;T\n1,0;2,0;3,0\n4,0;5,0;6,0\n'],
    ['tabs', 'x\ty\tT\n1\t2\t3\n4\t5\t6\n'],
    ['white space under comments', '# made today\n# by hand\n#  x   y   T\n 1  2  3\n 4  5  6\n'],
    ['a title above the header and blank lines', 'Results of the oven\n\nx,y,T\n1,2,3\n\n4,5,6\n'],
    ['quotes and carriage returns', '"x","y","T"\r\n"1","2","3"\r\n4,5,6\r\n'],
    ['a row of units', 'x,y,T\n[m],[m],[K]\n1,2,3\n4,5,6\n'],
  ])('with %s have their names and numbers', async (_, text) => {
    const opened = await table(text);
    expect(opened.columns.map((c) => c.name)).toEqual(['x', 'y', 'T']);
    expect(opened.rows).toBe(2);
    expect([0, 1, 2].map((c) => Array.from(opened.numbers(c)))).toEqual([
      [1, 4],
      [2, 5],
      [3, 6],
    ]);
    expect(opened.guess).toMatchObject({ as: 'points', x: 0, y: 1, z: null });
  });
  it('without a header number their columns', async () => {
    const opened = await table('0 1 2\n1 5 7\n2 6 8\n');
    expect(opened.columns.map((c) => c.name)).toEqual(['column 1', 'column 2', 'column 3']);
    expect(opened.guess).toEqual({ as: 'history', time: 0 });
  });
  it('take units from names, and a row of units', async () => {
    const opened = await table('time [s],force (N),speed\n0,1,2\n1,2,3\n');
    expect(opened.columns.map((c) => c.unit)).toEqual(['s', 'N', null]);
    const row = await table('x,y,T\n[m],[m],[K]\n1,2,3\n4,5,6\n');
    expect(row.columns.map((c) => c.unit)).toEqual(['m', 'm', 'K']);
  });
  it('keep what is missing or odd, and say so', async () => {
    const opened = await table('t,a,b\n0,1,2\n1,,4\n2,x,6\n3,7\n4,nan,1e400\n5,6,7\n');
    expect(Array.from(opened.numbers(1))).toEqual([1, Number.NaN, Number.NaN, 7, Number.NaN, 6]);
    expect(Array.from(opened.numbers(2))).toEqual([2, 4, 6, Number.NaN, Number.POSITIVE_INFINITY, 7]);
    expect(opened.findings.list[0]).toMatch(/^row 4 has 2 instead of 3 entries/);
  });
  it('group rows by a step column', async () => {
    const rows = [0, 1].flatMap((t) => [0, 1, 2].map((i) => `${t},${i},${i + t},0,${10 * i}`));
    const text = `time,x,y,z,T\n${rows.join('\n')}\n`;
    const opened = await table(text);
    expect(opened.guess).toMatchObject({ as: 'points', step: 0 });
    expect(opened.steps).toEqual([0, 1]);
    const points = firstMesh(await openFile(bytes(text), 'a.csv', opened.guess), 1);
    expect(Array.from(points.readMesh().points)).toEqual([0, 1, 0, 1, 2, 0, 2, 3, 0]);
  });
  it('are read exactly, digit by digit (against the language)', async () => {
    const words = [
      '0.1',
      '-1.7976931348623157e308',
      '123456789012345678',
      '5e-324',
      '.5',
      '1.',
      '+2.50',
      '1e5',
      '-0',
      '9007199254740993',
    ];
    const opened = await table(`n,v\n${words.map((w, i) => `${i},${w}`).join('\n')}\n`);
    expect(Array.from(opened.numbers(1))).toEqual(words.map(Number));
  });
  it('prose and binary data are no tables', () => {
    expect(findLayout(bytes('The oven was hot.\nIt baked bread, and rolls.\n'), true)).toBeNull();
    expect(findLayout(Uint8Array.of(1, 2, 3, 0, 10, 44, 44), true)).toBeNull();
  });
  it('with quotes keep separators, quotes and line ends within them', async () => {
    const opened = await table(
      'name,heat,cost\n"tin, large",1,2\n"the ""old"" rack",3,4\n"two\nlines",5,6\n',
    );
    expect(opened.texts(0)).toEqual(['tin, large', 'the "old" rack', 'two lines']);
    expect(Array.from(opened.numbers(1))).toEqual([1, 3, 5]);
    expect(opened.columns.map((c) => c.numeric)).toEqual([false, true, true]);
  });
  it('show their first rows as they stand', async () => {
    const opened = await table('t,a\n0,1.50\n1,x\n2,\n');
    expect(opened.preview(2)).toEqual([
      ['0', '1.50'],
      ['1', 'x'],
    ]);
    expect(opened.preview(9)).toHaveLength(3);
  });
  it('of runs name a result file in each row, with its parameters', async () => {
    const opened = await table('file,fan speed,steam\nruns/a.vtu,10,on\nruns/b.vtu,20,off\n');
    expect(opened.guess).toEqual({ as: 'runs', file: 0 });
    expect(opened.runRows!()).toEqual([
      { file: 'runs/a.vtu', parameters: { 'fan speed': 10, steam: 'on' } },
      { file: 'runs/b.vtu', parameters: { 'fan speed': 20, steam: 'off' } },
    ]);
  });
  it('of runs say what stands where others have a number', async () => {
    const rows = ['900', '', 'n/a', 'fast', '1500', '2400'].map((fan, i) => `oven${i}.vtu,${fan},${10 * i}`);
    const opened = await table(`file,fan,power\n${rows.join('\n')}\n`);
    expect(opened.runRows!().map((r) => r.parameters.fan)).toEqual([900, '', 'n/a', 'fast', 1500, 2400]);
  });
  it.each([
    ['UTF-8', (text: string) => Buffer.from(text)],
    ['UTF-8 with a mark', (text: string) => Buffer.from(`\ufeff${text}`)],
    ['Latin-1', (text: string) => Buffer.from(text, 'latin1')],
    ['two bytes a letter', (text: string) => Buffer.from(`\ufeff${text}`, 'utf16le')],
    [
      'two bytes a letter, the higher first',
      (text: string) => Buffer.from(`\ufeff${text}`, 'utf16le').swap16(),
    ],
  ])('in %s have their letters and every row', async (_, encoded) => {
    const text = 'Datei;Öl;Größe in °C\na.vtu;Nuß;1,5\nb.vtu;Öl;2,5\n';
    const opened = (await openFile(new Uint8Array(encoded(text)), 'a.csv')) as OpenedTable;
    expect(opened.columns.map((c) => c.name)).toEqual(['Datei', 'Öl', 'Größe in °C']);
    expect([opened.texts(0), opened.texts(1)]).toEqual([
      ['a.vtu', 'b.vtu'],
      ['Nuß', 'Öl'],
    ]);
    expect(Array.from(opened.numbers(2))).toEqual([1.5, 2.5]);
  });
  it('with old exponents and signs are numbers', async () => {
    const opened = await table('t,a\n0,1.5D+02\n1,-2.5d-1\n2,+3\n');
    expect(Array.from(opened.numbers(1))).toEqual([150, -0.25, 3]);
  });
});

import { describe, expect, it } from 'vitest';
import { brickFrd } from '../../tests/frd-text.ts';
import { firstMesh, openWith } from '../../tests/open-mesh.ts';
import { atomDump } from './atoms/atom-dump.ts';
import { extendedXyz } from './atoms/extended-xyz.ts';
import { componentNames } from './door/component-names.ts';
import { joinComponents } from './door/join-components.ts';
import type { OpenedTable } from './format.ts';
import { frd } from './frd/frd.ts';
import { openFile } from './registry.ts';
import { obj } from './surfaces/obj.ts';
import { findLayout } from './tables/table-layout.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

describe('atom dumps', () => {
  const dump = (bounds: string, columns: string, rows: string, step = 5, count = 2): string =>
    `ITEM: TIMESTEP\n${step}\nITEM: NUMBER OF ATOMS\n${count}\nITEM: BOX BOUNDS ${bounds}\nITEM: ATOMS ${columns}\n${rows}\n`;
  const positions = (text: string): number[] => Array.from(openWith(atomDump, bytes(text)).readMesh().points);

  it('scale coordinates by the box', () => {
    const text = dump('pp pp pp\n0 10\n-5 5\n2 4', 'id xs ys zs', '1 0.5 0.5 0.5\n2 0 1 0.25');
    expect(positions(text)).toEqual([5, 0, 3, 0, 5, 2.5]);
  });
  it('tilt the box', () => {
    // Edges (10, 0, 0), (3, 8, 0), (-2, 1, 6) from (0, 0, 0): the stated bounds reach around all corners.
    const text = dump(
      'xy xz yz pp pp pp\n-2 13 3\n0 9 -2\n0 6 1',
      'id type xs ys zs',
      '1 1 1 0 0\n2 1 0.5 1 1',
    );
    expect(positions(text)).toEqual([10, 0, 0, 5 + 3 - 2, 8 + 1, 6]);
    const box = openWith(atomDump, bytes(text)).run.parts[1].at(0)!.readMesh();
    expect(Array.from(box.points.subarray(21))).toEqual([11, 9, 6]);
  });
  it('take unwrapped coordinates and columns in any order', () => {
    const text = dump(
      'pp pp pp\n0 1\n0 1\n0 1',
      'vz zu q yu vy xu vx id',
      '3 9 -1 8 2 7 1 1\n6 19 1 18 5 17 4 2',
    );
    const opened = joinComponents(openWith(atomDump, bytes(text)));
    expect(Array.from(opened.readMesh().points)).toEqual([7, 8, 9, 17, 18, 19]);
    const velocity = opened.fields.findIndex((f) => f.name === 'velocity');
    expect(Array.from(opened.readField(velocity))).toEqual([1, 2, 3, 4, 5, 6]);
  });
  it('put numbered columns together and read elements', () => {
    const text = dump(
      'pp pp pp\n0 1\n0 1\n0 1',
      'element x y z c_s[1] c_s[2] c_s[3]',
      'Ni 0 0 0 1 2 3\nAl 1 1 1 4 5 6',
    );
    const opened = joinComponents(openWith(atomDump, bytes(text)));
    expect(opened.fields.map((f) => [f.name, f.components])).toEqual([
      ['element', 1],
      ['c_s', 3],
      ['position', 3],
    ]);
    expect(Array.from(opened.readField(0))).toEqual([28, 13]);
  });
  it('hold frames of any number of atoms', () => {
    const text =
      dump('pp pp pp\n0 1\n0 1\n0 1', 'id x y z', '1 0 0 0', 0, 1) +
      dump('pp pp pp\n0 1\n0 1\n0 1', 'id x y z', '1 0 0 0\n2 1 1 1', 10);
    const opened = openWith(atomDump, bytes(text));
    expect(opened.run.steps).toEqual([0, 10]);
    expect([0, 1].map((s) => opened.run.parts[0].at(s)!.points)).toEqual([1, 2]);
  });
  it('that are cut off or lack coordinates say so', () => {
    expect(() => positions(dump('pp pp pp\n0 1\n0 1\n0 1', 'id x y z', '1 0 0'))).toThrow(
      /2 atoms are announced/,
    );
    expect(() => positions(dump('pp pp pp\n0 1\n0 1\n0 1', 'id q', '1 0\n2 0'))).toThrow(/no coordinates/);
  });
});

describe('XYZ', () => {
  it('plain files have species and places', () => {
    const opened = openWith(extendedXyz, bytes('2\nwater on a tin\nO 0 0 0\nH 0.5 0.25 1e-1\n'));
    expect(Array.from(opened.readMesh().points)).toEqual([0, 0, 0, 0.5, 0.25, 0.1]);
    expect(Array.from(opened.readField(0))).toEqual([8, 1]);
  });
  it('with a wrong count names the frame', () => {
    expect(() => openWith(extendedXyz, bytes('3\n\nO 0 0 0\nH 0 0 1\n'))).toThrow(
      /3 atoms are announced.*ends after 2/,
    );
    expect(() => openWith(extendedXyz, bytes('1\n\nO 0 0 0\nH 0 0 1\n'))).toThrow(/no number of atoms/);
  });
});

describe('structural results in the .frd layout', () => {
  const text = brickFrd;
  const pad = (n: number): string => String(n).padStart(10);
  it('has nodes by their numbers, steps, displacement and stress', () => {
    const opened = openWith(frd, bytes(text));
    expect(opened.run.steps).toEqual([0.5, 1]);
    expect([opened.points, opened.cells]).toEqual([8, 1]);
    expect(Array.from(opened.readMesh().types)).toEqual([12]);
    expect(opened.fields).toEqual([{ name: 'displacement', location: 'point', components: 3, unit: null }]);
    const second = opened.run.parts[0].at(1)!;
    expect(second.fields.map((f) => [f.name, f.components])).toEqual([
      ['displacement', 3],
      ['stress', 6],
    ]);
    expect(Array.from(second.readField(0).slice(18, 21))).toEqual([-0.002, -0.002, -0.002]);
    expect(Array.from(second.readField(1).slice(42))).toEqual([1, 2, 3, 4, 5, 7]);
  });
  it('says what is missing', () => {
    expect(() => openWith(frd, bytes('    1C\n    2C  0\n'))).toThrow(/no nodes/);
    expect(() => openWith(frd, bytes(text.replace(`${pad(17)}\n`, '\n'))).readMesh()).toThrow(
      /has 7 nodes, not 8/,
    );
  });
});

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
});

describe('OBJ', () => {
  it('counts back from the end, keeps groups, lines and polygons', () => {
    const opened = openWith(
      obj,
      bytes(
        'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\ng floor\nf -4 -3 -2 -1\ng rail\nl 1/1 3/2\nf 1//1 2//1 3//1\n',
      ),
    );
    expect(opened.run.parts.map((p) => [p.name, Array.from(p.at(0)!.readMesh().types)])).toEqual([
      ['floor', [9]],
      ['rail', [3, 5]],
    ]);
  });
  it('refuses faces of points that are not there', () => {
    expect(() => openWith(obj, bytes('v 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2 9\n'))).toThrow(/uses point 9 of 3/);
  });
});

it('names that are components come together', () => {
  const said = (names: string[]) =>
    componentNames(names).map((g) => [g.name, g.columns.map((c) => names[c])]);
  expect(said(['DISPX', 'DISPY', 'DISPZ', 'T'])).toEqual([
    ['DISP', ['DISPX', 'DISPY', 'DISPZ']],
    ['T', ['T']],
  ]);
  expect(said(['s_zx', 's_xx', 's_yy', 's_zz', 's_xy', 's_yz'])[1]).toBeUndefined();
  expect(said(['VelocityX', 'VelocityY', 'Index'])).toEqual([
    ['Velocity', ['VelocityX', 'VelocityY']],
    ['Index', ['Index']],
  ]);
});

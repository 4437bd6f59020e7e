import { describe, expect, it } from 'vitest';
import { openWith } from '../../../tests/open-mesh.ts';
import { joinComponents } from '../door/join-components.ts';
import { atomDump } from './atom-dump.ts';

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
  it('are told by their first words, and nothing else is one', () => {
    const is = (text: string): boolean => atomDump.detect(bytes(text), 'a.dump');
    expect([is('ITEM: TIMESTEP\n0\n'), is('ITEM: UNITS\nmetal\n'), is('ITEM: TIME\n0.5\n')]).toEqual([
      true,
      true,
      true,
    ]);
    expect([is('TIMESTEP\n'), is('# ITEM: TIMESTEP\n'), is('')]).toEqual([false, false, false]);
  });
  it('with a stated time go by it, others by the number of the step', () => {
    const timed = `ITEM: TIME\n0.25\n${dump('pp pp pp\n0 1\n0 1\n0 1', 'id x y z', '1 0 0 0\n2 1 1 1')}`;
    const opened = openWith(atomDump, bytes(timed));
    expect([opened.run.steps, opened.run.timeUnit]).toEqual([[0.25], null]);
    const plain = openWith(atomDump, bytes(dump('pp pp pp\n0 1\n0 1\n0 1', 'id x y z', '1 0 0 0\n2 1 1 1')));
    expect([plain.run.steps, plain.run.timeUnit]).toEqual([[5], 'steps']);
  });
  it('with edges stated as vectors have that box', () => {
    const text = dump('abc origin pp pp pp\n4 0 0 1\n1 5 0 2\n0 1 6 3', 'id xs ys zs', '1 0 0 0\n2 1 1 1');
    expect(positions(text)).toEqual([1, 2, 3, 6, 8, 9]);
  });
  it('cut off in a later frame show those before, and say so', () => {
    const whole = dump('pp pp pp\n0 1\n0 1\n0 1', 'id x y z', '1 0 0 0\n2 1 1 1', 0);
    const opened = openWith(atomDump, bytes(whole + whole.slice(0, -14)));
    expect(opened.run.steps).toEqual([0]);
    expect(opened.findings.list[0]).toMatch(/cut off in frame 2.*ends after 1/);
    const headed = openWith(atomDump, bytes(`${whole}ITEM: TIMESTEP\n20\nITEM: NUMBER OF ATOMS\n2\n`));
    expect(headed.findings.list[0]).toMatch(/its atoms are missing/);
  });
  it('with damaged boxes or counts are refused by place', () => {
    const atoms = '1 0 0 0\n2 1 1 1';
    expect(() => positions(dump('pp pp pp\n0 x\n0 1\n0 1', 'id x y z', atoms))).toThrow(/bounds of the box/);
    expect(() => positions(dump('pp pp pp\n0 1\n0 1\n0 1', 'id x y z', atoms, 5, 1.5))).toThrow(
      /no number of atoms|announced/,
    );
  });
  it('of a flat simulation lie in the plane', () => {
    expect(positions(dump('pp pp pp\n0 1\n0 1\n0 1', 'id x y', '1 0.5 0.25\n2 1 1'))).toEqual([
      0.5, 0.25, 0, 1, 1, 0,
    ]);
  });
});

import { describe, expect, it } from 'vitest';
import { openWith } from '../../../tests/open-mesh.ts';
import { extendedXyz } from './extended-xyz.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const open = (text: string) => openWith(extendedXyz, bytes(text));

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
  it('are told by a count and a row of places', () => {
    const is = (text: string): boolean => extendedXyz.detect(bytes(text), 'a.xyz');
    expect([is('1\n\nO 0 0 0\n'), is(' 2 \nx\nO 0.5 -1e3 .5\n')]).toEqual([true, true]);
    expect([is('1,2,3\n4,5,6\n'), is('O 0 0 0\n'), is('2\n\nO 0 0\n')]).toEqual([false, false, false]);
  });
  it('have a box by three edges, with or without an origin', () => {
    const box = (comment: string): number[] => {
      const part = open(`1\n${comment}\nO 0 0 0\n`).run.parts[1];
      return Array.from(part.at(0)!.readMesh().points.subarray(21));
    };
    expect(box('Lattice="4 0 0 1 5 0 0 1 6"')).toEqual([5, 6, 6]);
    expect(box('Lattice="4 0 0 1 5 0 0 1 6" Origin="1 2 3"')).toEqual([6, 8, 9]);
    expect(() => open('1\nLattice="4 0 0"\nO 0 0 0\n')).toThrow(/not nine numbers/);
  });
  it('have properties of any width, by name', () => {
    const opened = open(
      '2\nProperties=species:S:1:pos:R:3:velo:R:3:charge:R:1:fixed:L:1\nO 0 0 0 1 2 3 -2 T\nH 1 1 1 4 5 6 1 F\n',
    );
    expect(opened.fields.map((f) => [f.name, f.components])).toEqual([
      ['species', 1],
      ['velocity', 3],
      ['charge', 1],
      ['fixed', 1],
      ['position', 3],
    ]);
    expect(Array.from(opened.readField(1))).toEqual([1, 2, 3, 4, 5, 6]);
    expect(Array.from(opened.readField(3))).toEqual([1, 0]);
    expect(() => open('1\nProperties=pos:R:x\nO 0 0 0\n')).toThrow(/is no property/);
    expect(() => open('1\nProperties=species:S:1\nO\n').readMesh()).toThrow(/no positions/);
  });
  it('go by the time or the step they state', () => {
    const frames = (key: string): string => [0, 1].map((i) => `1\n${key}=${i / 2}\nO 0 0 ${i}\n`).join('');
    expect(open(frames('Time')).run.steps).toEqual([0, 0.5]);
    expect(open(frames('time_ps')).run.timeUnit).toBe('ps');
    expect(open(frames('step')).run.timeUnit).toBe('steps');
    expect(open('1\n\nO 0 0 0\n').run.steps).toEqual([null]);
  });
  it('of atoms no table knows count their kinds in order', () => {
    expect(Array.from(open('3\n\nQx 0 0 0\nQy 0 0 1\nQx 0 0 2\n').readField(0))).toEqual([1, 2, 1]);
  });
  it('cut off in a later frame show those before, and say so', () => {
    const opened = open('1\n\nO 0 0 0\n2\n\nO 0 0 1\n');
    expect(opened.run.steps).toHaveLength(1);
    expect(opened.findings.list[0]).toMatch(/cut off in frame 2.*ends after 1/);
  });
});

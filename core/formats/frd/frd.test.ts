import { describe, expect, it } from 'vitest';
import { brickFrd, brickModes } from '../../../tests/frd-text.ts';
import { openWith } from '../../../tests/open-mesh.ts';
import { frd } from './frd.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

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
  it('are told by their first blocks', () => {
    const is = (given: string): boolean => frd.detect(bytes(given), 'a.frd');
    expect([is(text), is(text.slice(1)), is('1C\n2C\n')]).toEqual([true, false, false]);
  });
  it('with mode shapes number and name them, with their frequency', () => {
    const { run } = openWith(frd, bytes(brickModes));
    expect(run.steps).toEqual([1, 3012.5, 8059]);
    expect(run.stepNames).toEqual([
      { kind: 'load case', number: null },
      { kind: 'mode', number: 7 },
      { kind: 'mode', number: 8 },
    ]);
    const shape = run.parts[0].at(2)!;
    expect(Array.from(shape.readField(0).slice(18, 21))).toEqual([-1, -1, -1]);
  });
  it('cut off in a result show what stands before, and say which is left out', () => {
    const cut = text.slice(0, text.indexOf('-4  STRESS') + 300);
    const opened = openWith(frd, bytes(cut));
    expect(opened.run.parts[0].at(1)!.fields.map((f) => f.name)).toEqual(['displacement']);
    expect(opened.findings.list.join()).toMatch(/stress is cut off and is left out/);
  });
  it('cut off in the mesh, or binary, are refused', () => {
    expect(() => openWith(frd, bytes(text.slice(0, text.indexOf(' -3'))))).toThrow(/announced|ends before/);
    expect(() => openWith(frd, bytes(text.replace(/^( {4}2C.*)1$/m, '$12')))).toThrow(/binary files/);
  });
  it('with several materials have them as part sets', () => {
    const second = ` -1${pad(8)}    1    0    5\n -2${[10, 11, 12, 13, 14, 15, 16, 17].map(pad).join('')}\n`;
    const two = text.replace(/( {4}3C {29})1/, '$12').replace(/( -2 .*\n) -3/, `$1${second} -3`);
    const groups = openWith(frd, bytes(two)).readGroups!();
    expect(groups.map((g) => [g.name, Array.from(g.cells)])).toEqual([
      ['material 2', [0]],
      ['material 5', [1]],
    ]);
  });
  it('with elements it does not know leave them out and say so', () => {
    const odd = text.replace(' -1         7    1    0    2', ' -1         7   99    0    2');
    const opened = openWith(frd, bytes(odd));
    expect(opened.readMesh().types).toHaveLength(0);
    expect(opened.findings.list.join()).toMatch(/1 elements of unknown types/);
  });
});

import { describe, expect, it } from 'vitest';
import { openWith } from '../../../tests/open-mesh.ts';
import { obj } from './obj.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

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
  it('is told by its words alone', () => {
    const is = (text: string): boolean => obj.detect(bytes(text), 'a.obj');
    expect(is('# made by hand\nv 0 0 0\nvn 0 0 1\nf 1 1 1\n')).toBe(true);
    expect([is('v 0 0 0\nmelt 3\n'), is('f 1 2 3\n'), is('v,0,0\n')]).toEqual([false, false, false]);
  });
  it('has the points a group uses, in the order of their first use', () => {
    const opened = openWith(obj, bytes('v 9 9 9\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 4 2 3\n'));
    const mesh = opened.readMesh();
    expect(Array.from(mesh.points)).toEqual([0, 1, 0, 0, 0, 0, 1, 0, 0]);
    expect(Array.from(mesh.connectivity)).toEqual([0, 1, 2]);
  });
  it('has triangles, quads, polygons, lines and polylines', () => {
    const points = Array.from({ length: 5 }, (_, i) => `v ${Math.cos(i)} ${Math.sin(i)} 0`).join('\n');
    const opened = openWith(obj, bytes(`${points}\nf 1 2 3\nf 1 2 3 4\nf 1 2 3 4 5\nl 1 2\nl 1 2 3\n`));
    expect(Array.from(opened.readMesh().types)).toEqual([5, 9, 7, 3, 4]);
  });
  it('leaves out faces with too few corners, says so, and refuses what has none and what is no number', () => {
    const opened = openWith(obj, bytes('v 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2\nf 1 2 3\n'));
    expect(opened.cells).toBe(1);
    expect(opened.findings.list).toEqual(['faces with too few corners are left out']);
    expect(() => openWith(obj, bytes('v 0 0 0\n'))).toThrow(/no faces or lines/);
    expect(() => openWith(obj, bytes('v 0 x 0\nf 1 1 1\n'))).toThrow(/"x" is not a number/);
  });
});

import { describe, expect, it } from 'vitest';
import { openWith } from '../../../tests/open-mesh.ts';
import { stl } from './stl.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const open = (data: Uint8Array) => openWith(stl, data);

const facet = (...corners: number[][]): string =>
  `facet normal 0 0 1\n outer loop\n${corners.map((c) => `  vertex ${c.join(' ')}\n`).join('')} endloop\nendfacet\n`;
const square = facet([0, 0, 0], [1, 0, 0], [1, 1, 0]) + facet([0, 0, 0], [1, 1, 0], [0, 1, 0]);

/** A binary file of triangles: a header of 80 bytes, a count, 50 bytes a triangle. */
function binary(triangles: number[][], count = triangles.length): Uint8Array {
  const out = new DataView(new ArrayBuffer(84 + 50 * triangles.length));
  out.setUint32(80, count, true);
  for (const [t, corners] of triangles.entries())
    for (const [k, v] of corners.entries()) out.setFloat32(84 + 50 * t + 12 + 4 * k, v, true);
  return new Uint8Array(out.buffer);
}

describe('STL', () => {
  it('is told by its text, or by its ending where it is binary', () => {
    expect(stl.detect(bytes(`solid tin\n${square}`), 'x')).toBe(true);
    expect(stl.detect(binary([[0, 0, 0, 1, 0, 0, 0, 1, 0]]), 'tin.stl')).toBe(true);
    expect(stl.detect(binary([[0, 0, 0, 1, 0, 0, 0, 1, 0]]), 'tin.bin')).toBe(false);
    expect(stl.detect(bytes('solid ground was found'), 'x')).toBe(false);
    expect(stl.detect(bytes(`<?xml version="1.0"?>${' '.repeat(90)}`), 'a.stl')).toBe(false);
  });
  it('as text and as bytes is the same surface, with corners at one place as one point', () => {
    const text = open(bytes(`solid\n${square}endsolid\n`)).readMesh();
    const raw = open(
      binary([
        [0, 0, 0, 1, 0, 0, 1, 1, 0],
        [0, 0, 0, 1, 1, 0, 0, 1, 0],
      ]),
    ).readMesh();
    for (const mesh of [text, raw]) {
      expect(mesh.points).toHaveLength(12);
      expect(Array.from(mesh.types)).toEqual([5, 5]);
      const shared = new Set(Array.from(mesh.connectivity.subarray(0, 3)));
      expect(Array.from(mesh.connectivity.subarray(3)).filter((p) => shared.has(p))).toHaveLength(2);
    }
  });
  it('with several solids has a part for each, by its name', () => {
    const { run } = open(bytes(`solid door\n${square}endsolid door\nsolid left hinge\n${square}endsolid\n`));
    expect(run.parts.map((p) => p.name)).toEqual(['door', 'left hinge']);
    expect(open(bytes(`solid door\n${square}endsolid\n`)).run.parts[0].name).toBeNull();
  });
  it('cut off as text shows the triangles before, and says so', () => {
    const cut = `solid tin\n${square}`;
    const opened = open(bytes(cut.slice(0, cut.lastIndexOf('vertex'))));
    expect(opened.cells).toBe(1);
    expect(opened.findings.list[0]).toMatch(/cut off in its last solid: the 1 triangles/);
  });
  it('that announces more than is there, holds none, or no numbers, is refused', () => {
    expect(() => open(binary([[0, 0, 0, 1, 0, 0, 0, 1, 0]], 2))).toThrow(
      /2 triangles need 184 bytes but the file has 134/,
    );
    expect(() => open(binary([]))).toThrow(/0 triangles/);
    expect(() => open(bytes('solid a\nfacet normal 0 0 1\nendsolid\n'))).toThrow(/no triangles/);
    expect(() => open(bytes('solid a\nfacet normal 0 0 1\nvertex 0 x 0\nendsolid\n'))).toThrow(
      /"x" is not a number/,
    );
  });
});

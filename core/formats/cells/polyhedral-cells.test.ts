import { describe, expect, it } from 'vitest';
import { openWith } from '../../../tests/open-mesh.ts';
import { HEXAHEDRON, POLYHEDRON, PYRAMID, TETRA, WEDGE } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';
import { runChain, sourceOf } from '../../ops/chain/chain.ts';
import { Findings } from '../door/findings.ts';
import { admitMesh } from '../door/mesh-door.ts';
import { vtkXmlUnstructured } from '../vtk-xml/vtk-xml-unstructured.ts';
import { writeVtu } from '../vtk-xml/vtk-xml-write.ts';
import { cellsOfFaces } from './polyhedral-cells.ts';

/** Cells from lists of faces, each cell with faces of its own. */
function build(cells: number[][][]) {
  const faces = cells.flat();
  const starts = [0];
  for (const f of faces) starts.push(starts[starts.length - 1] + f.length);
  const cellStarts = [0];
  for (const c of cells) cellStarts.push(cellStarts[cellStarts.length - 1] + c.length);
  return cellsOfFaces(
    Uint32Array.from(cellStarts),
    Uint32Array.from(faces.keys()),
    Uint32Array.from(starts),
    Uint32Array.from(faces.flat()),
  );
}

const cubeFaces = [
  [0, 3, 2, 1],
  [4, 5, 6, 7],
  [0, 1, 5, 4],
  [1, 2, 6, 5],
  [2, 3, 7, 6],
  [3, 0, 4, 7],
];

describe('cells told by their faces', () => {
  it('are recognised where they are simple', () => {
    const tetra = [
      [0, 2, 1],
      [0, 1, 3],
      [1, 2, 3],
      [0, 3, 2],
    ];
    const pyramid = [
      [0, 3, 2, 1],
      [0, 1, 4],
      [1, 2, 4],
      [2, 3, 4],
      [3, 0, 4],
    ];
    const wedge = [
      [0, 2, 1],
      [3, 4, 5],
      [0, 1, 4, 3],
      [1, 2, 5, 4],
      [2, 0, 3, 5],
    ];
    expect(Array.from(build([cubeFaces, tetra, pyramid, wedge]).types)).toEqual([
      HEXAHEDRON,
      TETRA,
      PYRAMID,
      WEDGE,
    ]);
    const { connectivity } = build([cubeFaces]);
    expect(Array.from(connectivity)).toEqual([0, 3, 2, 1, 4, 7, 6, 5]);
  });
  it('stay polyhedra where they are not', () => {
    const split = [...cubeFaces.slice(1), [0, 3, 2], [0, 2, 1]];
    const made = build([split]);
    expect(made.types[0]).toBe(POLYHEDRON);
    expect(new Set(made.connectivity)).toEqual(new Set([0, 1, 2, 3, 4, 5, 6, 7]));
  });
});

/** A prism over a regular hexagon of radius 1 and height 2, every one of its faces given. */
function hexagonalPrism(): Mesh {
  const ring = (z: number) =>
    Array.from({ length: 6 }, (_, i) => [Math.cos((i * Math.PI) / 3), Math.sin((i * Math.PI) / 3), z]);
  const faces = [
    [5, 4, 3, 2, 1, 0],
    [6, 7, 8, 9, 10, 11],
    ...Array.from({ length: 6 }, (_, i) => [i, (i + 1) % 6, 6 + ((i + 1) % 6), 6 + i]),
  ];
  const made = build([faces]);
  return { points: Float32Array.from([...ring(0), ...ring(2)].flat()), ...made } as Mesh;
}

function area({ points: p, offsets, connectivity, types }: Mesh): number {
  let sum = 0;
  for (let c = 0; c < types.length; c++) {
    for (let k = 1; k + 1 < offsets[c + 1] - offsets[c]; k++) {
      const [a, b, d] = [0, k, k + 1].map((i) => 3 * connectivity[offsets[c] + i]);
      const u = [0, 1, 2].map((i) => p[b + i] - p[a + i]);
      const v = [0, 1, 2].map((i) => p[d + i] - p[a + i]);
      sum += Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
    }
  }
  return sum;
}

describe('polyhedra', () => {
  const prism = hexagonalPrism();
  const hexagon = (3 * Math.sqrt(3)) / 2;
  it('have the surface of their faces (closed formula)', () => {
    const { mesh } = runChain(sourceOf(prism), []);
    expect(mesh.types).toHaveLength(8);
    expect(area(mesh)).toBeCloseTo(2 * hexagon + 12, 5);
  });
  it('are cut to their cross-section (closed formula)', () => {
    const cut = (normal: number[], offset: number) =>
      area(runChain(sourceOf(prism), [{ op: 'section', options: { normal, offset, locked: false } }]).mesh);
    expect(cut([0, 0, 1], 0.7)).toBeCloseTo(hexagon, 5);
    expect(cut([1, 0, 0], 0)).toBeCloseTo(2 * Math.sqrt(3), 5);
    // A slanted plane: the cross-section grows by the cosine of its tilt.
    const tilt = Math.PI / 8;
    expect(cut([Math.sin(tilt), 0, Math.cos(tilt)], Math.cos(tilt))).toBeCloseTo(hexagon / Math.cos(tilt), 5);
  });
  it('come back as written in VTK XML', () => {
    const bytes = writeVtu(prism, []);
    const mesh = openWith(vtkXmlUnstructured, bytes).readMesh();
    expect(mesh.polyhedra).toEqual(prism.polyhedra);
    expect(Array.from(mesh.types)).toEqual([POLYHEDRON]);
  });
  it('with faces that name no point are refused', () => {
    const bad = {
      ...prism,
      polyhedra: { ...prism.polyhedra!, faces: prism.polyhedra!.faces.map((n) => (n === 11 ? 99 : n)) },
    };
    expect(() => admitMesh(bad, new Findings())).toThrow(/out of range/);
  });
});

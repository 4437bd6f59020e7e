import { contours } from 'd3-contour';
import fc from 'fast-check';
import { marchingCubes } from 'isosurface';
import { describe, expect, it } from 'vitest';
import {
  enclosed,
  fieldOf,
  hexBlockBetween,
  mixedBlock,
  quadSheet,
  seeded,
  tetraBlock,
} from '../../../tests/made-solids.ts';
import { area, edgeUses, pointValues, withFields } from '../../../tests/mesh-checks.ts';
import { cellMeasures } from '../../fields/cell-measures.ts';
import type { Mesh } from '../../model/mesh.ts';
import { replay } from '../../model/recipe.ts';
import { apply, type ChainStep, runChain, sourceOf } from './chain.ts';

const step = (op: string, options: object = {}): ChainStep => ({ op, options });
const volume = (mesh: Mesh): number => cellMeasures(mesh).reduce((a, b) => a + Math.abs(b), 0);
const iso = (value: number): ChainStep =>
  step('isosurface', { field: 'f', component: 0, levels: { kind: 'list', values: [value] } });

describe('isosurfaces', () => {
  it('of a linear field are the plane of the closed formula', () => {
    for (const mesh of [tetraBlock(3), hexBlockBetween(3), mixedBlock(3)]) {
      const data = fieldOf(mesh, (x, y, z) => 2 * x + y - z);
      // The hexagon-shaped section of the cube by 2x + y - z = 0: through the middle, its area is |n| / |n_x| times its
      // shadow on y z, which is the whole square of side 2.
      const { mesh: out } = runChain(withFields(mesh, { f: { data } }), [iso(0)]);
      expect(area(out)).toBeCloseTo((4 * Math.sqrt(6)) / 2, 5);
    }
  });

  const errorsOf = (f: (x: number, y: number, z: number) => number, value: number, exact: number): number[] =>
    [12, 24].map((n) => {
      const mesh = tetraBlock(n);
      const { mesh: out } = runChain(withFields(mesh, { f: { data: fieldOf(mesh, f) } }), [iso(value)]);
      for (const uses of edgeUses(out).values()) expect(uses).toBe(2);
      return Math.abs(area(out) - exact);
    });
  it.each([
    ['sphere', (x: number, y: number, z: number) => x * x + y * y + z * z, 0.64, 4 * Math.PI * 0.64],
    [
      'torus',
      (x: number, y: number, z: number) => (Math.hypot(x, y) - 0.6) ** 2 + z * z,
      0.09,
      4 * Math.PI ** 2 * 0.6 * 0.3,
    ],
  ] as const)('of a %s are closed and converge with order 2', (_, f, value, exact) => {
    const [coarse, fine] = errorsOf(f, value, exact);
    expect(fine).toBeLessThan(0.02 * exact);
    expect(Math.log2(coarse / fine)).toBeGreaterThan(1.6);
  });

  it('have no cracks between cells of different kinds, for any field', () => {
    const mesh = mixedBlock(4);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const random = seeded(seed);
        // Noise that is low on the rim, so that the surface closes inside.
        const data = fieldOf(mesh, (x, y, z) =>
          Math.max(Math.abs(x), Math.abs(y), Math.abs(z)) > 0.99 ? -1 : random() * 2 - 0.8,
        );
        const { mesh: out } = runChain(withFields(mesh, { f: { data } }), [iso(0)]);
        for (const uses of edgeUses(out).values()) expect(uses % 2).toBe(0);
      }),
      { seed: 7, numRuns: 40 },
    );
  });

  it('of image data have the area of a general-purpose marching cubes package', () => {
    const n = 24;
    const f = (x: number, y: number, z: number): number => x * x + 1.3 * y * y + 0.8 * z * z - 0.5;
    const mesh = hexBlockBetween(n);
    const { mesh: out } = runChain(withFields(mesh, { f: { data: fieldOf(mesh, f) } }), [iso(0)]);
    const theirs = marchingCubes([n + 1, n + 1, n + 1], f, [
      [-1, -1, -1],
      [1 + 2 / n, 1 + 2 / n, 1 + 2 / n],
    ]);
    let sum = 0;
    for (const [a, b, c] of theirs.cells) {
      const [u, v] = [theirs.positions[b], theirs.positions[c]].map((q) =>
        q.map((w, k) => w - theirs.positions[a][k]),
      );
      sum += Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
    }
    expect(Math.abs(area(out) / sum - 1)).toBeLessThan(0.01);
  });

  it('show several values at once, say where values lie, and average cell fields first', () => {
    const mesh = hexBlockBetween(4);
    const source = withFields(mesh, {
      f: { data: fieldOf(mesh, (x) => x) },
      cells: { location: 'cell', data: Float32Array.from({ length: 64 }, (_, c) => c % 4) },
    });
    const many = runChain(source, [
      step('isosurface', {
        field: 'f',
        component: 0,
        levels: { kind: 'count', low: -0.6, high: 0.6, count: 4 },
      }),
    ]);
    expect(area(many.mesh)).toBeCloseTo(16, 5);
    const none = runChain(source, [iso(7)]);
    expect(none.mesh.types).toHaveLength(0);
    expect(none.report().within).toMatchObject({ low: -1, high: 1 });
    const smooth = runChain(source, [
      step('isosurface', { field: 'cells', component: 0, levels: { kind: 'list', values: [1.5] } }),
    ]);
    expect(area(smooth.mesh)).toBeCloseTo(4, 5);
    const lacking = runChain(source, [
      step('isosurface', { field: 'point:heat', component: 0, levels: { kind: 'list', values: [1] } }),
    ]);
    expect(lacking.mesh.types).toHaveLength(0);
    expect(lacking.report().lacking).toBe('heat');
  });
});

describe('contour lines', () => {
  it('have the length of those of a general-purpose package on the same picture', () => {
    const n = 40;
    const mesh = quadSheet(n, n, [0, n], [0, n]);
    const f = (x: number, y: number): number => Math.sin(x / 6) + Math.cos(y / 9);
    const data = fieldOf(mesh, f);
    const lines = runChain(withFields(mesh, { f: { data } }), [
      step('contour-lines', { field: 'f', component: 0, levels: { kind: 'list', values: [0.45] } }),
    ]);
    const ours = cellMeasures(lines.mesh).reduce((a, b) => a + b, 0);
    const [theirs] = contours()
      .size([n + 1, n + 1])
      .thresholds([0.45])(Array.from(data));
    let length = 0;
    for (const polygon of theirs.coordinates)
      for (const ring of polygon)
        for (let i = 0; i + 1 < ring.length; i++) {
          const [a, b] = [ring[i], ring[i + 1]];
          // That package closes areas along the rim of the picture; those pieces are no contour.
          const rim = [0, 1].some((k) => [a, b].every((q) => q[k] < 0.51 || q[k] > n + 0.49));
          if (!rim) length += Math.hypot(a[0] - b[0], a[1] - b[1]);
        }
    expect(Math.abs(ours / length - 1)).toBeLessThan(0.03);
  });
  it('lie on the outer faces of a body, each at its value, with labels on long lines', () => {
    const mesh = hexBlockBetween(6);
    const data = fieldOf(mesh, (x, y) => x + 0.3 * y);
    const out = runChain(withFields(mesh, { f: { data } }), [
      step('contour-lines', {
        field: 'f',
        component: 0,
        levels: { kind: 'count', count: 5, low: -2 / 3, high: 2 / 3 },
        labels: true,
      }),
    ]);
    expect(out.mesh.types.every((t) => t === 3)).toBe(true);
    const values = pointValues(out, data);
    for (const v of values)
      expect(Math.min(...[-2 / 3, -1 / 3, 0, 1 / 3, 2 / 3].map((l) => Math.abs(l - v)))).toBeLessThan(1e-5);
    expect(out.result!.labels!.length).toBeGreaterThanOrEqual(5);
    for (const { line, text } of out.result!.labels!)
      for (const point of line)
        expect(Math.abs(values[point] - Number(text.replace('−', '-')))).toBeLessThan(0.004);
  });
});

describe('keep where', () => {
  const mesh = hexBlockBetween(4);
  const data = fieldOf(mesh, (x, y, z) => x + y + z);
  const source = () =>
    withFields(mesh, {
      'point:heat': { data },
      'set:tins': { location: 'cell', data: Float32Array.from({ length: 64 }, (_, c) => Number(c < 8)) },
    });
  const keep = (condition: string, names: object = {}, of = 'cells') =>
    apply(source(), step('keep-where', { by: 'condition', condition, names, of }));
  const heat = { heat: { need: { field: 'point:heat' }, component: 0 } };
  it('by a condition on fields, place, number, type and part set, with the count', () => {
    expect(keep('x > 0').mesh.types).toHaveLength(32);
    expect(keep('x > 0 and not (y > 0 or z > 0)').mesh.types).toHaveLength(8);
    expect(keep('id < 10').mesh.types).toHaveLength(10);
    expect(keep('type == "hexahedron"').mesh.types).toHaveLength(64);
    expect(keep('type == "tetra"').mesh.types).toHaveLength(0);
    expect(keep('tins = 1', { tins: { need: { field: 'set:tins' }, component: 0 } }).mesh.types).toHaveLength(
      8,
    );
    const hot = keep('heat >= 0.1', heat);
    const middles = Array.from({ length: 64 }, (_, c) =>
      Array.from(mesh.connectivity.subarray(8 * c, 8 * c + 8)).reduce((s, p) => s + data[p] / 8, 0),
    );
    const expected = middles.filter((v) => v >= 0.1).length;
    hot.outer();
    expect(hot.mesh.types).toHaveLength(expected);
    expect(hot.report()).toMatchObject({ kept: expected, of: 64, what: 'cells' });
  });
  it('by points, and by the range of a field', () => {
    const dots = keep('heat > 2', heat, 'points');
    expect(dots.mesh.types.every((t) => t === 1)).toBe(true);
    expect(dots.mesh.types.length).toBe(data.filter((v) => v > 2).length);
    const range = apply(
      source(),
      step('keep-where', { field: 'point:heat', component: 0, low: -0.3, high: 0.3 }),
    );
    expect(range.mesh.types.length).toBeGreaterThan(0);
    expect(range.mesh.types.length).toBeLessThan(64);
  });
});

describe('deform', () => {
  it('moves points by factor times displacement, of this or another step', () => {
    const mesh = hexBlockBetween(2);
    const now = Float32Array.from(mesh.points, (v) => 0.1 * v);
    const source = withFields(mesh, {
      u: { data: now, components: 3 },
      'u@0': { data: new Float32Array(mesh.points.length), components: 3 },
    });
    const bigger = apply(source, step('deform', { field: 'u', mode: 'factor', factor: 5 }));
    expect(volume(bigger.mesh)).toBeCloseTo(8 * 1.5 ** 3, 4);
    expect(enclosed(bigger.outer().mesh)).toBeCloseTo(8 * 1.5 ** 3, 4);
    const first = apply(source, step('deform', { field: 'u', mode: 'factor', factor: 5, step: 0 }));
    expect(volume(first.mesh)).toBeCloseTo(8, 5);
  });
});

describe('mirror', () => {
  const half = hexBlockBetween(2, 0, 1);
  const vectors = Float32Array.from(half.points, (_, i) => Math.sin(i));
  const n = half.points.length / 3;
  const six = Float32Array.from({ length: 6 * n }, (_, i) => Math.cos(i));
  const normal = [0.48, 0.6, 0.64];

  it('reflects vectors and tensors exactly, axial vectors the other way', () => {
    const source = withFields(half, {
      v: { data: vectors, components: 3 },
      w: { data: vectors, components: 3, axial: true },
      s: { data: six, components: 6 },
    });
    const image = apply(source, step('mirror', { normal, offset: -0.7, both: false }));
    const q = [0, 1, 2].map((r) => [0, 1, 2].map((c) => Number(r === c) - 2 * normal[r] * normal[c]));
    const [v, w, s] = ['v', 'w', 's'].map((field) => image.field({ field })!.data);
    const at = [
      [0, 3, 5],
      [3, 1, 4],
      [5, 4, 2],
    ];
    for (let p = 0; p < n; p++) {
      const own = vectors.subarray(3 * p, 3 * p + 3);
      for (let r = 0; r < 3; r++) {
        const expected = q[r].reduce((sum, x, c) => sum + x * own[c], 0);
        expect(v[3 * p + r]).toBeCloseTo(expected, 5);
        expect(w[3 * p + r]).toBeCloseTo(-expected, 5);
        for (let c = r; c < 3; c++) {
          let t = 0;
          for (let a = 0; a < 3; a++)
            for (let b = 0; b < 3; b++) t += q[r][a] * six[6 * p + at[a][b]] * q[c][b];
          expect(s[6 * p + at[r][c]]).toBeCloseTo(t, 5);
        }
      }
    }
  });

  it('joins the halves at the seam: one closed body with right-handed cells', () => {
    const whole = apply(sourceOf(half), step('mirror', { normal: [1, 0, 0], offset: 0 }));
    expect(volume(whole.mesh)).toBeCloseTo(2, 5);
    expect(Math.min(...cellMeasures(whole.mesh))).toBeGreaterThan(0);
    for (const outer of [whole.outer().mesh, sourceOf(whole.mesh).outer().mesh]) {
      expect(area(outer)).toBeCloseTo(10, 5);
      for (const uses of edgeUses(outer).values()) expect(uses).toBe(2);
    }
    const twice = runChain(sourceOf(half), [
      step('mirror', { normal: [1, 0, 0], offset: 0 }),
      step('mirror', { normal: [0, 1, 0], offset: 0 }),
      step('mirror', { normal: [0, 0, 1], offset: 0 }),
    ]);
    expect(area(twice.mesh)).toBeCloseTo(24, 4);
  });

  it('keeps values through a section across the seam', () => {
    const source = withFields(half, { v: { data: vectors, components: 3 } });
    const cut = runChain(source, [
      step('mirror', { normal: [1, 0, 0], offset: 0 }),
      step('section', { normal: [0, 0, 1], offset: 0.5 }),
    ]);
    const { gather } = cut.route('point');
    const x = replay(gather!, vectors, 3, 0);
    const y = replay(gather!, vectors, 3, 1);
    const { points } = cut.mesh;
    const find = (px: number, py: number): number =>
      Array.from({ length: x.length }, (_, i) => i).find(
        (i) => Math.hypot(points[3 * i] - px, points[3 * i + 1] - py) < 1e-5,
      )!;
    expect(x[find(-0.5, 0.5)]).toBeCloseTo(-x[find(0.5, 0.5)], 5);
    expect(y[find(-0.5, 0.5)]).toBeCloseTo(y[find(0.5, 0.5)], 5);
  });
});

describe('revolve and extrude', () => {
  // A rectangle beside the axis: by Pappus its turn has the volume 2 pi times the middle radius times its area; n flat
  // pieces a turn give sin(d) / d of it, d the angle of a piece.
  const exact = (sweep: number, segments: number): number => {
    const d = (2 * Math.PI) / segments;
    return ((sweep * Math.PI) / 180) * 1.5 * (1 * 2) * (Math.sin(d) / d);
  };
  it.each([360, 270, 90])('by %d degrees has the volume of Pappus', (sweep) => {
    const turned = apply(
      sourceOf(quadSheet(2, 3, [1, 2], [0, 2])),
      step('revolve', { axis: [0, 1, 0], sweep, segments: 36 }),
    );
    expect(volume(turned.mesh)).toBeCloseTo(exact(sweep, 36), 4);
    for (const outer of [turned.outer().mesh, sourceOf(turned.mesh).outer().mesh])
      expect(Math.abs(area(outer) / area(turned.outer().mesh) - 1)).toBeLessThan(1e-4);
    const cells = sourceOf(turned.mesh).outer().mesh;
    for (const uses of edgeUses(cells).values()) expect(uses).toBe(2);
    expect(enclosed(cells)).toBeCloseTo(exact(sweep, 36), 4);
  });
  it('closes at the axis: triangles and quadrilaterals there become smaller cells', () => {
    const sheet = quadSheet(2, 2, [0, 1], [0, 1]);
    const triangles: Mesh = {
      points: sheet.points,
      types: new Uint8Array(8).fill(5),
      offsets: Uint32Array.from({ length: 9 }, (_, c) => 3 * c),
      connectivity: Uint32Array.from({ length: 4 }, (_, c) => c).reduce((all, c) => {
        const [a, b, d, e] = sheet.connectivity.subarray(4 * c, 4 * c + 4);
        all.set([a, b, d, a, d, e], 6 * c);
        return all;
      }, new Uint32Array(24)),
    };
    const d = (2 * Math.PI) / 24;
    for (const mesh of [sheet, triangles]) {
      const turned = apply(sourceOf(mesh), step('revolve', { axis: [0, 1, 0], sweep: 360, segments: 24 }));
      expect(volume(turned.mesh)).toBeCloseTo((Math.PI * Math.sin(d)) / d, 4);
      for (const uses of edgeUses(sourceOf(turned.mesh).outer().mesh).values()) expect(uses).toBe(2);
    }
  });
  it('turns vectors with their place: radial stays radial, the third component goes round', () => {
    const sheet = quadSheet(1, 1, [1, 2], [0, 1]);
    const v = Float32Array.from({ length: 12 }, (_, i) => [1, 0, 0.5][i % 3]);
    const turned = apply(
      withFields(sheet, { v: { data: v, components: 3 } }),
      step('revolve', { axis: [0, 1, 0], sweep: 360, segments: 12 }),
    );
    const { data } = turned.field({ field: 'v' })!;
    const { points } = turned.mesh;
    for (let i = 0; i < points.length; i += 3) {
      const r = Math.hypot(points[i], points[i + 2]);
      expect((data[i] * points[i] + data[i + 2] * points[i + 2]) / r).toBeCloseTo(1, 5);
      expect((-data[i] * points[i + 2] + data[i + 2] * points[i]) / r).toBeCloseTo(0.5, 5);
      expect(data[i + 1]).toBeCloseTo(0, 5);
    }
  });
  it('extrudes to the product of area and length', () => {
    const body = apply(
      sourceOf(quadSheet(3, 2, [0, 1], [0, 2])),
      step('extrude', { along: [0, 0, 1], length: 0.7, layers: 3 }),
    );
    expect(volume(body.mesh)).toBeCloseTo(1.4, 5);
    expect(enclosed(sourceOf(body.mesh).outer().mesh)).toBeCloseTo(1.4, 5);
    expect(area(body.outer().mesh)).toBeCloseTo(4 + 0.7 * 6, 5);
  });
});

describe('repeat', () => {
  it('makes a wheel of a sector, without a gap at its seams', () => {
    const sector = apply(
      sourceOf(quadSheet(2, 2, [1, 2], [0, 1])),
      step('revolve', { axis: [0, 1, 0], sweep: 60, segments: 36 }),
    );
    const wheel = apply(sector, step('repeat', { how: 'around', axis: [0, 1, 0], count: 6, angle: 60 }));
    expect(volume(wheel.mesh)).toBeCloseTo(6 * volume(sector.mesh), 4);
    const outer = sourceOf(wheel.mesh).outer().mesh;
    for (const uses of edgeUses(outer).values()) expect(uses).toBe(2);
    // Inner, outer, lower and upper faces only: no walls between the sectors.
    expect(area(wheel.outer().mesh)).toBeCloseTo(area(outer), 3);
  });
  it('along a line', () => {
    const row = apply(
      sourceOf(hexBlockBetween(2)),
      step('repeat', { how: 'along', count: 3, step: [2, 0, 0] }),
    );
    expect(volume(row.mesh)).toBeCloseTo(24, 4);
    expect(area(row.outer().mesh)).toBeCloseTo(2 * 4 + 4 * 12, 4);
  });
});

describe('averages', () => {
  it('keep constants and put means where neighbours meet', () => {
    const mesh = quadSheet(2, 1, [0, 2], [0, 1]);
    const cells = Float32Array.of(10, 20);
    const smooth = apply(
      withFields(mesh, { c: { location: 'cell', data: cells } }),
      step('average-to-points'),
    );
    expect(smooth.route('cell').at).toBe('point');
    expect(Array.from(smooth.field({ field: 'c' })!.data)).toEqual([10, 15, 20, 10, 15, 20]);
    const points = Float32Array.of(0, 1, 2, 3, 4, 5);
    const flat = apply(withFields(mesh, { p: { data: points } }), step('average-to-cells'));
    expect(Array.from(flat.field({ field: 'p' })!.data)).toEqual([2, 3]);
    const cut = apply(flat, step('section', { normal: [0, 1, 0], offset: 0.5 }));
    expect(Array.from(cut.field({ field: 'p' })!.data)).toEqual([2, 3]);
  });
});

describe('lines, points and cells apart', () => {
  const block = hexBlockBetween(3);
  it('edges of the faces, and those inside', () => {
    // 54 squares on the surface share 108 edges; a 3x3x3 block has 3 * 3 * 4 * 4 in all.
    expect(runChain(sourceOf(block), [step('edges')]).mesh.types).toHaveLength(108);
    expect(runChain(sourceOf(block), [step('edges', { inner: true })]).mesh.types).toHaveLength(144);
  });
  it('crease lines of a cube are its twelve edges; of a sheet its border', () => {
    const lines = runChain(sourceOf(block), [step('crease-lines', { angle: 35 })]);
    expect(cellMeasures(lines.mesh).reduce((a, b) => a + b)).toBeCloseTo(24, 5);
    const sheet = runChain(sourceOf(quadSheet(3, 3, [0, 1], [0, 1])), [step('crease-lines')]);
    expect(cellMeasures(sheet.mesh).reduce((a, b) => a + b)).toBeCloseTo(4, 5);
  });
  it('points of the mesh and middles of its cells', () => {
    expect(runChain(sourceOf(block), [step('points')]).mesh.types).toHaveLength(64);
    const middles = runChain(sourceOf(block), [step('points', { of: 'cells' })]);
    expect(middles.mesh.types).toHaveLength(27);
    expect(middles.mesh.points[0]).toBeCloseTo(-2 / 3, 5);
  });
  it('shrunk cells keep their share of the volume', () => {
    const apart = apply(sourceOf(block), step('shrink', { size: 50 }));
    expect(volume(apart.mesh)).toBeCloseTo(1, 5);
    expect(area(apart.outer().mesh)).toBeCloseTo(27 * 6 * (1 / 3) ** 2, 4);
  });
  it('offset moves a cube outward along its normals', () => {
    const bigger = runChain(sourceOf(hexBlockBetween(1)), [step('offset', { distance: Math.sqrt(3) * 0.1 })]);
    expect(enclosed(bigger.mesh)).toBeCloseTo(2.2 ** 3, 4);
  });
});

describe('volume', () => {
  it('is exact on a grid of its own, and states its error on other meshes', () => {
    const own = hexBlockBetween(6);
    const f = (x: number, y: number, z: number): number => x * x + y - z;
    const options = { field: 'f', component: 0, resolution: 24 };
    const same = apply(withFields(own, { f: { data: fieldOf(own, f) } }), step('volume', options));
    expect(same.result!.grid!.size).toEqual([7, 7, 7]);
    expect(same.result!.report!.error!.worst).toBeLessThan(1e-6);
    const tetra = tetraBlock(5);
    const shifted = { ...tetra, points: tetra.points.map((v, i) => v + 0.03 * Math.sin(5 * v + i)) };
    const other = apply(withFields(shifted, { f: { data: fieldOf(shifted, f) } }), step('volume', options));
    const { worst, mean } = other.result!.report!.error!;
    expect(worst).toBeGreaterThan(1e-4);
    expect(mean).toBeLessThan(0.02);
    expect(other.result!.grid!.histogram.reduce((a, b) => a + b)).toBeGreaterThan(5000);
  });
});

it('switched off operations are passed over', () => {
  const source = sourceOf(hexBlockBetween(2));
  const off = { ...step('section', { normal: [0, 0, 1], offset: 0 }), off: true };
  expect(area(runChain(source, [off]).mesh)).toBeCloseTo(24, 5);
});

import { outerFaces } from '#core/fields/surfaces/outer-faces.ts';
import { buildBlocks } from '#core/model/blocks.ts';
import type { MeshField } from '#core/model/field.ts';
import { buildSurface } from '#core/model/mark-geometry.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { replay } from '#core/model/recipe.ts';
import { apply, type ChainStep, runChain, sourceOf } from '#core/ops/chain/chain.ts';
import { plainContext, type Workpiece } from '#core/ops/chain/workpiece.ts';
import { hexahedra, tetrahedra } from './made-meshes.ts';
import { compare, timed } from './measure.ts';
import { plainIsosurface, plainSection } from './plain-section.ts';

/** Cutting, surfaces and step changes on meshes of a million cells, against the plainest code that does the same. */
export function benchGeometry(): void {
  benchMesh('1e6 hexahedra', hexahedra(100));
  benchMesh('1e6 tetrahedra', tetrahedra(55));
}

const normal: [number, number, number] = [0.48, 0.6, 0.64];
const section = (offset: number): ChainStep => ({ op: 'section', options: { normal, offset } });
const iso = (value: number): ChainStep => ({
  op: 'isosurface',
  options: { field: 'point:f', component: 0, levels: { kind: 'list', values: [value] } },
});
const clip = (offset: number): ChainStep => ({ op: 'clip', options: { normal, offset } });

function withField(mesh: Mesh, data: Float32Array): Workpiece {
  const field: MeshField = { location: 'point', components: 1, data, axial: false };
  return sourceOf(mesh, { ...plainContext(), fields: new Map([['point:f', field]]) });
}

function benchMesh(name: string, mesh: Mesh): void {
  const { points } = mesh;
  const data = Float32Array.from({ length: points.length / 3 }, (_, i) =>
    Math.hypot(points[3 * i] - 0.4, points[3 * i + 1] - 0.5, points[3 * i + 2] - 0.6),
  );
  const source = withField(mesh, data);
  const scan = timed(() => plainSection(mesh, normal, 0.83), 3);
  const scanValues = timed(() => plainIsosurface(mesh, data, 0.35), 3);
  const first = (step: ChainStep) => timed(() => apply(withField(mesh, data), step).mesh, 3);
  let move = 0.8;
  let value = 0.34;
  compare(`section of ${name}, first time / plain scan`, first(section(0.83)), scan, '');
  const moved = timed(() => apply(source, section((move += 0.003))).mesh, 9);
  compare(`  after a small move / plain scan`, moved, scan, 'goal: at most 0.2');
  compare(
    `  the same made ready to draw / plain scan`,
    timed(() => buildSurface(apply(source, section((move += 0.003))).mesh, false, false), 5),
    scan,
    '',
  );
  compare(`isosurface of ${name}, first time / plain scan`, first(iso(0.35)), scanValues, '');
  const again = timed(() => apply(source, iso((value += 0.002))).mesh, 9);
  compare(`  after a small move / plain scan`, again, scanValues, 'goal: at most 0.2');
  // What a person waits for while dragging: result, caps, triangles and normals.
  source.outer();
  const drag = timed(() => buildSurface(runChain(source, [clip((move += 0.003))]).mesh, false, false), 5);
  compare(
    `solid clip of ${name}, dragged, ready to draw / plain scan`,
    drag,
    scan,
    `${(1000 / drag).toFixed(0)} a second; goal: 10`,
  );

  const cut = apply(source, section(0.83));
  const gather = cut.route('point').gather!;
  const { index, weight } = gather;
  const out = new Float32Array(index.length / 2);
  const bare = timed(() => {
    for (let r = 0; r < 200; r++)
      for (let v = 0, i = 0; v < out.length; v++, i += 2)
        out[v] = weight![i] * data[index[i]] + weight![i + 1] * data[index[i + 1]];
  });
  const replayed = timed(() => {
    for (let r = 0; r < 200; r++) replay(gather, data, 1, 0, false, out);
  });
  compare('  200 step changes through a recipe / bare gather', replayed, bare, 'goal: at most 1.5');

  const copy = (): number => {
    // Reading its arrays at best: every number of the mesh brought over once and looked at once.
    let sum = 0;
    for (const array of [mesh.points, mesh.offsets, mesh.connectivity, mesh.types]) {
      const own = array.slice();
      for (let i = 0; i < own.length; i++) sum += own[i];
    }
    return sum;
  };
  const read = timed(copy, 3);
  compare(
    `surface of ${name} / bare pass over its arrays`,
    timed(() => outerFaces(mesh), 3),
    read,
    'goal: at most 3',
  );
  compare(
    `blocks of ${name} / bare pass over its arrays`,
    timed(() => buildBlocks(mesh), 3),
    read,
    '',
  );
}

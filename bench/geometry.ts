import { buildBlocks } from '#core/model/blocks.ts';
import { buildDrawable } from '#core/model/drawable.ts';
import { replay } from '#core/model/recipe.ts';
import { ChainSource } from '#core/ops/chain.ts';
import { section } from '#core/ops/section.ts';
import { surface } from '#core/ops/surface.ts';
import { fiveFields, hexahedra } from './made-meshes.ts';
import { compare, timed } from './measure.ts';
import { plainSection } from './plain-section.ts';

/** Cutting, surfaces and step changes on a mesh of a million cells. */
export function benchGeometry(): void {
  const mesh = hexahedra(100);
  const fields = fiveFields(mesh);
  const source = new ChainSource(mesh, [0, 0, 0]);
  const plane = (offset: number) => ({
    normal: [0.48, 0.6, 0.64] as [number, number, number],
    offset,
    locked: false,
  });
  const plain = timed(() => plainSection(mesh, plane(0).normal, 0.83), 3);
  compare(
    'section of 1e6 cells, first time with blocks / plain scan',
    timed(() => {
      buildBlocks(mesh);
      section.run(source, plane(0.83));
    }, 3),
    plain,
    '',
  );
  let move = 0.8;
  const again = timed(() => section.run(source, plane((move += 0.003))), 9);
  compare(
    'section of 1e6 cells, after a small move / plain scan',
    again,
    plain,
    `${(1000 / again).toFixed(0)} a second; goal: 10`,
  );
  const cut = section.run(source, plane(0.83));
  compare(
    '  the same made ready to draw / plain scan',
    timed(() => buildDrawable(section.run(source, plane(0.83)).mesh, false), 5),
    plain,
    '',
  );

  const { index, weight } = cut.recipe.points;
  const out = new Float32Array(index.length / 2);
  const field = fields[0].data;
  const bare = timed(() => {
    for (let r = 0; r < 200; r++)
      for (let v = 0, i = 0; v < out.length; v++, i += 2)
        out[v] = weight![i] * field[index[i]] + weight![i + 1] * field[index[i + 1]];
  });
  const recipe = timed(() => {
    for (let r = 0; r < 200; r++) replay(cut.recipe.points, field, 1, 0, out);
  });
  compare('200 step changes through a recipe / bare gather', recipe, bare, 'goal: at most 1.5');
  const skin = timed(() => surface.run(source, {}), 3);
  compare('surface of 1e6 cells / plain section scan', skin, plain, '');
}

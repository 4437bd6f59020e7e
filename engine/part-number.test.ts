import { expect, it } from 'vitest';
import { lackingQuantity, withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { defaultScene, newScale } from '#core/scene/default-scene.ts';
import { readLayer } from '#core/scene/read-layer.ts';
import { settleScale } from '#core/scene/settle-scale.ts';
import { importSteps } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { ArraySource } from './array-source.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { SceneSource } from './scene-source.ts';

const KEY = 'part:number';
const block = () => writeVtu(hexBlock(2), [], 0, {});

it('parts are told apart by colours, with their names in the legend', async () => {
  const { run, store } = await importSteps([
    { time: 0, parts: { rack: block(), tin: block(), walls: block() } },
  ]);
  const offered = withOfferedQuantities(run);
  const field = offered.fields.find((f) => f.key === KEY)!;
  const names = run.parts.map((p) => p.name);
  const scale = newScale(field, 0, 's', 'parts');
  expect(scale).toMatchObject({
    map: 'told-apart',
    categories: names.map((name, i) => ({ value: i + 1, name })),
  });
  expect(settleScale(scale, offered, 0).bandCount).toBe(3);
  const scene = defaultScene(run);
  const found = readLayer('surface of everything coloured by part', scene, offered, null, 'n');
  if (!('layer' in found)) throw new Error(`not read, ${found.expected.join()}`);
  expect(found).toMatchObject({
    layer: { colour: { field: KEY } },
    scale: { categories: [{ name: names[0] }, {}, {}] },
  });
  const maker = new GeometryMaker(new ArraySource(store.load));
  const source = new SceneSource(run, (request) => maker.make(request));
  const shown = { ...scene, layers: [found.layer], scales: [found.scale!] };
  const frame = await source.frame(shown, 0, 'view');
  for (const [i, name] of names.entries()) {
    const { values } = frame.parts.find((p) => p.part === name)!;
    expect(new Set(values[0])).toEqual(new Set([i + 1]));
  }
});

it('one part alone is not told apart', async () => {
  const { run } = await importSteps([{ time: 0, parts: { tin: block() } }]);
  expect(withOfferedQuantities(run).fields.some((f) => f.key === KEY)).toBe(false);
  expect(lackingQuantity(KEY, run)).toMatch(/parts/);
});

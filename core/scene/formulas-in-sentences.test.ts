import { beforeAll, describe, expect, it } from 'vitest';
import { importSteps } from '../../tests/sample-run.ts';
import { hexBlock } from '../../tests/vtu-builder.ts';
import { withOfferedQuantities } from '../fields/quantity-sources.ts';
import { writeVtu } from '../formats/vtk-xml/vtk-xml-write.ts';
import { whyNotRead } from '../language/sentence-reader.ts';
import type { RunDescription } from '../model/run.ts';
import { sayAsk } from './ask.ts';
import { defaultScene } from './default-scene.ts';
import type { Scene } from './document.ts';
import { inFull } from './explain-sentence.ts';
import { readAsk } from './read-ask.ts';
import { readLayer } from './read-layer.ts';

let run: RunDescription;
let scene: Scene;
const [heat, flow] = ['T', 'velocity'];
beforeAll(async () => {
  const mesh = hexBlock(2);
  const n = mesh.points.length / 3;
  const field = (name: string, components: number, unit: string) => ({
    name,
    location: 'point' as const,
    components,
    unit,
    data: Float32Array.from({ length: n * components }, (_, i) => i % 7),
  });
  const fields = [field(heat, 1, '°C'), field(flow, 3, 'm/s')];
  const made = await importSteps([{ time: 0, parts: { air: writeVtu(mesh, fields, 0, { length: 'm' }) } }]);
  run = withOfferedQuantities(made.run);
  scene = {
    ...defaultScene(run),
    quantities: [{ id: 'q1', name: 'excess', formula: `${heat} - 20` }],
  };
});

const line = (text: string) => {
  const read = readLayer(text, scene, run, null, 'new');
  if ('at' in read) throw new Error(whyNotRead(text, read));
  return read;
};

const why = (text: string): string => {
  const read = readAsk(text, scene, run);
  return 'at' in read ? whyNotRead(text, read) : 'it was read';
};

describe('formulas in sentences', () => {
  it('colour lines, and are said as they are read', () => {
    const read = line(`All of everything, coloured by (2 * ${heat} - 20)`);
    expect(read.layer.colour).toMatchObject({ field: `formula:2 * ${heat} - 20`, component: 0 });
    const said = inFull(read, scene, run);
    expect(said).toContain(`coloured by (2 * ${heat} - 20)`);
    expect(line(said).layer.colour).toMatchObject({ field: `formula:2 * ${heat} - 20` });
  });
  it('stand where operations take quantities, with brackets and texts of their own', () => {
    const { layer } = line(`Isosurface of everything where (if(part = "a)b", 0, (${heat} + 1) * 2)) = 90`);
    expect(layer.chain[0].options).toMatchObject({ field: `formula:if(part = "a)b", 0, (${heat} + 1) * 2)` });
  });
  it('use the quantities of the scene, and then say all of it', () => {
    const { layer } = line('All of everything, coloured by (excess / 2)');
    expect(layer.colour).toMatchObject({ field: `formula:(${heat} - 20) / 2` });
  });
  it.each([
    ['(gradient(HEAT))', { component: 'magnitude', whole: true }],
    ['magnitude of (gradient(HEAT))', { component: 'magnitude', whole: false }],
    ['(gradient(HEAT)) x', { component: 0, whole: false }],
    ['(length(FLOW) * FLOW)', { component: 'magnitude', whole: true }],
    ['(FLOW.x - 1)', { component: 0, whole: false }],
  ])('are measured whole, by their length or a component: %s', (said, options) => {
    const formula = said.replaceAll('HEAT', heat).replaceAll('FLOW', flow);
    const ask = readAsk(`average of ${formula} over everything`, scene, run);
    expect(ask).toMatchObject({ measure: 'average', options });
    const again = sayAsk(ask as never, scene, run);
    expect(again).toBe(`average of ${formula} over everything`);
    expect(readAsk(again, scene, run)).toMatchObject({ options });
  });
  it('say what is wrong with them', () => {
    expect(why(`average of (${heat} - wrmth) over everything`)).toMatch(/"wrmth" is not known here/);
    expect(why(`average of (${heat} - 20 over everything`)).toMatch(/bracket .* is not closed/);
    expect(why(`average of (${heat} + ${flow}) over everything`)).toMatch(/fit|vector/);
    const nothing = readAsk('average of nothing over everything', scene, run);
    expect('at' in nothing && nothing.expected).toContain('(a formula)');
  });
});

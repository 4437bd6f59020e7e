import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { measures } from '#core/measure/registry.ts';
import { annotationKinds } from '#core/scene/annotations/registry.ts';
import { sayAsk } from '#core/scene/ask.ts';
import { chart } from '#core/scene/charts/chart.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import { explainSentence } from '#core/scene/explain-sentence.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import { readScript } from '#core/scene/scene-script.ts';
import { importSteps, ovenRun } from '../sample-run.ts';
import { hexBlock } from '../vtu-builder.ts';

/** The examples of a document. */
function sentencesOf(name: string): string[] {
  const text = readFileSync(new URL(`../../docs/${name}`, import.meta.url), 'utf8');
  return /## In sentences[\s\S]*?```\n([\s\S]*?)```/.exec(text)![1].trim().split('\n');
}

it('the sentences of flow in the documents are understood, and said so that they are read as the same', async () => {
  const mesh = hexBlock(2);
  const velocity = {
    name: 'velocity',
    location: 'point' as const,
    components: 3,
    unit: 'm/s',
    data: Float32Array.from({ length: mesh.points.length }, (_, i) => i % 5),
  };
  const part = writeVtu(mesh, [velocity], 0, { length: 'm', time: 's' });
  const { run: read } = await importSteps([{ time: 0, parts: { 'chamber air': part, tins: part } }]);
  const run = withOfferedQuantities(read);
  const scene = defaultScene(run);
  const made = new Set<string>();
  for (const line of sentencesOf('flow.md')) {
    const first = explainSentence(line, scene, run);
    if (!first.understood || !('layer' in first)) throw new Error(`${line}: ${JSON.stringify(first)}`);
    for (const step of first.layer.chain) made.add(step.op);
    const again = explainSentence(first.sentence, scene, run);
    expect(again, first.sentence).toMatchObject({ understood: true, layer: { chain: first.layer.chain } });
  }
  for (const id of ['arrows', 'streamlines', 'tubes', 'ribbons', 'isosurface']) expect(made).toContain(id);
});

it('the sentences of what plays while the step stands are understood, and said so that they are read as the same', async () => {
  const mesh = hexBlock(2);
  const field = (name: string, unit: string) => ({
    name,
    location: 'point' as const,
    components: 3,
    unit,
    data: Float32Array.from({ length: mesh.points.length }, (_, i) => i % 5),
  });
  const fields = [field('velocity', 'm/s'), field('E_re', 'V/m'), field('E_im', 'V/m')];
  const oven = writeVtu(mesh, fields, 0, { length: 'm', time: 's' });
  const { run: read } = await importSteps([{ time: 0, parts: { oven } }]);
  const lines = sentencesOf('cycle.md');
  const asked = withOfferedQuantities(read);
  const scene = defaultScene(asked);
  for (const line of lines) {
    const first = explainSentence(line, scene, asked);
    if (!first.understood || !('layer' in first)) throw new Error(`${line}: ${JSON.stringify(first)}`);
    const again = explainSentence(first.sentence, scene, asked);
    const { chain, colour } = first.layer;
    expect(again, first.sentence).toMatchObject({ understood: true, layer: { chain, colour } });
  }
  expect(lines.length).toBeGreaterThan(10);
});

it('the sentences of words and marks in the documents are understood, and say what they are read as', async () => {
  const run = withOfferedQuantities(await ovenRun());
  const plain = defaultScene(run);
  const ask = readAsk('volume of everything', plain, run);
  if ('at' in ask) throw new Error('not understood');
  // What stands on the picture of numbers and curves names them.
  const scene = {
    ...plain,
    gauges: [{ ...ask, id: 'g', name: 'heat' }],
    charts: [{ ...chart.plain, id: 'c', curves: [] }],
  };
  const lines = sentencesOf('words.md');
  const kinds = new Set<string>();
  for (const line of lines) {
    const first = explainSentence(line, scene, run);
    expect(first.understood, line).toBe(true);
    if (!first.understood || !('annotation' in first)) throw new Error(`no words: ${line}`);
    kinds.add(first.annotation.kind);
    // What it is read as is read as the same.
    const again = explainSentence(first.sentence, scene, run);
    expect(again).toMatchObject({ understood: true, annotation: first.annotation });
  }
  // Every kind but those that need a picture.
  const pictured = ['logo', 'placed-image'];
  expect([...kinds].sort()).toEqual(
    annotationKinds
      .map((k) => k.id)
      .filter((id) => !pictured.includes(id))
      .sort(),
  );
});

it('the questions in the documents are understood, and said so that they are read as the same', async () => {
  const mesh = hexBlock(2);
  const field = (name: string, components: number, unit: string) => ({
    name,
    location: 'point' as const,
    components,
    unit,
    data: Float32Array.from({ length: (mesh.points.length / 3) * components }, (_, i) => i % 5),
  });
  const fields = [
    field('T', 1, '°C'),
    field('p', 1, 'Pa'),
    field('velocity', 3, 'm/s'),
    field('rho', 1, 'kg/m³'),
    field('stress', 6, 'Pa'),
    field('E_re', 3, 'V/m'),
    field('E_im', 3, 'V/m'),
  ];
  const part = writeVtu(mesh, fields, 0, { length: 'm', time: 's' });
  const { run: read } = await importSteps([{ time: 0, parts: { 'chamber air': part, tins: part } }]);
  const run = withOfferedQuantities(read);
  const scene = defaultScene(run);
  const asked = new Set<string>();
  for (const line of sentencesOf('numbers.md')) {
    const first = readAsk(line, scene, run);
    if ('at' in first) throw new Error(`${line}: not understood at ${first.at}`);
    asked.add(first.measure);
    const again = readAsk(sayAsk(first, scene, run), scene, run);
    expect(again, line).toMatchObject({ measure: first.measure, options: first.options, phase: first.phase });
  }
  // There is an example of each.
  expect([...asked].sort()).toEqual(measures.map((m) => m.id).sort());
});

it('the sentences of looks, lenses and scenery that the guide gives for scripts are understood', async () => {
  const run = withOfferedQuantities(await ovenRun());
  const text = readFileSync(new URL('../../docs/guide.md', import.meta.url), 'utf8');
  const given = [...text.matchAll(/`((?:Seen from|Scenery|Ink|Haze|Glow|Floor|Focus|Backdrop) [^`]*)`/g)]
    .map(([, said]) => said.replace(/\s+/g, ' '))
    .filter((said) => !said.includes('…'));
  expect(given.length).toBeGreaterThan(4);
  for (const said of given) expect(() => readScript(said, run), said).not.toThrow();
});

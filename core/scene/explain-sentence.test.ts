import { describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { withOfferedQuantities } from '../fields/quantity-sources.ts';
import { defaultScene } from './default-scene.ts';
import { explainSentence } from './explain-sentence.ts';

it('a line is said in full, or where and why it is not understood, with the nearest that is', async () => {
  const run = withOfferedQuantities(await ovenRun());
  const scene = defaultScene(run);
  expect(explainSentence('slice of the oven at x = 40 cm by temperature', scene, run)).toMatchObject({
    understood: true,
    sentence: 'Section of oven at x = 0.4 m, coloured by temperature on Heat',
    layer: { chain: [{ op: 'section', options: { normal: [1, 0, 0], offset: 0.4 } }] },
  });
  const wrong = explainSentence('Section of oven at x = 0.4 m, coloured by steam', scene, run);
  expect(wrong).toMatchObject({
    understood: false,
    at: 42,
    nearest: expect.stringMatching(/^Section of oven at x = 0.4 m/),
  });
  expect('reason' in wrong && wrong.reason).toMatch(
    /^"steam" is not understood here; there could be .*temperature/,
  );
  expect(explainSentence('Section of oven at', scene, run)).toMatchObject({
    understood: false,
    reason: expect.stringMatching(/^the sentence is not complete; there could be x, y/),
  });
  expect(explainSentence('melt it', scene, run)).toMatchObject({ understood: false, at: 0, nearest: null });
});

describe('what means something but cannot stand there', () => {
  it.each([
    ['arrows of temperature in oven', 'temperature'],
    ['Surface of oven, its arrows by temperature, as comets', 'temperature'],
    ['streamlines of temperature in oven', 'temperature'],
    // By a name of which only the beginning is said.
    ['streamlines of temp in oven', 'temp'],
  ])('is named, with what could: "%s"', async (text, named) => {
    const run = withOfferedQuantities(await ovenRun());
    const wrong = explainSentence(text, defaultScene(run), run);
    expect(wrong).toMatchObject({
      understood: false,
      at: text.indexOf(named),
      reason: expect.stringMatching(
        /^"temp(erature)?" has no direction; there could be gradient of temperature/,
      ),
    });
  });

  it('of a run without any vector says that too', async () => {
    const plain = await ovenRun();
    const run = { ...plain, fields: plain.fields.filter((f) => f.components === 1) };
    expect(explainSentence('arrows of temperature', defaultScene(run), run)).toMatchObject({
      understood: false,
      reason: '"temperature" has no direction, nor has anything else of this run',
    });
  });
});

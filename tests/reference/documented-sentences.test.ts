import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { annotationKinds } from '#core/scene/annotations/registry.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import { explainSentence } from '#core/scene/explain-sentence.ts';
import { ovenRun } from '../sample-run.ts';

it('the sentences of words and marks in the documents are understood, and say what they are read as', async () => {
  const run = withOfferedQuantities(await ovenRun());
  const scene = defaultScene(run);
  const text = readFileSync(new URL('../../docs/words.md', import.meta.url), 'utf8');
  const block = /## In sentences[\s\S]*?```\n([\s\S]*?)```/.exec(text)![1];
  const lines = block.trim().split('\n');
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

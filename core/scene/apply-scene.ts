import { fieldByKey, type RunDescription } from '../model/run.ts';
import { operations } from '../ops/registry.ts';
import type { Scene } from './document.ts';
import { sayParts } from './layer-sentence.ts';

/** What a scene asks for that a run does not have, in words. The rest is shown all the same. */
export function sceneMismatches(scene: Scene, run: RunDescription): string[] {
  const out = new Set<string>();
  for (const layer of scene.layers) {
    for (const part of layer.parts ?? []) {
      if (!run.parts.some((p) => p.name === part)) out.add(`the run has no part "${part}"`);
    }
    if (layer.set && !run.sets.some((s) => s.name === layer.set))
      out.add(`the run has no part set "${layer.set}"`);
    if (layer.colour.kind === 'field' && !fieldByKey(run, layer.colour.field)) {
      const [location, ...name] = layer.colour.field.split(':');
      out.add(
        `the run has no ${location} field "${name.join(':')}", which ${layer.name ?? sayParts(layer, run)} is coloured by`,
      );
    }
    for (const { op } of layer.chain) {
      if (!operations.some((o) => o.id === op)) out.add(`this version has no operation "${op}"`);
    }
  }
  return [...out];
}

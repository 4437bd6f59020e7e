import type { RunDescription } from '../model/run.ts';
import { settledStep } from '../ops/chain/settled-step.ts';
import { operationById } from '../ops/registry.ts';
import type { Scene } from './document.ts';
import { activeSteps } from './layer-chain.ts';
import { settingOf } from './setting.ts';

/** What a picture of a scene must say of its operations to be understood, such as by how much a shape is exaggerated. */
export function saidInPicture(scene: Scene, run: RunDescription): string[] {
  const said = new Set<string>();
  for (const layer of scene.layers) {
    if (!layer.visible || layer.opacity === 0) continue;
    for (const step of activeSteps(layer, scene)) {
      const note = operationById(step.op).traits?.saidInPicture;
      // Pictures are painted often, and few operations have something to say.
      const text = note?.(settledStep(step, settingOf(run, scene, layer)).options as never);
      if (text) said.add(text);
    }
  }
  return [...said];
}

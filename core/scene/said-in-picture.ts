import type { RunDescription } from '../model/run.ts';
import { settledStep } from '../ops/chain/settled-step.ts';
import { understoodSteps } from '../ops/chain/understood.ts';
import { operationById } from '../ops/registry.ts';
import type { Scene } from './document.ts';
import { wholeChain } from './layer-chain.ts';
import { settingOf } from './setting.ts';

/** What a picture of a scene must say of its operations to be understood, such as by how much a shape is exaggerated. */
export function saidInPicture(scene: Scene, run: RunDescription): string[] {
  const said = new Set<string>();
  for (const layer of scene.layers) {
    if (!layer.visible || layer.opacity === 0) continue;
    const setting = settingOf(run, scene, layer);
    for (const step of understoodSteps(wholeChain(layer, scene).chain)) {
      const note = operationById(step.op).traits?.saidInPicture;
      const text = note && !step.off ? note(settledStep(step, setting).options as never) : null;
      if (text) said.add(text);
    }
  }
  return [...said];
}

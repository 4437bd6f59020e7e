import { sayList } from '../language/sentence.ts';
import type { RunDescription } from '../model/run.ts';
import { settledStep } from '../ops/chain/settled-step.ts';
import { operationById } from '../ops/registry.ts';
import type { Scene } from './document.ts';
import { activeSteps, wholeChain } from './layer-chain.ts';
import { momentOnShow } from './moment-on-show.ts';
import { playsInCycle } from './plays-in-cycle.ts';
import { settingOf } from './setting.ts';

/** More hidden parts than this are counted instead of named. */
const NAMED = 3;

/**
 * What a picture of a scene must say to be understood: of its operations, such as by how much a shape is exaggerated, and
 * which parts are left out.
 *
 * @param away parts that are taken away because they stand before what is looked at
 */
export function saidInPicture(
  scene: Scene,
  run: RunDescription,
  away: ReadonlySet<string> = new Set(),
): string[] {
  const { shape, moment, leftOut } = saidOfPicture(scene, run, away);
  return [...shape, ...moment, ...leftOut];
}

/** The same by what it is of: how a shape is exaggerated, which moment is shown, what is cut off or hidden. */
export function saidOfPicture(
  scene: Scene,
  run: RunDescription,
  away: ReadonlySet<string> = new Set(),
): Record<'shape' | 'moment' | 'leftOut', string[]> {
  const [shape, leftOut] = [new Set<string>(), new Set<string>()];
  for (const layer of scene.layers) {
    if (!layer.visible || layer.opacity === 0) continue;
    for (const step of activeSteps(layer, scene)) {
      const { traits } = operationById(step.op);
      if (traits?.leavesOut) leftOut.add(traits.leavesOut);
      // Pictures are painted often, and few operations have something to say.
      const text = traits?.saidInPicture?.(settledStep(step, settingOf(run, scene, layer)).options as never);
      if (text) shape.add(text);
    }
  }
  const left = hiddenParts(scene, run, away);
  if (left.length > 0)
    leftOut.add(left.length > NAMED ? `without ${left.length} parts` : `without ${sayList(left)}`);
  return {
    shape: [...shape],
    moment: [
      ...(playsInCycle(scene).swings ? [`phase ${Math.round(scene.cycle.phase)}°`] : []),
      ...((momentOnShow(scene)?.onward ?? 0) > 0 ? ['made between two steps'] : []),
    ],
    leftOut: [...leftOut],
  };
}

/** Parts that a line on show would show, had they not been hidden. */
function hiddenParts(scene: Scene, run: RunDescription, away: ReadonlySet<string>): string[] {
  const lines = scene.layers.filter((l) => l.visible && l.opacity > 0).map((l) => wholeChain(l, scene).parts);
  return run.parts
    .map((p) => p.name)
    .filter((name) => scene.parts[name]?.hidden || away.has(name))
    .filter((name) => lines.some((parts) => parts === null || parts.includes(name)));
}

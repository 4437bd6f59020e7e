import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import type { RunDescription } from '#core/model/run.ts';
import { warningsOfFilm } from '#core/motion/reel-facts.ts';
import { laneTroubles, sceneAt } from '#core/motion/scene-at.ts';
import { newStep, withStepIds } from '#core/ops/chain/step.ts';
import { operations } from '#core/ops/registry.ts';
import { keyable } from '#core/scene/addresses.ts';
import { sceneMismatches } from '#core/scene/apply-scene.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import { readScene, type Scene, sceneSchema } from '#core/scene/document.ts';
import { applyEdit } from '#core/scene/edits.ts';
import { layerSentence, sceneCaption } from '#core/scene/layer-sentence.ts';
import { shippedLooks } from '#core/scene/looks/registry.ts';
import { bothEnds } from '#core/scene/reel/ease.ts';
import { repairScene } from '#core/scene/repair-scene.ts';
import { changesBetween, withChanges } from '#core/scene/scene-changes.ts';
import { readScript, ScriptError, writeScript } from '#core/scene/scene-script.ts';
import { sceneryKinds } from '#core/scene/scenery/registry.ts';
import { settingOf } from '#core/scene/setting.ts';
import { requestsOfLayer } from '#engine/layer-requests.ts';
import { engineWords, hostileTexts, pick, type Random, seeded } from './damage.ts';
import type { Finding } from './readers.ts';

const hostileValues: unknown[] = [
  null,
  -1,
  1e-300,
  1e300,
  Number.POSITIVE_INFINITY,
  Number.NaN,
  '',
  [],
  {},
  true,
  [[[[]]]],
  0.5,
  -0,
  2 ** 53,
  ...hostileTexts,
];

/** A scene with a line for every operation, and scenery of every kind. */
export function fullScene(run: RunDescription): Scene {
  const scene = defaultScene(run);
  const setting = settingOf(run, scene);
  const layers = operations.map((operation, i) => ({
    ...scene.layers[0],
    id: `layer-${i}`,
    chain: withStepIds([newStep(operation, operation.defaults(setting))]),
  }));
  const scenery = sceneryKinds.map((kind, i) => ({
    ...kind.defaults(setting, scene),
    id: `scenery-${i}`,
    kind: kind.id,
    visible: true,
  }));
  return { ...scene, layers, scenery, sets: [{ name: 'hot', rule: { kind: 'parts', parts: [] } as never }] };
}

/** The same with a film in which something of every kind moves. */
export function filmedScene(run: RunDescription): Scene {
  const scene = fullScene(run);
  const lanes = keyable(scene).flatMap(({ address, value }, i) =>
    // Many are alike: some of each holder are enough to be wrecked.
    i % 29 === 0
      ? [{ of: address, keys: [0, 2].map((at) => ({ at, value: structuredClone(value), ease: bothEnds })) }]
      : [],
  );
  const beginning = {
    lanes: [
      ...lanes,
      { of: ['time'], keys: [0, 4].map((at) => ({ at, value: at, ease: bothEnds })) },
      {
        of: ['camera'],
        keys: [0, 4].map((at) => ({ at, value: scene.camera, ease: bothEnds })),
        smooth: true,
      },
      { of: ['look'], keys: [{ at: 0, value: structuredClone(shippedLooks[0]), ease: bothEnds }] },
    ],
    markers: [{ id: 'marker-1', at: 1, name: 'Baking', caption: 'now', until: 3 }],
  };
  return applyEdit(scene, { type: 'reel.begin', beginning });
}

/** A script of hostile names need not be understood, but is refused in words. */
function readBack(script: string, run: RunDescription): void {
  try {
    readScript(script, run);
  } catch (error) {
    if (!(error instanceof ScriptError)) throw error;
  }
}

/** What the film of a scene leads to. */
function attackFilm(scene: Scene, run: RunDescription, find: (what: string) => void): void {
  for (const at of [0, 1.3])
    if (!sceneSchema.safeParse(sceneAt(scene, run, at)).success)
      find(`its film leads to no scene at ${at} s`);
  laneTroubles(scene, run);
  warningsOfFilm(scene, run);
  readBack(writeScript(scene, run), run);
}

type Node = Record<string, unknown> | unknown[];

export function wreck(document: unknown, random: Random): void {
  let node = document as Node;
  for (let depth = 0; ; depth++) {
    const key = pick(Object.keys(node), random);
    const child = (node as Record<string, unknown>)[key] as Node;
    const deeper = typeof child === 'object' && child !== null && Object.keys(child).length > 0;
    if (deeper && random() < (depth === 0 ? 0.9 : 0.75)) {
      node = child;
      continue;
    }
    const kind = random();
    if (kind < 0.15) delete (node as Record<string, unknown>)[key];
    else if (kind < 0.25 && Array.isArray(node)) node.push(node[0]);
    else (node as Record<string, unknown>)[key] = pick(hostileValues, random);
    return;
  }
}

/** Wrecks scene documents: each opens, repaired where it must be, or is refused in words; nothing it leads to breaks. */
export function attackDocuments(
  inputs: number,
  seed: number,
  given: RunDescription,
): { inputs: number; findings: Finding[] } {
  const run = withOfferedQuantities(given);
  const findings: Finding[] = [];
  const whole = filmedScene(run);
  for (let n = 0; n < inputs; n++) {
    const random = seeded(seed * 7_000_003 + n);
    const document = structuredClone(whole) as unknown;
    for (let k = 0; k < 1 + random() * 4; k++) wreck(document, random);
    const find = (what: string): void => void findings.push({ input: `${seed}/${n}`, what });
    let scene: Scene;
    try {
      scene = repairScene(document).scene;
    } catch (error) {
      if (engineWords.test((error as Error).message)) find(`engine words: ${(error as Error).message}`);
      continue;
    }
    try {
      if (!sceneSchema.safeParse(JSON.parse(JSON.stringify(scene))).success) find('does not survive writing');
      readScene(scene);
      for (const layer of scene.layers) {
        layerSentence(layer, scene, run);
        layerSentence(layer, scene, run, 'exact');
        requestsOfLayer(layer, scene, run, 0);
      }
      // What takes longest is done with some of them.
      if (n % 4 === 0) attackFilm(scene, run, find);
      sceneMismatches(scene, run);
      sceneCaption(scene, run, null);
      const back = withChanges(scene, changesBetween(scene, whole));
      if (back.refused.length > 0 || changesBetween(back.scene, whole).length > 0)
        find('its changes do not lead to the other scene');
    } catch (error) {
      find(`broke: ${(error as Error).stack?.split('\n').slice(0, 3).join(' ')}`);
    }
  }
  return { inputs, findings };
}

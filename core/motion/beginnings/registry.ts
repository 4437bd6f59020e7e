import type { RunDescription } from '../../model/run.ts';
import type { Scene } from '../../scene/document.ts';
import type { Look } from '../../scene/looks/look.ts';
import { settingOf } from '../../scene/setting.ts';
import { placesOf } from '../time-map.ts';
import type { Beginning, BeginningSetting, KeptView } from './beginning.ts';
import { buildUp } from './build-up.ts';
import { changeLook } from './change-look.ts';
import { cutThroughViews } from './cut-through-views.ts';
import { fadeLine } from './fade-line.ts';
import { flyThroughViews } from './fly-through-views.ts';
import { growNumber } from './grow-number.ts';
import { holdAt } from './hold-at.ts';
import { movingNumbers } from './moving-numbers.ts';
import { playAtPace } from './play-at-pace.ts';
import { playResults } from './play-results.ts';
import { slowAround } from './slow-around.ts';
import { spinRotor } from './spin-rotor.ts';
import { sweepNumber } from './sweep-number.ts';
import { turnPhase } from './turn-phase.ts';
import { turntable } from './turntable.ts';
import { walkPath } from './walk-path.ts';
import { wipeLines } from './wipe-lines.ts';
import { wipeSteps } from './wipe-steps.ts';

// biome-ignore lint/suspicious/noExplicitAny: options are checked by the schema of the beginning they belong to
export type AnyBeginning = Beginning<any>;

/** Ways in which motion begins, in the order in which they are offered. A new one is a file beside this and a line here. */
export const beginnings: readonly AnyBeginning[] = [
  playResults,
  playAtPace,
  slowAround,
  holdAt,
  turntable,
  flyThroughViews,
  cutThroughViews,
  walkPath,
  sweepNumber,
  growNumber,
  fadeLine,
  buildUp,
  changeLook,
  wipeLines,
  wipeSteps,
  turnPhase,
  spinRotor,
];

/** What beginnings may know of a scene. */
export function settingOfReel(
  scene: Scene,
  run: RunDescription,
  beside: { views?: readonly KeptView[]; looks?: readonly Look[] } = {},
): BeginningSetting {
  const kept = scene.cameras.map(({ name, camera }) => ({ name, camera }));
  return {
    ...settingOf(run, scene),
    scene,
    run,
    places: placesOf(run),
    numbers: movingNumbers(scene, run),
    lines: scene.layers.flatMap(({ id, name }, i) => [
      ...(name ? [{ text: name, value: id }] : []),
      { text: `line ${i + 1}`, value: id },
    ]),
    words: scene.annotations.map(({ id }, i) => ({ text: `words ${i + 1}`, value: id })),
    // Shots come before cameras: they are what a film is made of.
    views: beside.views && beside.views.length > 1 ? beside.views : kept,
    looks: beside.looks ?? [],
  };
}

import { fieldByKey, type RunDescription } from '../model/run.ts';
import type { Scene } from './document.ts';
import { type Renames, renameInScene } from './rename-in-scene.ts';

/** Of what is meant by names, that which a run needs: it has what is meant, and lacks what is asked for. */
export function rulesFor(run: RunDescription, { fields, parts }: Renames): Renames {
  const chosen = (names: Record<string, string>, has: (name: string) => boolean) =>
    Object.fromEntries(Object.entries(names).filter(([asked, meant]) => !has(asked) && has(meant)));
  return {
    fields: chosen(fields, (key) => fieldByKey(run, key) !== null),
    parts: chosen(parts, (name) => run.parts.some((p) => p.name === name)),
  };
}

/** A scene as it is on another run: what that calls otherwise is asked for by its names there. */
export function onOtherRun(scene: Scene, run: RunDescription, rules: Renames): Scene {
  const renamed = renameInScene(scene, rulesFor(run, rules));
  const last = run.steps.length - 1;
  return scene.step > last ? { ...renamed, step: last, onward: 0 } : renamed;
}

import {
  type DocumentChange,
  type DocumentForm,
  differences,
  ORDER,
  withDifferences,
} from '../model/document-changes.ts';
import type { Scene } from './document.ts';
import { isList, keyedLists } from './keyed-lists.ts';
import { isKindList, kindIn, kindLists, ofKinds } from './kind-lists.ts';
import { isThing, sceneThing } from './things/registry.ts';

/** One difference between two states of a scene; see `DocumentChange`. */
export type SceneChange = DocumentChange;

/** How two that change a scene at once are brought together; see `withDifferences`. */
export const sceneForm: DocumentForm = {
  keyOfList: (name) => (isList(name) ? keyedLists[name] : undefined),
  // A lens moves as a whole.
  isRecord: (name) => name === 'parts' || (isThing(name) && !sceneThing(name).blend),
};

/** Everything in which a later state of a scene differs from an earlier one. */
export const changesBetween = (before: Scene, after: Scene): SceneChange[] =>
  differences(sceneForm, before, after);

/** Makes changes to a scene that may have become another one meanwhile; see `withDifferences`. */
export function withChanges(
  scene: Scene,
  changes: readonly SceneChange[],
): { scene: Scene; refused: SceneChange[] } {
  const { document, refused } = withDifferences(sceneForm, scene, changes);
  return { scene: document, refused };
}

const places: Record<string, string> = {
  name: 'the name of the scene',
  parts: 'the look of parts',
  step: 'the step on show',
  onward: 'the time on show',
};

/** Where a change is, in words. */
export function sayPlace({ at: [name, key] }: SceneChange, scene: Scene): string {
  if (name === 'layers') {
    if (key === ORDER) return 'the order of the lines';
    const index = scene.layers.findIndex((l) => l.id === key);
    return index < 0 ? 'a line that is gone' : `line ${index + 1}`;
  }
  if (name === 'scales')
    return `the colour scale ${scene.scales.find((s) => s.id === key)?.name ?? ''}`.trim();
  if (name === 'cameras') return `the camera “${key}”`;
  if (name === 'sets') return `the part set ${key}`;
  if (isKindList(name)) {
    const found = ofKinds(scene, name).find((one) => one.id === key);
    return (found && kindIn(name, found.kind)?.name) ?? kindLists[name].gone;
  }
  if (name === 'gauges') {
    const found = scene.gauges.find((g) => g.id === key);
    return found?.name ? `the gauge “${found.name}”` : 'a gauge';
  }
  if (name === 'charts') return 'a chart';
  if (name === 'lanes') return 'what moves in the film';
  if (name === 'markers') return 'a marker of the film';
  return isThing(name) ? sceneThing(name).name : (places[name] ?? name);
}

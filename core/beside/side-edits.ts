import type { RunDescription } from '../model/run.ts';
import type { Scene } from '../scene/document.ts';
import { applyEdit, type Edit, sayEdit } from '../scene/edits.ts';
import { eachThing, type ThingId } from '../scene/things/registry.ts';
import { likeStep } from './like-step.ts';
import { type Links, linkedEdit } from './linked-edits.ts';
import { sameInRuns } from './same-in-runs.ts';
import {
  goTogether,
  type LinkName,
  linkNames,
  type Pane,
  type ScenePane,
  type SideBySide,
  scenePanes,
} from './side-by-side.ts';

/** Everything that can be changed of what is looked at side by side. */
export type SideEdit =
  | { type: 'side.rename'; name: string }
  | { type: 'side.panes.add'; panes: readonly Pane[] }
  | { type: 'side.pane.remove'; id: string }
  | { type: 'side.pane.move'; id: string; to: number }
  | { type: 'side.pane.title'; id: string; title: string | null }
  /** Another run, with the scene as it is on that, and what names mean there for the rest. */
  | { type: 'side.pane.run'; id: string; run: string; scene: Scene; rules: SideBySide['rules'] }
  /** `leader`: the pane that the others become like. */
  | { type: 'side.link'; link: LinkName; on: boolean; leader: string | null }
  | { type: 'side.free'; id: string; link: LinkName; free: boolean }
  /** An edit of the scene of a pane; the others follow as far as they are linked. */
  | { type: 'side.scene'; id: string; edit: Edit }
  | { type: 'side.step'; id: string; step: number }
  | { type: 'side.show'; change: Partial<SideBySide['show']> };

const said: Record<Exclude<SideEdit['type'], 'side.scene'>, string> = {
  'side.rename': 'rename',
  'side.panes.add': 'add panes',
  'side.pane.remove': 'take a pane away',
  'side.pane.move': 'move a pane',
  'side.pane.title': 'rename a pane',
  'side.pane.run': 'show another run',
  'side.link': 'link the panes',
  'side.free': 'link a pane',
  'side.step': 'show another time',
  'side.show': 'lay the panes out',
};

export const saySideEdit = (edit: SideEdit): string =>
  edit.type === 'side.scene' ? sayEdit(edit.edit) : said[edit.type];

type Runs = ReadonlyMap<string, RunDescription>;

/** @param runs those of the panes, as far as they are there */
export function withSideEdit(side: SideBySide, edit: SideEdit, runs: Runs): SideBySide {
  switch (edit.type) {
    case 'side.rename':
      return { ...side, name: edit.name };
    case 'side.panes.add':
      return { ...side, panes: [...side.panes, ...edit.panes] };
    case 'side.pane.remove':
      return { ...side, panes: side.panes.filter((p) => p.id !== edit.id) };
    case 'side.pane.move': {
      const moved = side.panes.find((p) => p.id === edit.id);
      const others = side.panes.filter((p) => p !== moved);
      return moved ? { ...side, panes: others.toSpliced(edit.to, 0, moved) } : side;
    }
    case 'side.pane.title':
      return withPanes(side, (p) => (p.id === edit.id ? { ...p, title: edit.title } : p));
    case 'side.pane.run': {
      const { id, run, scene, rules } = edit;
      const swapped = withPanes(side, (p) => (p.id === id && p.kind === 'scene' ? { ...p, run, scene } : p));
      const fields = { ...side.rules.fields, ...rules.fields };
      return { ...swapped, rules: { fields, parts: { ...side.rules.parts, ...rules.parts } } };
    }
    case 'side.link': {
      const linked = { ...side, links: { ...side.links, [edit.link]: edit.on } };
      const leader = scenePanes(side).find((p) => p.id === edit.leader);
      return edit.on && leader ? follow(linked, leader, edit.link, runs) : linked;
    }
    case 'side.free': {
      const { id, link } = edit;
      const freed = withPanes(side, (p) => {
        if (p.id !== id || p.kind !== 'scene') return p;
        const others = p.free.filter((l) => l !== link);
        return { ...p, free: edit.free ? [...others, link] : others };
      });
      if (edit.free) return freed;
      const own = scenePanes(freed).find((p) => p.id === id);
      const leader = own && scenePanes(freed).find((p) => p !== own && goTogether(freed, link, p, own));
      return leader ? follow(freed, leader, link, runs, (p) => p.id === id) : freed;
    }
    case 'side.scene':
      return withEverySceneEdited(side, edit.id, edit.edit, runs);
    case 'side.step':
      return withStep(side, edit.id, edit.step, runs);
    case 'side.show':
      return { ...side, show: { ...side.show, ...edit.change } };
  }
}

const withPanes = (side: SideBySide, change: (pane: Pane) => Pane): SideBySide => ({
  ...side,
  panes: side.panes.map(change),
});

const withScenes = (side: SideBySide, sceneOf: (pane: ScenePane) => Scene): SideBySide =>
  withPanes(side, (pane) => {
    if (pane.kind !== 'scene') return pane;
    const scene = sceneOf(pane);
    return scene === pane.scene ? pane : { ...pane, scene };
  });

/** In which an edit of one pane is made in another too. */
function linksBetween(side: SideBySide, a: ScenePane, b: ScenePane): Links & { times: boolean } {
  const on = (link: LinkName): boolean => goTogether(side, link, a, b);
  return Object.fromEntries(linkNames.map((link) => [link, on(link)])) as Record<LinkName, boolean>;
}

function withEverySceneEdited(side: SideBySide, id: string, edit: Edit, runs: Runs): SideBySide {
  const from = scenePanes(side).find((p) => p.id === id);
  if (!from) return side;
  return withScenes(side, (pane) => {
    if (pane === from) return applyEdit(pane.scene, edit);
    const like = linkedEdit(
      edit,
      from.scene,
      pane.scene,
      linksBetween(side, from, pane),
      sameInRuns(runs.get(from.run), runs.get(pane.run)),
    );
    return like ? applyEdit(pane.scene, like) : pane.scene;
  });
}

function withStep(side: SideBySide, id: string, step: number, runs: Runs): SideBySide {
  const from = scenePanes(side).find((p) => p.id === id);
  if (!from) return side;
  const own = runs.get(from.run);
  return withScenes(side, (pane) => {
    if (pane === from) return atStep(pane.scene, step);
    const to = runs.get(pane.run);
    if (!own || !to || !goTogether(side, 'times', from, pane)) return pane.scene;
    return atStep(pane.scene, likeStep(own, step, to) ?? pane.scene.step);
  });
}

const atStep = (scene: Scene, step: number): Scene =>
  step === scene.step && scene.onward === 0 ? scene : { ...scene, step, onward: 0 };

/** Makes the others like one of the panes, in what they are linked by. */
function follow(
  side: SideBySide,
  leader: ScenePane,
  link: LinkName,
  runs: Runs,
  who: (pane: ScenePane) => boolean = () => true,
): SideBySide {
  if (link === 'times') {
    const led = withStep(side, leader.id, leader.scene.step, runs);
    const after = new Map(scenePanes(led).map((p) => [p.id, p.scene]));
    return withScenes(side, (p) => (who(p) ? (after.get(p.id) ?? p.scene) : p.scene));
  }
  const only: Links = { camera: false, scales: false, lines: false, looks: false, [link]: true };
  const edits = editsTo(leader.scene, link);
  return withScenes(side, (pane) => {
    if (pane.id === leader.id || !who(pane) || !goTogether(side, link, leader, pane)) return pane.scene;
    const same = sameInRuns(runs.get(leader.run), runs.get(pane.run));
    return edits.reduce((scene, edit) => {
      const like = linkedEdit(edit, leader.scene, scene, only, same);
      return like ? applyEdit(scene, like) : scene;
    }, pane.scene);
  });
}

/** The edits that make another scene like this one in what a link is about; lines only follow what is done from then on. */
function editsTo(scene: Scene, link: LinkName): Edit[] {
  if (link === 'scales')
    return scene.scales.map(({ id, quantity: _, name: __, legend: ___, ...change }) => ({
      type: 'scale.change',
      id,
      change,
    }));
  if (link === 'lines') return [];
  const things = eachThing(({ id }) => scene[id]);
  return (Object.keys(things) as ThingId[]).map((thing) => ({
    type: 'setting.change',
    thing,
    change: scene[thing],
  })) as Edit[];
}

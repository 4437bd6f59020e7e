import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import type { RunDescription } from '../model/run.ts';
import { defaultScene } from '../scene/default-scene.ts';
import type { Scene } from '../scene/document.ts';
import { applyEdit, type Edit } from '../scene/edits.ts';
import { readScript } from '../scene/scene-script.ts';
import { type Links, likesOf, linkedEdit, stepIn } from './linked-edits.ts';

let run: RunDescription;
let left: Scene;
const sceneOf = (...lines: string[]): Scene =>
  readScript(['Scene "Oven"', ...lines].join('\n'), run, { ...defaultScene(run), layers: [] });
beforeAll(async () => {
  run = await ovenRun();
  left = sceneOf('Surface of oven', 'Section of oven at x = 0.5 m, coloured by temperature on Heat');
});

const all: Links = { camera: true, scales: true, lines: true, looks: true };
/** Both scenes after an edit of the first. */
function linked(edit: Edit, from: Scene, to: Scene, links = all): [Scene, Scene] {
  const other = linkedEdit(edit, from, to, links);
  return [applyEdit(from, edit), other ? applyEdit(to, other) : to];
}
/** The same with other ids, as a scene that was made by itself has them. */
const renamed = (scene: Scene): Scene => ({
  ...scene,
  layers: scene.layers.map((l) => ({
    ...l,
    id: `own-${l.id}`,
    chain: l.chain.map((s) => ({ ...s, id: `own-${s.id}` })),
    colour: l.colour.kind === 'field' ? { ...l.colour, scale: `own-${l.colour.scale}` } : l.colour,
  })),
  scales: scene.scales.map((s) => ({ ...s, id: `own-${s.id}` })),
});
const offsetOf = ({ layers }: Scene, at = 1) => (layers[at].chain[0].options as { offset: number }).offset;

describe('what is like in two scenes', () => {
  it('is found by ids, by how lines are made, and by the quantity of scales', () => {
    const other = renamed(left);
    const likes = likesOf(left, other);
    for (const { id, chain } of left.layers) {
      expect(likes.layers.get(id)).toBe(`own-${id}`);
      for (const step of chain) expect(likes.steps.get(stepIn(id, step.id))).toBe(`own-${step.id}`);
    }
    for (const { id } of left.scales) expect(likes.scales.get(id)).toBe(`own-${id}`);
  });

  it('prefers the line that is made the same to one that only is of its kind, and is like one line only', () => {
    const two = sceneOf('Section of oven at x = 0.2 m', 'Section of oven at x = 0.5 m');
    const one = sceneOf('Section of oven at x = 0.5 m', 'Section of oven at y = 0.1 m');
    const other = renamed(one);
    const { layers } = likesOf(two, other);
    expect(layers.get(two.layers[1].id)).toBe(other.layers[0].id);
    expect(layers.get(two.layers[0].id)).toBe(other.layers[1].id);
    const few = { ...other, layers: other.layers.slice(1) };
    expect(likesOf(two, few).layers.size).toBe(1);
    expect(likesOf(left, { ...left, layers: [] }).layers.size).toBe(0);
  });
});

describe('an edit in linked scenes', () => {
  it('goes to the like of a line and of its operation, whatever they are called there', () => {
    const other = renamed(left);
    const [, section] = left.layers;
    const moved: Edit = {
      type: 'chain.change',
      id: section.id,
      step: section.chain[0].id,
      options: { offset: 0.25 },
    };
    expect(linked(moved, left, other).map((s) => offsetOf(s))).toEqual([0.25, 0.25]);
    const clear: Edit = { type: 'layer.change', id: section.id, change: { opacity: 0.4 } };
    expect(linked(clear, left, other)[1].layers.map((l) => l.opacity)).toEqual([1, 0.4]);
    const gone: Edit = { type: 'layer.remove', id: section.id };
    expect(linked(gone, left, other)[1].layers).toHaveLength(1);
    // Free lines stay as they are.
    expect(linkedEdit(moved, left, other, { ...all, lines: false })).toBeNull();
  });

  it('gives a new line to all, coloured by the scale each has for its quantity', () => {
    const other = renamed(left);
    const added = sceneOf('Section of oven at z = 0.1 m, coloured by temperature on Heat');
    const layer = { ...added.layers[0], id: 'new' };
    const colour =
      layer.colour.kind === 'field' ? { ...layer.colour, scale: left.scales[0].id } : layer.colour;
    const [, made] = linked({ type: 'layer.add', layer: { ...layer, colour } }, left, other);
    expect(made.layers.at(-1)).toMatchObject({ id: 'new', colour: { scale: `own-${left.scales[0].id}` } });
    expect(made.scales).toHaveLength(other.scales.length);
    // One that has no such scale takes the new one along.
    const bare = sceneOf('Surface of oven, in steel');
    const scale = { ...left.scales[0], id: 'fresh' };
    const fresh = { ...layer, colour: { ...colour, scale: 'fresh' } as typeof colour };
    const [, with_] = linked({ type: 'layer.add', layer: fresh, scale }, left, { ...bare, scales: [] });
    expect(with_.scales.map((s) => s.id)).toEqual(['fresh']);
    expect(
      linkedEdit({ type: 'layer.add', layer: { ...layer, colour } }, left, { ...bare, scales: [] }, all),
    ).toBeNull();
  });

  it('is of cameras, scales and looks as far as these are linked, and never of what is each scene’s own', () => {
    const other = renamed(left);
    const only = (link: keyof Links): Links => ({
      camera: false,
      scales: false,
      lines: false,
      looks: false,
      [link]: true,
    });
    const edits: [Edit, keyof Links | null][] = [
      [{ type: 'setting.change', thing: 'camera', change: { fieldOfView: 20 } }, 'camera'],
      [{ type: 'setting.change', thing: 'light', change: { rig: 'even' } }, 'looks'],
      [{ type: 'legend.change', id: left.scales[0].id, change: { visible: false } }, 'scales'],
      [{ type: 'scale.change', id: left.scales[0].id, change: { name: 'Hot' } }, 'scales'],
      [{ type: 'parts.change', parts: ['oven'], change: { hidden: true } }, 'lines'],
      [{ type: 'scene.rename', name: 'Other' }, null],
      [{ type: 'setting.change', thing: 'reel', change: { seconds: 3 } }, null],
    ];
    for (const [edit, link] of edits)
      for (const one of ['camera', 'scales', 'lines', 'looks'] as const)
        expect(linkedEdit(edit, left, other, only(one)) !== null, `${edit.type} by ${one}`).toBe(
          one === link,
        );
    const [, made] = linked(edits[3][0], left, other);
    expect(made.scales[0].name).toBe('Hot');
  });
});

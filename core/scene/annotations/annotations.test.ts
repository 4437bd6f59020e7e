import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../../tests/sample-run.ts';
import { withOfferedQuantities } from '../../fields/quantity-sources.ts';
import type { RunDescription } from '../../model/run.ts';
import { keyable, read, write } from '../addresses.ts';
import { defaultScene } from '../default-scene.ts';
import { readScene, type Scene } from '../document.ts';
import { applyEdit } from '../edits.ts';
import { renameInScene } from '../rename-in-scene.ts';
import { repairScene } from '../repair-scene.ts';
import { changesBetween, withChanges } from '../scene-changes.ts';
import { readScript, writeScript } from '../scene-script.ts';
import { settingOf } from '../setting.ts';
import { type Annotation, annotationKinds } from './registry.ts';

let run: RunDescription;
let plain: Scene;
beforeAll(async () => {
  run = withOfferedQuantities(await ovenRun());
  plain = defaultScene(run);
});

const made = (kind: (typeof annotationKinds)[number], change: object = {}): Annotation => ({
  ...kind.defaults(settingOf(run, plain), plain),
  ...change,
  id: `one ${kind.id}`,
  kind: kind.id,
  visible: true,
});

const withAll = (): Scene => ({ ...plain, annotations: annotationKinds.map((kind) => made(kind)) });

/** What is unlike the plain state in everything: each control is given another value. */
function changed(kind: (typeof annotationKinds)[number]): Annotation {
  const one = made(kind);
  for (const control of kind.controls as { key: string; kind: string; choices?: { value: unknown }[] }[]) {
    const { key } = control;
    const value = one[key];
    if (control.kind === 'choice') one[key] = control.choices!.find((c) => c.value !== value)!.value;
    else if (control.kind === 'tick') one[key] = !value;
    else if (control.kind === 'template') one[key] = 'a "quoted" \\ {time:.2f}\nand {{another}} line, hidden';
    else if (control.kind === 'words') one[key] = 'u v "w"';
    else if (control.kind === 'colour') one[key] = '#12ab9f';
    else if (control.kind === 'share') one[key] = 0.125;
    else if (control.kind === 'number') one[key] = typeof value === 'number' ? value + 2 : 2.5;
    else if (control.kind === 'word') one[key] = 'mm';
  }
  if ('aside' in one && kind.id !== 'distance') one.aside = [0.125, -0.0625];
  return one;
}

describe('words and marks of every kind', () => {
  it('stand in a document as they are proposed, and are read back', () => {
    const scene = withAll();
    expect(readScene(JSON.parse(JSON.stringify(scene)))).toEqual(scene);
  });

  it('are said in full and read back, as proposed, changed in everything, and hidden', () => {
    for (const kind of annotationKinds)
      for (const annotation of [made(kind), changed(kind), { ...made(kind), visible: false }]) {
        const scene = { ...plain, annotations: [annotation] };
        const script = writeScript(scene, run);
        const back = readScript(script, run).annotations[0];
        expect({ ...back, id: annotation.id }, script).toEqual(JSON.parse(JSON.stringify(annotation)));
      }
  });

  it('hang on every kind of thing, said and read back', () => {
    const label = annotationKinds.find((k) => k.id === 'label')!;
    const common = { field: 'point:temperature', component: 0 };
    const hooks = [
      { on: 'place', place: [0.5, -1.25, 3], field: '', component: 0 },
      { on: 'part', part: 'tin "left"', field: '', component: 0 },
      { on: 'node', part: 'oven', index: 12, ...common },
      { on: 'cell', part: 'oven', index: 3, ...common },
      { on: 'lowest', among: 'shown', ...common },
      { on: 'highest', among: 'all', ...common },
    ];
    for (const hook of hooks) {
      const annotation = { ...label.plain, ...hook, id: 'a', kind: 'label', visible: true } as Annotation;
      const script = writeScript({ ...plain, annotations: [annotation] }, run);
      expect({ ...readScript(script, run).annotations[0], id: 'a' }, script).toEqual(annotation);
    }
  });

  it('are added, changed, moved in order and taken away by edits', () => {
    let scene = plain;
    for (const annotation of withAll().annotations.slice(0, 3))
      scene = applyEdit(scene, { type: 'annotation.add', annotation });
    const ids = scene.annotations.map((a) => a.id);
    scene = applyEdit(scene, { type: 'annotation.change', id: ids[1], change: { text: 'new' } });
    scene = applyEdit(scene, { type: 'annotation.move', id: ids[0], to: 2 });
    scene = applyEdit(scene, { type: 'annotation.remove', id: ids[2] });
    expect(scene.annotations.map((a) => a.id)).toEqual([ids[1], ids[0]]);
    expect(scene.annotations[0].text).toBe('new');
    expect(plain.annotations).toEqual([]);
  });

  it('can have keys by addresses that hold whatever their order', () => {
    const scene = withAll();
    const size = keyable(scene).find((k) => k.address.join() === 'annotations,one text,size')!;
    expect(size.value).toBe(3);
    expect(size.between(3, 5, 0.5)).toBe(4);
    const turned = { ...scene, annotations: [...scene.annotations].reverse() };
    const written = write(turned, size.address, 4);
    expect(read(written, size.address)).toBe(4);
    for (const { address, value } of keyable(scene)) expect(read(scene, address)).toEqual(value);
  });

  it('changed in two places at once keep both changes', () => {
    const scene = withAll();
    const mine = applyEdit(scene, { type: 'annotation.change', id: 'one text', change: { size: 5 } });
    const theirs = applyEdit(scene, { type: 'annotation.change', id: 'one text', change: { x: 0.25 } });
    const both = withChanges(theirs, changesBetween(scene, mine));
    expect(both.refused).toEqual([]);
    expect(both.scene.annotations[0]).toMatchObject({ size: 5, x: 0.25 });
  });

  it('that are damaged are mended or left out, and what was done is named', () => {
    const scene = JSON.parse(JSON.stringify(withAll()));
    scene.annotations[0].size = 4000;
    scene.annotations[1].weight = 'heavy';
    scene.annotations[2].kind = 'poem';
    scene.annotations.find((a: { kind: string }) => a.kind === 'logo').image = 'https://example.org/a.png';
    const { scene: mended, repairs } = repairScene(scene);
    expect(mended.annotations).toHaveLength(annotationKinds.length - 1);
    expect(mended.annotations[1].weight).toBe('medium');
    expect(mended.annotations.find((a) => a.kind === 'logo')!.image).toBe('');
    expect(repairs).toHaveLength(4);
  });

  it('of scenes written before there were any are none', () => {
    const { annotations: _, ...old } = JSON.parse(JSON.stringify(plain));
    expect(readScene(old).annotations).toEqual([]);
  });

  it('follow renamed quantities and parts', () => {
    const label = made(annotationKinds.find((k) => k.id === 'label')!, {
      on: 'node',
      part: 'oven',
      field: 'point:temperature',
    });
    const renamed = renameInScene(
      { ...plain, annotations: [label] },
      { fields: { 'point:temperature': 'point:T' }, parts: { oven: 'chamber' } },
    );
    expect(renamed.annotations[0]).toMatchObject({ part: 'chamber', field: 'point:T' });
  });
});

import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../../tests/sample-run.ts';
import { speak } from '../../language/sentence.ts';
import { SentenceReader } from '../../language/sentence-reader.ts';
import { LARGEST_SIDE } from '../../model/largest-side.ts';
import { quantityKey } from '../../model/quantity.ts';
import type { RunDescription } from '../../model/run.ts';
import { inFormOfNow } from '../../model/versioned.ts';
import type { OperationSetting } from '../../ops/chain/operation.ts';
import { defaultScene } from '../default-scene.ts';
import { readScene } from '../document.ts';
import { isEven } from '../light-rigs/light-rig.ts';
import { lightRigs } from '../light-rigs/registry.ts';
import { settingOf } from '../setting.ts';
import type { Declaration } from './declaration.ts';
import { layerLook } from './layer-look.ts';
import { legend } from './legend.ts';
import { partLook } from './part-look.ts';
import { eachThing, sceneThing, sceneThings } from './registry.ts';
import { scale } from './scale.ts';

let run: RunDescription;
let setting: OperationSetting;
beforeAll(async () => {
  run = await ovenRun();
  setting = { ...settingOf(run, defaultScene(run)), exact: true };
});

// biome-ignore lint/suspicious/noExplicitAny: declarations of things of every kind
const all: Declaration<any>[] = [...sceneThings, scale, legend, layerLook, partLook];

/** States a control can lead to, beginning with the plain one. */
function statesOf(thing: Declaration<Record<string, unknown>>): Record<string, unknown>[] {
  const { controls } = thing;
  const quantity = 'quantity' in thing.plain ? { quantity: quantityKey(run.fields[0].key, 0) } : {};
  const plain = { ...thing.plain, ...quantity };
  const out = [plain];
  for (const control of controls) {
    const values =
      control.kind === 'choice'
        ? control.choices.map((c) => c.value)
        : control.kind === 'tick'
          ? [true, false]
          : control.kind === 'share'
            ? [0, 0.35, 1]
            : control.kind === 'number'
              ? (control.range?.(plain, setting) ?? [1, 5])
              : [];
    for (const value of values)
      out.push({ ...plain, [control.key]: value, ...control.also?.(value, setting, plain) });
  }
  return out;
}

describe('what a scene has one of, and what it has many of', () => {
  it('is valid as it is plain, as a run opens, and in every state its controls lead to', () => {
    for (const thing of all)
      for (const state of statesOf(thing)) expect(thing.schema.safeParse(state).success, thing.id).toBe(true);
    for (const thing of sceneThings)
      for (const dimension of [2, 3])
        expect(thing.schema.safeParse(thing.defaults({ ...setting, dimension }, 1.5)).success).toBe(true);
  });
  it('is said in full and read back in every such state', () => {
    for (const thing of all)
      for (const state of statesOf(thing)) {
        if (thing.silent?.(state)) continue;
        const text = speak(thing.phrase.say(state, setting)!);
        const reader = new SentenceReader(text);
        const found: Record<string, unknown> = {};
        expect(thing.phrase.read(reader, found, setting) && reader.done, `${thing.id}: ${text}`).toBe(true);
        expect({ ...thing.plain, ...found }, text).toEqual(state);
      }
  });
  it('is said to a reader with words that edit it', () => {
    const said = (id: string, change: object = {}): string => {
      const thing = sceneThing(id);
      return speak(thing.phrase.say({ ...thing.plain, ...change }, { ...setting, exact: false })!);
    };
    expect(said('light')).toBe('Studio light');
    expect(said('light', { warmth: 0.4, fill: 0.5 })).toBe('Studio light, warm, with deeper shade');
    expect(said('light', { rig: 'own', warmth: 0.4, fill: 0.5 })).toBe('Own surroundings, with deeper shade');
    expect(said('floor')).toBe(', only shadow on the floor');
    expect(said('floor', { kind: 'tiles' })).toBe(', a floor of tiles');
    expect(said('backdrop', { kind: 'ink' })).toBe(', on ink');
    expect(said('camera')).toBe('Perspective of 48 mm, from −y, +x, above');
    expect(said('stamp')).toBe('Time in s');
    expect(said('stamp', { visible: false })).toBe('No time');
    expect(said('picture', { aspect: 16 / 9 })).toBe('on a picture of 16 to 9');
    for (const thing of sceneThings.filter((t) => t.line)) {
      const pieces = thing.phrase.say(thing.plain, { ...setting, exact: false })!;
      expect(pieces.some((p) => p.control?.kind === 'setting' && p.control.thing === thing.id)).toBe(true);
    }
  });
  it('of a kind this version does not have is refused', () => {
    expect(() => sceneThing('steam')).toThrow('no setting "steam"');
  });
  it('turning to a lamp turns on what it does, on a flat run it does not', () => {
    const [rig] = sceneThing('light').controls;
    const lamp = lightRigs.find((r) => !isEven(r))!.id;
    expect(rig.also?.(lamp, setting, sceneThing('light').plain)).toMatchObject({ shadow: true });
    expect(rig.also?.(lamp, { ...setting, dimension: 2 }, {})).toEqual({});
  });
});

describe('things in documents', () => {
  it('that a document does not have yet are plain, those of an older form are brought to that of now', () => {
    const { picture: _, ...without } = defaultScene(run);
    expect(readScene(without).picture).toEqual(sceneThing('picture').plain);
    const grown = {
      version: 3,
      migrations: {
        1: (old: Record<string, unknown>) => ({ ...old, second: 2 }),
        2: ({ first, ...old }: Record<string, unknown>) => ({ ...old, third: first }),
      },
    };
    expect(inFormOfNow({ first: 1 }, 1, grown)).toEqual({ second: 2, third: 1 });
    expect(inFormOfNow({ first: 1, second: 5 }, 2, grown)).toEqual({ second: 5, third: 1 });
    expect(inFormOfNow({ third: 3 }, 3, grown)).toEqual({ third: 3 });
    expect(inFormOfNow({ fourth: 4 }, 4, grown)).toEqual({ fourth: 4 });
    for (const damaged of [0, -3, 1.5, Number.NaN])
      expect(inFormOfNow({ first: 1 }, damaged, grown)).toEqual({ second: 2, third: 1 });
  });
  it('of every kind come in the form of now, whatever form they were written in', () => {
    const scene = JSON.parse(JSON.stringify(defaultScene(run)));
    const declared = [sceneThing('light'), scale, legend, layerLook, partLook];
    const kept = declared.map((d) => ({ version: d.version, migrations: d.migrations }));
    try {
      for (const [i, d] of declared.entries()) {
        const now = kept[i].version ?? 1;
        Object.assign(d, {
          version: now + 1,
          migrations: {
            ...kept[i].migrations,
            [now]: ({ old, ...rest }: Record<string, unknown>) => ({ ...rest, ...(old as object) }),
          },
        });
      }
      // As a version before would have written them: one entry of each under another name.
      scene.light = { ...scene.light, contact: undefined, old: { contact: 0.25 } };
      scene.layers[0] = { ...scene.layers[0], opacity: undefined, old: { opacity: 0.5 } };
      scene.scales[0] = { ...scene.scales[0], map: undefined, old: { map: 'plasma' } };
      scene.scales[0].legend = { ...scene.scales[0].legend, title: undefined, old: { title: 'Crust' } };
      scene.parts = {
        oven: { ...partLook.plain, colour: undefined, old: { colour: '#112233' } },
      };
      const read = readScene(scene);
      expect(read.light.contact).toBe(0.25);
      expect(read.layers[0].opacity).toBe(0.5);
      expect(read.scales[0]).toMatchObject({ map: 'plasma', legend: { title: 'Crust' } });
      expect(read.parts.oven.colour).toBe('#112233');
      expect(read.forms).toMatchObject(Object.fromEntries(declared.map((d) => [d.id, d.version])));
      // Read again, nothing is changed any more; and a scene made now says what it is.
      const fresh = defaultScene(run);
      expect(readScene(JSON.parse(JSON.stringify(fresh)))).toEqual(fresh);
      expect(readScene(JSON.parse(JSON.stringify(read)))).toEqual(read);
    } finally {
      for (const [i, d] of declared.entries()) Object.assign(d, kept[i]);
    }
  });
  it('are all in the first scene of a run', () => {
    const scene = defaultScene(run) as unknown as Record<string, unknown>;
    eachThing(({ id, schema }) => expect(schema.safeParse(scene[id]).success, id).toBe(true));
  });
});

it('the picture may have the shape of every size that can be asked for', () => {
  for (const aspect of [LARGEST_SIDE / 16, 16 / LARGEST_SIDE, LARGEST_SIDE / 1024])
    expect(sceneThing('picture').schema.safeParse({ ...sceneThing('picture').plain, aspect }).success).toBe(
      true,
    );
});

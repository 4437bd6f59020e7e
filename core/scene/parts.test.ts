import { describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { defaultScene } from './default-scene.ts';
import type { Scene } from './document.ts';
import { applyEdit } from './edits.ts';
import { SceneHistory } from './history.ts';
import { ownColour, partLook } from './things/part-look.ts';

const scene = async (): Promise<Scene> => defaultScene(await ovenRun());

describe('parts', () => {
  it('are hidden, coloured and shown again; what is plain has no entry', async () => {
    const begin = await scene();
    const hidden = applyEdit(begin, { type: 'parts.change', parts: ['oven'], change: { hidden: true } });
    expect(hidden.parts).toEqual({
      oven: { ...partLook.plain, hidden: true },
    });
    const coloured = applyEdit(hidden, {
      type: 'parts.change',
      parts: ['oven'],
      change: { colour: '#b4733f' },
    });
    expect(coloured.parts.oven).toEqual({ ...partLook.plain, hidden: true, colour: '#b4733f' });
    const plain = applyEdit(coloured, {
      type: 'parts.change',
      parts: ['oven'],
      change: { hidden: false, colour: null },
    });
    expect(plain.parts).toEqual({});
    // Each of its looks alone is kept.
    for (const change of [{ opacity: 0.4 }, { edges: false }, { colour: '#b4733f' }]) {
      const { parts } = applyEdit(begin, { type: 'parts.change', parts: ['oven'], change });
      expect(parts.oven).toMatchObject(change);
    }
  });
  it('told apart by colours show values where a line has some, those coloured by hand do not', () => {
    const [values, one] = [{ colour: { kind: 'field' } }, { colour: { kind: 'plain' } }];
    const told = { ...partLook.plain, colour: '#b4733f', coversValues: false };
    expect([ownColour(told, values), ownColour(told, one)]).toEqual([null, '#b4733f']);
    const byHand = { ...told, coversValues: true };
    expect([ownColour(byHand, values), ownColour(undefined, one)]).toEqual(['#b4733f', null]);
  });
  it('alone hides all others, and one undo brings them back', async () => {
    const all = ['air', 'tins', 'walls'];
    const history = SceneHistory.of(await scene()).apply({ type: 'parts.alone', shown: ['tins'], all });
    expect(Object.keys(history.scene.parts)).toEqual(['air', 'walls']);
    const next = history.apply({ type: 'parts.alone', shown: ['air'], all });
    expect(Object.keys(next.scene.parts)).toEqual(['walls', 'tins']);
    expect(next.undo().undo().scene.parts).toEqual({});
  });
});

import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { defaultScene } from './default-scene.ts';
import type { Layer, Scale, Scene } from './document.ts';
import { applyEdit } from './edits.ts';
import { freeLegendPlace, withLegendsSet } from './legend-places.ts';

let scene: Scene;

/** A scene of lines that each have a scale of their own, their legends one on the other. */
beforeAll(async () => {
  const plain = defaultScene(await ovenRun());
  const names = ['a', 'b', 'c'];
  const layers = names.map((id): Layer => {
    const colour = { kind: 'field', field: 'point:temperature', component: 0, scale: id } as const;
    return { ...plain.layers[0], id, colour };
  });
  scene = { ...plain, layers, scales: names.map((id): Scale => ({ ...plain.scales[0], id })) };
});

const places = ({ scales }: Scene): number[] => scales.map((s) => s.legend.x);
const without = (...hidden: string[]): Scene => ({
  ...scene,
  layers: scene.layers.map((l) => ({ ...l, visible: !hidden.includes(l.id) })),
});
const moved = (s: Scene, id: string, x: number, y = 0.5): Scene =>
  applyEdit(s, { type: 'legend.change', id, change: { x, y } });

describe('legends', () => {
  it('stand apart as soon as one more is shown, and close up when one goes', () => {
    const all = applyEdit(without('c'), { type: 'layer.change', id: 'c', change: { visible: true } });
    const [a, b, c] = places(all);
    expect(new Set([a, b, c]).size).toBe(3);
    const fewer = applyEdit(all, { type: 'layer.change', id: 'a', change: { visible: false } });
    expect(places(fewer).slice(1)).toEqual([a, b]);
    const removed = applyEdit(all, { type: 'layer.remove', id: 'b' });
    expect(places(removed)).toEqual([a, b]);
  });
  it('leave those where they are that somebody moved, and keep clear of them', () => {
    const own = moved(without('b', 'c'), 'a', 0.08, 0.4);
    const more = applyEdit(own, { type: 'layer.change', id: 'b', change: { visible: true } });
    const all = applyEdit(more, { type: 'layer.change', id: 'c', change: { visible: true } });
    expect(all.scales[0].legend).toMatchObject({ x: 0.08, y: 0.4 });
    for (const x of places(all).slice(1)) expect(Math.abs(x - 0.08)).toBeGreaterThan(0.11);
  });
  it('stay where they are as long as the same ones are shown', () => {
    expect(applyEdit(scene, { type: 'layer.change', id: 'a', change: { opacity: 0.5 } }).scales).toEqual(
      scene.scales,
    );
    expect(withLegendsSet(scene, scene)).toBe(scene);
  });
  it('have six places; a seventh begins again', () => {
    const taken: Scale[] = [];
    for (let n = 0; n < 6; n++) {
      const { legend } = scene.scales[0];
      taken.push({ ...scene.scales[0], legend: { ...legend, x: freeLegendPlace(taken) } });
    }
    expect(new Set(taken.map((s) => s.legend.x)).size).toBe(6);
    expect(freeLegendPlace(taken)).toBe(taken[0].legend.x);
  });
});

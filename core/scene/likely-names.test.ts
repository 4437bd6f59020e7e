import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import type { RunDescription } from '../model/run.ts';
import { defaultScene } from './default-scene.ts';
import { withScaleFates } from './kept-scales.ts';
import { lackingIn } from './likely-names.ts';
import { onOtherRun } from './on-other-run.ts';
import { endsOfScales } from './scale-ends.ts';

let run: RunDescription;
beforeAll(async () => {
  run = await ovenRun();
});
/** The scene it opens with, of its part alone. */
const ofOven = () => {
  const scene = defaultScene(run);
  return { ...scene, layers: scene.layers.map((l) => ({ ...l, parts: ['oven'] })) };
};
/** The run as another solver would have written it. */
const told = (part: string, field: string, unit: string | null = '°C'): RunDescription => ({
  ...run,
  parts: run.parts.map((p) => ({ ...p, name: part })),
  fields: run.fields.map((f) =>
    f.name === 'temperature' ? { ...f, key: `${f.location}:${field}`, name: field, unit } : f,
  ),
});

describe('what another run calls otherwise', () => {
  it('is proposed by name, by what it means for the job, and by its place', () => {
    const [part, field] = lackingIn([ofOven()], run, told('zone_0017', 'TEMP')).sort((a, b) =>
      b.kind.localeCompare(a.kind),
    );
    expect(part).toMatchObject({ kind: 'part', asked: run.parts[0].name, likely: 'zone_0017' });
    expect(field).toMatchObject({ kind: 'field', name: 'temperature', likely: 'point:TEMP' });
  });
  it('is not proposed by place where that is another', () => {
    const away = told('zone_0017', 'temperature');
    away.parts = away.parts.map((p) => ({
      ...p,
      meshes: p.meshes.map((m) => ({ ...m, bounds: [9, 10, 9, 10, 9, 10] })),
    }));
    expect(lackingIn([ofOven()], run, away)[0]).toMatchObject({ kind: 'part', likely: null });
  });
});

describe('a scene on another run', () => {
  const rules = { fields: { 'point:temperature': 'point:TEMP' }, parts: { oven: 'zone_0017' } };
  it('asks for what is meant there, and for nothing else than before where the names are the same', () => {
    const scene = { ...defaultScene(run), step: 2 };
    expect(onOtherRun(scene, run, rules)).toEqual(scene);
    const other = { ...told('zone_0017', 'TEMP'), steps: run.steps.slice(0, 1) };
    const moved = onOtherRun(scene, other, rules);
    expect(moved.step).toBe(0);
    expect(JSON.stringify(moved.layers)).toContain('point:TEMP');
    expect(JSON.stringify(moved.layers)).not.toContain('point:temperature');
  });
  it('keeps its scales at the same temperatures in another unit, or lets them follow', () => {
    const scene = defaultScene(run);
    const ends = endsOfScales(scene, run, []);
    const [id] = Object.keys(ends);
    const other = told('oven', 'temperature', 'K');
    const kept = withScaleFates(scene, { scene, run, ends }, other, { [id]: 'kept' });
    const [low, high] = ends[id];
    expect(kept.scales[0].range).toMatchObject({
      kind: 'fixed',
      low: expect.closeTo(low + 273.15, 9),
      high: expect.closeTo(high + 273.15, 9),
    });
    const again = withScaleFates(kept, { scene: kept, run: other, ends: {} }, run, { [id]: 'refitted' });
    expect(again.scales[0].range).toEqual({ kind: 'all-steps' });
  });
});

import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { RunDescription } from '#core/model/run.ts';
import { ask, followJob, RequestProblem } from '#engine/server-requests.ts';
import { Served } from '../attack/served.ts';
import { temperature } from '../sample-run.ts';
import { hexBlock } from '../vtu-builder.ts';

/** A run whose files change after it was imported: through the server, as the desk asks it. */
const results = mkdtempSync(join(tmpdir(), 'dresser-changes-'));
const served = new Served({ DRESSER_FOLDERS: results });
let run = '';
const at = (path: string): string => `${served.address}/api/runs/${run}${path}`;
const described = async (): Promise<RunDescription> =>
  (await ask<{ description: RunDescription }>(at(''))).description;
const follow = <T>(job: string): Promise<T> => followJob<T>(job, undefined, undefined, served.address);
const read = async <T>(what: object): Promise<T> =>
  follow<T>((await ask<{ job: string }>(at('/read'), { method: 'POST', json: what })).job);

const pathOf = (step: number): string => join(results, `oven_${step}.vtu`);

/** A block that gets warmer, with a wind that is told relative to a turning frame. */
function write(step: number, path = pathOf(step)): void {
  const mesh = hexBlock(2);
  const heat = temperature(mesh, (x) => 20 + 10 * step + x);
  const still = new Float32Array(mesh.points.length);
  const wind = { name: 'velocity_rel', location: 'point' as const, components: 3, unit: null, data: still };
  writeFileSync(path, writeVtu(mesh, [heat, wind], step, { length: 'm', time: 's' }));
}

beforeAll(async () => {
  for (const step of [0, 1]) write(step);
  await served.start();
  const { id } = await ask<{ id: string }>(`${served.address}/api/intake`, { method: 'POST' });
  const intake = `${served.address}/api/intake/${id}`;
  for (const step of [0, 1])
    await ask(`${intake}/server-path`, { method: 'POST', json: { path: pathOf(step) } });
  const preview = await ask<{ job: string }>(`${intake}/preview`, { method: 'POST' });
  await follow(preview.job);
  const choices = { fields: ['point:temperature'] };
  const { job } = await ask<{ job: string }>(`${intake}/import`, {
    method: 'POST',
    json: { plan: 0, choices },
  });
  run = (await follow<{ run: string }>(job)).run;
}, 240_000);
afterAll(async () => {
  await served.remove();
  rmSync(results, { recursive: true, force: true });
});

interface State {
  there: boolean;
  changed: string[];
  gone: string[];
  newSteps: number;
  leftOut: { key: string }[];
}
const state = (): Promise<State> => ask<State>(at('/source'));

describe('a run and its files', () => {
  it('knows what was left out, and that nothing has changed', async () => {
    const now = await state();
    expect(now).toMatchObject({ there: true, changed: [], gone: [], newSteps: 0 });
    expect(now.leftOut.map((f) => f.key)).toEqual(['point:velocity_rel']);
    expect((await described()).fields.map((f) => f.key)).toEqual(['point:temperature']);
  });
  it('without later steps says so, and stays as it is', async () => {
    const before = await described();
    await expect(read({ what: 'new steps' })).rejects.toThrow(/no new steps/);
    expect(await described()).toEqual(before);
  });
  it('takes in steps that came later, with ranges over all of them', async () => {
    write(2);
    expect((await state()).newSteps).toBe(1);
    expect(await read({ what: 'new steps' })).toMatchObject({ steps: 3 });
    const { steps, fields, measured } = await described();
    expect(steps.map((s) => s.time)).toEqual([0, 1, 2]);
    expect(fields[0].overall.components[0]).toMatchObject({ min: 20, max: 41 });
    expect(measured).toEqual({});
  });
  it('takes in a field that was left out, at every step', async () => {
    await read({ what: 'fields', fields: ['point:velocity_rel'] });
    const { fields, parts } = await described();
    expect(fields.map((f) => f.key)).toEqual(['point:temperature', 'point:velocity_rel']);
    expect(parts[0].steps.every((s) => s!.fields['point:velocity_rel'])).toBe(true);
    expect((await state()).leftOut).toEqual([]);
  });
  it('with a stated frame has the absolute velocity: ω × r beside a relative one of none', async () => {
    const frame = { point: [0, 0, 0], axis: [0, 0, 1], rate: 2 };
    await read({ what: 'frame', part: 'oven', frame });
    const { fields } = await described();
    const absolute = fields.find((f) => f.components === 3 && f.key !== 'point:velocity_rel')!;
    expect(absolute.name).toMatch(/velocity/i);
    // The farthest corner lies a diagonal of the unit square from the axis.
    expect(absolute.overall.magnitude!.max).toBeCloseTo(2 * Math.SQRT2, 5);
    // Stated anew, it takes the place of the one before.
    await read({ what: 'frame', part: 'oven', frame: { ...frame, rate: 1 } });
    const again = (await described()).fields.filter((f) => f.key === absolute.key);
    expect(again).toHaveLength(1);
    expect(again[0].overall.magnitude!.max).toBeCloseTo(Math.SQRT2, 5);
  });
  it('refuses a frame without an axis, and a run that is not there', async () => {
    const frame = { point: [0, 0, 0], axis: [0, 0, 0], rate: 2 };
    await expect(read({ what: 'frame', part: 'oven', frame })).rejects.toThrow(/axis has no length/);
    const missing = ask(`${served.address}/api/runs/none/read`, {
      method: 'POST',
      json: { what: 'new steps' },
    });
    const { job } = (await missing) as { job: string };
    await expect(follow(job)).rejects.toBeInstanceOf(RequestProblem);
  });
  it('notices files that were written anew, and files that are gone', async () => {
    await new Promise((r) => setTimeout(r, 20));
    write(3, pathOf(1));
    expect((await state()).changed.map((n) => n.split('/').pop())).toEqual(['oven_1.vtu']);
    rmSync(pathOf(0));
    expect((await state()).gone.map((n) => n.split('/').pop())).toEqual(['oven_0.vtu']);
    for (const step of [1, 2]) rmSync(pathOf(step));
    expect((await state()).there).toBe(false);
    const before = await described();
    await expect(read({ what: 'fields', fields: ['point:temperature'] })).rejects.toBeInstanceOf(
      RequestProblem,
    );
    expect(await described()).toEqual(before);
  });
});

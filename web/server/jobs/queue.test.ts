import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { ReadError } from '#core/model/read-error.ts';
import { z } from '#core/model/schema.ts';
import type { JobContext, JobKind } from './job-kind.ts';
import type { JobQueue } from './queue.ts';

const folder = mkdtempSync(join(tmpdir(), 'dresser-queue-'));
let Queue: typeof JobQueue;
let queue: JobQueue;
beforeAll(async () => {
  process.env.DRESSER_DATA = folder;
  ({ JobQueue: Queue } = await import('./queue.ts'));
  queue = new Queue();
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

interface Bake {
  loaves: number;
}

const baking = (
  work: (payload: Bake, at: JobContext) => Promise<unknown>,
  more: Partial<JobKind<Bake>> = {},
): JobKind<Bake> => ({
  kind: 'bake',
  payload: z.object({ loaves: z.number().int().min(1) }),
  retries: 0,
  work,
  ...more,
});

const ended = (id: string, of = queue) =>
  vi.waitFor(
    async () => {
      const state = await of.state(id);
      expect(state?.state).not.toBe('running');
      return state!;
    },
    { timeout: 10_000, interval: 10 },
  );

/** A queue that knows of the work of another only what is kept, as after a restart. */
const afterRestart = (...kinds: JobKind<Bake>[]): JobQueue => {
  const other = new Queue();
  for (const kind of kinds) other.register(kind);
  return other;
};

describe('long work', () => {
  it('tells how far it is, and ends with its result, which stays known', async () => {
    let finish = (_: unknown): void => undefined;
    const kind = baking(async (_, at) => {
      at.progress(0.5);
      return new Promise((r) => (finish = r));
    });
    const id = await queue.start(kind, { loaves: 3 });
    await vi.waitFor(async () =>
      expect(await queue.state(id)).toMatchObject({ kind: 'bake', state: 'running', done: 0.5 }),
    );
    expect((await queue.state(id))!.remaining).toEqual(expect.any(Number));
    finish({ crust: 'golden' });
    expect(await ended(id)).toMatchObject({ state: 'done', done: 1, result: { crust: 'golden' } });
    expect(await afterRestart().state(id)).toMatchObject({ state: 'done', result: { crust: 'golden' } });
  });
  it('fails with reason, place and remedy, which stay known', async () => {
    const id = await queue.start(
      baking(() => Promise.reject(new ReadError('the oven is cold', 'oven', 'Heat it.'))),
      { loaves: 1 },
    );
    const failed = await ended(id);
    expect(failed).toMatchObject({ state: 'failed', stopped: false });
    expect(failed.problem!.reason).toMatch(/oven is cold/);
    expect((await afterRestart().state(id))!.problem).toEqual(failed.problem);
  });
  it('is cancelled, and says so', async () => {
    const kind = baking(
      (_, { signal }) =>
        new Promise((_r, reject) => signal.addEventListener('abort', () => reject(signal.reason))),
    );
    const id = await queue.start(kind, { loaves: 1 });
    expect(await queue.cancel(id)).toBe(true);
    expect(await ended(id)).toMatchObject({ state: 'cancelled', problem: null });
    expect((await afterRestart().state(id))!.state).toBe('cancelled');
  });
  it('is told what its kind takes, and nothing else', async () => {
    const never = baking(() => Promise.reject(new Error('not reached')));
    await expect(queue.start(never, { loaves: 0.5 })).rejects.toThrow();
    await expect(queue.start(never, {} as Bake)).rejects.toThrow('missing');
  });
  it('holds what it needs until it has ended, however it ends, and is refused where it cannot', async () => {
    const held: string[] = [];
    const hold = () => {
      held.push('held');
      return async () => void held.push('let go');
    };
    await ended(
      await queue.start(
        baking(async () => 'ok', { hold }),
        { loaves: 1 },
      ),
    );
    await ended(
      await queue.start(
        baking(() => Promise.reject(new Error('no')), { hold }),
        { loaves: 1 },
      ),
    );
    await vi.waitFor(() => expect(held).toEqual(['held', 'let go', 'held', 'let go']));
    const refusing = () => {
      throw new Error('no tins');
    };
    await expect(
      queue.start(
        baking(async () => 'ok', { hold: refusing }),
        { loaves: 1 },
      ),
    ).rejects.toThrow('no tins');
  });
  it('of several is done side by side', async () => {
    const at: number[] = [];
    const kind = baking(async ({ loaves }) => {
      at.push(loaves);
      await vi.waitFor(() => expect(at.length).toBe(12), { timeout: 5000 });
      return loaves;
    });
    const ids = await Promise.all(Array.from({ length: 12 }, (_, i) => queue.start(kind, { loaves: i + 1 })));
    const states = await Promise.all(ids.map((id) => ended(id)));
    expect(states.map((s) => s.result)).toEqual(ids.map((_, i) => i + 1));
  });
  it('that nobody knows is nothing', async () => {
    for (const id of ['nobody', '00000000-0000-4000-8000-000000000000']) {
      expect(await queue.state(id)).toBeNull();
      expect(await queue.cancel(id)).toBe(false);
      expect(await queue.retry(id)).toBe(false);
    }
  });
  it('that goes on tells how long the rest takes by what it does itself', async () => {
    let finish = (_: unknown): void => undefined;
    const kind = baking(async (_, at) => {
      await new Promise((r) => setTimeout(r, 200));
      // Nine tenths were there before; half of the rest took so long.
      at.progress(0.95, 0.9);
      return new Promise((r) => (finish = r));
    });
    const id = await queue.start(kind, { loaves: 1 });
    const remaining = await vi.waitFor(async () => {
      const state = await queue.state(id);
      expect(state?.done).toBe(0.95);
      return state!.remaining!;
    });
    expect(remaining).toBeGreaterThan(0.19);
    finish(null);
    await ended(id);
  });
  it('of a kind is listed with what it was told, the latest first, and is forgotten', async () => {
    const kind = baking(async ({ loaves }) => loaves, { kind: 'listed' });
    const [first, second] = [await queue.start(kind, { loaves: 1 }), await queue.start(kind, { loaves: 2 })];
    await Promise.all([ended(first), ended(second)]);
    await ended(
      await queue.start(
        baking(async () => 'other'),
        { loaves: 3 },
      ),
    );
    const other = afterRestart(kind);
    for (const known of [queue, other])
      expect(await known.list(kind)).toMatchObject([
        { payload: { loaves: 2 }, state: { id: second, state: 'done', result: 2 } },
        { payload: { loaves: 1 }, state: { id: first, state: 'done' } },
      ]);
    expect((await queue.list(kind, { loaves: 1 })).map(({ state }) => state.id)).toEqual([first]);
    // Not one of another kind, and each only once.
    expect(
      await queue.forget(
        baking(async () => 0),
        first,
      ),
    ).toBe(false);
    expect(await queue.forget(kind, first)).toBe(true);
    expect(await queue.forget(kind, first)).toBe(false);
    expect(await queue.state(first)).toBeNull();
    expect((await other.list(kind)).map(({ state }) => state.id)).toEqual([second]);
  });
  it('that is under way is ended before it is forgotten', async () => {
    let stopped = false;
    const kind = baking(
      (_, { signal }) =>
        new Promise((_r, reject) =>
          signal.addEventListener('abort', () => {
            stopped = true;
            reject(signal.reason);
          }),
        ),
      { kind: 'endless' },
    );
    const id = await queue.start(kind, { loaves: 1 });
    await new Promise((r) => setTimeout(r, 100));
    expect(await queue.forget(kind, id)).toBe(true);
    expect(stopped).toBe(true);
    expect(await queue.list(kind)).toEqual([]);
  });
  it('keeps text the database cannot hold as signs that it can', async () => {
    const id = await queue.start(
      baking(async () => ({ note: 'a\u0000b' })),
      { loaves: 1 },
    );
    expect((await ended(id)).state).toBe('done');
    expect(await afterRestart().state(id)).toMatchObject({ state: 'done' });
  });
});

describe('after the server was stopped in the middle', () => {
  const stuck = baking(() => new Promise(() => undefined), { kind: 'stuck' });
  const sound = baking(async ({ loaves }) => `${loaves} loaves`, { kind: 'stuck' });
  it('work that changes things is told as stopped, and can be begun anew with what it was told', async () => {
    const id = await new Queue().start(stuck, { loaves: 7 });
    await new Promise((r) => setTimeout(r, 100));
    const other = afterRestart(sound);
    expect(await other.state(id)).toMatchObject({ state: 'failed', stopped: true });
    expect((await other.state(id))!.problem).toMatchObject({
      reason: expect.stringMatching(/server was stopped/),
    });
    expect(await other.stoppedPayloads('stuck')).toContainEqual({ loaves: 7 });
    expect(await other.stoppedPayloads('bake')).toEqual([]);
    expect(await other.retry(id)).toBe(true);
    expect(await ended(id, other)).toMatchObject({ state: 'done', result: '7 loaves' });
    expect(await other.retry(id)).toBe(false);
  });
  it('work that may be repeated is begun anew by itself', async () => {
    const id = await new Queue().start({ ...stuck, retries: 2 }, { loaves: 2 });
    await new Promise((r) => setTimeout(r, 100));
    const other = afterRestart({ ...sound, retries: 2 });
    await other.state(id);
    expect(await ended(id, other)).toMatchObject({ state: 'done', result: '2 loaves' });
  });
  it('work of a kind that is gone says so', async () => {
    const id = await new Queue().start({ ...stuck, retries: 1 }, { loaves: 1 });
    await new Promise((r) => setTimeout(r, 100));
    const other = new Queue();
    expect((await ended(id, other)).problem!.reason).toMatch(/no work of the kind "stuck"/);
  });
});

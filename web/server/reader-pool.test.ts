import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, describe, expect, it } from 'vitest';
import { ReaderEnded, ReaderPool } from './reader-pool.ts';

const folder = mkdtempSync(join(tmpdir(), 'dresser-pool-'));
const script = join(folder, 'reader.mjs');
// A reader that does what it is told, good or bad.
writeFileSync(
  script,
  `const send = (m) => process.send(m);
   process.on('message', ({ id, payload: { act, value, ms, file } }) => {
     if (file) send({ id, kind: 'sign', sign: { file, bytes: 0 } });
     if (act === 'hang') for (;;);
     if (act === 'die') process.exit(3);
     if (act === 'abort') process.abort();
     if (act === 'fail') return send({ id, kind: 'failed', message: 'bad', details: { reason: 'r', where: 'w', remedy: 'm' } });
     const begin = Date.now();
     const beat = () => {
       if (Date.now() - begin >= (ms ?? 0)) return send({ id, kind: 'done', value });
       send({ id, kind: 'progress', done: 0.5 });
       setTimeout(beat, 50);
     };
     beat();
   });`,
);
const pools: ReaderPool[] = [];
const poolOf = (processes = 1, patience = 600): ReaderPool => {
  const pool = new ReaderPool(script, { processes, memory: 200, patience });
  pools.push(pool);
  return pool;
};
afterEach(() => {
  for (const pool of pools.splice(0)) pool.close();
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const by = (owner: string) => ({ owner });

describe('reading processes', () => {
  it('give what was asked for, and the failures of readers as they are', async () => {
    const pool = poolOf();
    expect(await pool.run({ act: 'give', value: [1, Number.NaN, new Map([[1, 2]])] }, by('a'))).toEqual([
      1,
      Number.NaN,
      new Map([[1, 2]]),
    ]);
    await expect(pool.run({ act: 'fail' }, by('a'))).rejects.toMatchObject({ reason: 'r', remedy: 'm' });
  });
  it('are ended when they stand still, with the file they were in, and others take their place', async () => {
    const pool = poolOf();
    const hanging = pool.run({ act: 'hang', file: 'names.msh' }, by('a'));
    const next = pool.run({ act: 'give', value: 'after' }, by('b'));
    const error = await hanging.catch((e) => e);
    expect(error).toBeInstanceOf(ReaderEnded);
    expect(error).toMatchObject({ file: 'names.msh', reason: expect.stringMatching(/no progress for 1 s/) });
    expect(await next).toBe('after');
  });
  it('go on as long as they tell of progress', async () => {
    expect(await poolOf(1, 300).run({ act: 'give', value: 'slow', ms: 900 }, by('a'))).toBe('slow');
  });
  it('may die in any way without taking the pool along', async () => {
    const pool = poolOf(2);
    for (const act of ['die', 'abort', 'die'])
      await expect(pool.run({ act, file: 'x' }, by('a'))).rejects.toBeInstanceOf(ReaderEnded);
    expect(await pool.run({ act: 'give', value: 1 }, by('a'))).toBe(1);
  });
  it('are ended with their job when it is cancelled; a waiting job just goes', async () => {
    const pool = poolOf(1, 60_000);
    const [first, second] = [new AbortController(), new AbortController()];
    const running = pool.run({ act: 'hang' }, { owner: 'a', signal: first.signal });
    const waiting = pool.run({ act: 'give' }, { owner: 'b', signal: second.signal });
    second.abort(new Error('no longer'));
    await expect(waiting).rejects.toThrow('no longer');
    first.abort(new Error('enough'));
    await expect(running).rejects.toThrow('enough');
    expect(await pool.run({ act: 'give', value: 2 }, by('c'))).toBe(2);
  });
  it('take turns among owners, and tell each its place', async () => {
    const pool = poolOf();
    const order: string[] = [];
    const places: number[] = [];
    const job = (owner: string, name: string, place?: (n: number) => void) =>
      pool.run({ act: 'give', ms: 30 }, { owner, place }).then(() => order.push(name));
    const all = [
      job('long', 'l1'),
      job('long', 'l2'),
      job('long', 'l3'),
      job('short', 's1', (n) => places.push(n)),
    ];
    await Promise.all(all);
    expect(order.indexOf('s1')).toBeLessThanOrEqual(1);
    expect(places[0]).toBe(1);
    expect(places.at(-1)).toBe(0);
  });
});

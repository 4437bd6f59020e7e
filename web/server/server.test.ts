import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { ArrayStore, refOf } from './array-store.ts';
import { allowedPath, isWithin, NotAllowed } from './paths.ts';

const folder = mkdtempSync(join(tmpdir(), 'dresser-server-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('paths', () => {
  it('lie within a folder or not, by their parts and not by their letters', () => {
    expect(isWithin('/a/b', '/a/b')).toBe(true);
    expect(isWithin('/a/b', '/a/b/c/d')).toBe(true);
    expect(isWithin('/a/b', '/a/bc')).toBe(false);
    expect(isWithin('/a/b', '/a/b/../c')).toBe(false);
    expect(isWithin('/a/b', '/a/b/..c')).toBe(true);
  });
  it('are allowed only where their real place is', async () => {
    const inside = join(folder, 'inside');
    mkdirSync(inside);
    writeFileSync(join(folder, 'outside.vtu'), '');
    writeFileSync(join(inside, 'good.vtu'), '');
    symlinkSync(join(folder, 'outside.vtu'), join(inside, 'out.vtu'));
    symlinkSync(join(inside, 'good.vtu'), join(inside, 'in.vtu'));
    process.env.DRESSER_FOLDERS = inside;
    expect(await allowedPath(join(inside, 'in.vtu'))).toBe(await allowedPath(join(inside, 'good.vtu')));
    for (const path of [
      join(inside, 'out.vtu'),
      join(inside, '..', 'outside.vtu'),
      join(inside, 'none.vtu'),
      '/etc',
    ]) {
      await expect(allowedPath(path)).rejects.toBeInstanceOf(NotAllowed);
    }
    delete process.env.DRESSER_FOLDERS;
  });
});

describe('the array store', () => {
  const store = new ArrayStore(join(folder, 'arrays'));
  it('names an array by its content and its kind of number, and keeps it once', async () => {
    const a = await store.put(Float32Array.of(1, 2, 3));
    expect(await store.put(Float32Array.of(1, 2, 3))).toEqual(a);
    expect(a).toEqual({ hash: expect.stringMatching(/^[0-9a-f]{64}$/), type: 'f32', length: 3 });
    expect(refOf(new Uint8Array(Float32Array.of(1, 2, 3).buffer)).hash).not.toBe(a.hash);
    const bytes = readFileSync(store.pathOf(a.hash));
    expect([0, 4, 8].map((at) => bytes.readFloatLE(at))).toEqual([1, 2, 3]);
  });
  it('keeps only the part of a larger buffer that the array is', async () => {
    const view = new Float64Array(10).fill(7).subarray(2, 4);
    const ref = await store.put(view);
    expect(readFileSync(store.pathOf(ref.hash))).toHaveLength(16);
  });
  it('sweeps what no run refers to, and what was left half written', async () => {
    const keep = await store.put(Int32Array.of(5));
    const drop = await store.put(Int32Array.of(6));
    writeFileSync(`${store.pathOf(keep.hash)}.half`, 'x');
    await store.sweep(new Set([keep.hash]));
    expect(existsSync(store.pathOf(keep.hash))).toBe(true);
    expect(existsSync(store.pathOf(drop.hash))).toBe(false);
    expect(
      readdirSync(join(folder, 'arrays'), { recursive: true }).filter((n) => String(n).endsWith('half')),
    ).toEqual([]);
  });
});

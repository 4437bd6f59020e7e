import { chmodSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { isStoreError } from '#core/model/store-error.ts';
import { inFolder, writeWhole } from './write-whole.ts';

describe('a file that is given out', () => {
  const folder = mkdtempSync(join(tmpdir(), 'dresser-out-'));
  afterAll(() => {
    chmodSync(folder, 0o700);
    rmSync(folder, { recursive: true });
  });

  it('takes the place of the one before, with nothing left beside it', async () => {
    for (const text of ['first', 'second']) await writeWhole(join(folder, 'a.csv'), Buffer.from(text));
    expect(readFileSync(join(folder, 'a.csv'), 'utf8')).toBe('second');
    expect(readdirSync(folder)).toEqual(['a.csv']);
  });
  it('that cannot be written blames its folder, and leaves what was there', async () => {
    mkdirSync(join(folder, 'taken'));
    const refused = await writeWhole(join(folder, 'taken'), Buffer.from('x')).catch((e) => e);
    expect(isStoreError(refused)).toBe(true);
    expect(refused).toMatchObject({ reason: 'a folder of that name is there', where: folder });
    writeFileSync(join(folder, 'file'), '');
    const under = await writeWhole(join(folder, 'file', 'b.csv'), Buffer.from('x')).catch((e) => e);
    expect(under).toMatchObject({ reason: 'a file stands where the folder should be' });
    expect(readdirSync(folder).sort()).toEqual(['a.csv', 'file', 'taken']);
  });
  it('whose disk is full, or fails in a way nobody knows, is told so', async () => {
    const fail = (code: string) => () => Promise.reject(Object.assign(new Error('odd'), { code }));
    await expect(inFolder('/out', fail('ENOSPC'))).rejects.toMatchObject({ reason: 'the disk is full' });
    await expect(inFolder('/out', fail('EWHAT'))).rejects.toMatchObject({
      reason: 'it cannot be written: odd',
    });
  });
});

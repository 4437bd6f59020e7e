import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { zipSync } from 'fflate';
import { afterAll, describe, expect, it } from 'vitest';
import { ReadError } from '#core/model/read-error.ts';
import { z } from '#core/model/schema.ts';
import { isStoreError } from '#core/model/store-error.ts';
import { allowedFile } from './allowed-files.ts';
import { jsonDepth, readBody } from './answer.ts';
import { FolderInUse, lockFolder } from './data-lock.ts';
import { refusalOf, safetyHeaders } from './gate.ts';
import { intakeProblem } from './intake-problem.ts';
import { storeTrouble } from './store-trouble.ts';
import { thumbnailSchema } from './thumbnail.ts';
import { unpack } from './unpack.ts';
import { withFolders } from './walk-folders.ts';

const folder = mkdtempSync(join(tmpdir(), 'dresser-safety-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const place = (name: string): string => {
  const path = join(folder, name);
  mkdirSync(path, { recursive: true });
  return path;
};

describe('the lock on a data folder', () => {
  it('names who has it, is given back, and is taken over from the dead', async () => {
    const data = place('data');
    const child = spawn(process.execPath, ['-e', 'setTimeout(() => {}, 60000)']);
    const release = lockFolder(data, 'http://127.0.0.1:1');
    expect(() => lockFolder(data, 'x')).toThrow(FolderInUse);
    expect(() => lockFolder(data, 'x')).toThrow(new RegExp(`process ${process.pid} at http://127.0.0.1:1`));
    release();
    writeFileSync(join(data, 'server.lock'), JSON.stringify({ pid: child.pid, started: null, address: 'y' }));
    expect(() => lockFolder(data, 'x')).toThrow(new RegExp(`process ${child.pid}`));
    // The same number with another start is another process.
    writeFileSync(join(data, 'server.lock'), JSON.stringify({ pid: child.pid, started: '1', address: 'y' }));
    lockFolder(data, 'x')();
    const gone = new Promise((r) => child.once('exit', r));
    child.kill('SIGKILL');
    await gone;
    writeFileSync(join(data, 'server.lock'), JSON.stringify({ pid: child.pid, started: null, address: 'y' }));
    lockFolder(data, 'x')();
    writeFileSync(join(data, 'server.lock'), 'half writ');
    lockFolder(data, 'x')();
  });
});

describe('the gate', () => {
  const ask = (more: Partial<Parameters<typeof refusalOf>[0]>) =>
    refusalOf({ method: 'GET', address: '/', host: '127.0.0.1:4870', origin: null, site: null, ...more })
      ?.status ?? 200;
  it('lets in only what comes from its own pages', () => {
    expect(ask({})).toBe(200);
    expect(ask({ host: 'evil.example' })).toBe(421);
    expect(ask({ host: null })).toBe(421);
    expect(ask({ origin: 'http://127.0.0.1:9' })).toBe(403);
    expect(ask({ method: 'POST', site: 'cross-site' })).toBe(403);
    expect(ask({ address: '/run/%00' })).toBe(404);
  });
  it('allows no script in a page but its own two, and no frame around it', () => {
    const policy = safetyHeaders['Content-Security-Policy'];
    const scripts = policy.split('; ').find((d) => d.startsWith('script-src'))!;
    // WebAssembly may be compiled, texts may not become scripts.
    expect(scripts.replace("'wasm-unsafe-eval'", '')).not.toContain('unsafe');
    expect(scripts.match(/'sha256-/g)).toHaveLength(2);
    expect(policy).toContain("frame-ancestors 'none'");
    expect(Object.keys(safetyHeaders)).toEqual(
      expect.arrayContaining(['Referrer-Policy', 'Permissions-Policy']),
    );
  });
});

describe('bodies', () => {
  const schema = z.object({ a: z.unknown() });
  const request = (body: BodyInit) =>
    new Request('http://x/', { method: 'POST', body, duplex: 'half' } as RequestInit);
  it('are refused while they arrive', async () => {
    let sent = 0;
    const endless = new ReadableStream<Uint8Array>({
      pull(controller) {
        sent += 2 ** 20;
        controller.enqueue(new Uint8Array(2 ** 20).fill(32));
      },
    });
    await expect(readBody(request(endless), schema)).rejects.toMatchObject({
      reason: expect.stringMatching(/larger than 16 MB/),
    });
    expect(sent).toBeLessThan(20 * 2 ** 20);
  });
  it('are refused when they are too deep, no JSON, or do not fit', async () => {
    const deep = `{"a":${'['.repeat(5000)}${']'.repeat(5000)}}`;
    await expect(readBody(request(deep), schema)).rejects.toBeInstanceOf(ReadError);
    await expect(readBody(request('{'), schema)).rejects.toMatchObject({ reason: 'the request is not JSON' });
    await expect(readBody(request('[]'), schema)).rejects.toBeInstanceOf(ReadError);
    expect(jsonDepth('{"a[[[":"[[\\"[[", "b":[1]}')).toBe(2);
  });
  it('hold small pictures only', () => {
    expect(thumbnailSchema.safeParse('data:image/png;base64,AAAA').success).toBe(true);
    for (const bad of [
      'data:image/svg+xml,<svg onload=x>',
      'http://x',
      `data:image/png;base64,${'A'.repeat(500_000)}`,
    ])
      expect(thumbnailSchema.safeParse(bad).success).toBe(false);
  });
});

describe('folders and files', () => {
  it('are walked once, whatever links say, and give only regular files', async () => {
    const root = place('walk');
    writeFileSync(join(root, 'a.vtu'), 'x');
    symlinkSync('.', join(root, 'self'));
    symlinkSync('..', join(root, 'up'));
    const pipe = spawn('mkfifo', [join(root, 'pipe')]);
    await new Promise((r) => pipe.once('exit', r));
    const found = await withFolders([{ name: 'walk', path: root }], async (p) => p.startsWith(root));
    expect(found.map((f) => f.name)).toContain('walk/a.vtu');
    expect(found.filter((f) => f.name.endsWith('a.vtu'))).toHaveLength(1);
    expect(found.some((f) => f.name.includes('pipe'))).toBe(false);
    expect(() => allowedFile(join(root, 'pipe'), 'pipe', null)).toThrow(/no file with content/);
  });
  it('are opened only below their roots, links followed', () => {
    const inside = place('inside');
    writeFileSync(join(folder, 'secret'), 's');
    symlinkSync(join(folder, 'secret'), join(inside, 'link'));
    expect(() => allowedFile(join(inside, 'link'), 'link', [inside])).toThrow(/outside the folders/);
    expect(() => allowedFile(join(inside, 'none'), 'none', [inside])).toThrow(/not there/);
    expect(allowedFile(join(inside, 'link'), 'link', [folder])).toBe(join(folder, 'secret'));
  });
});

describe('archives', () => {
  const archive = (name: string, bytes: Uint8Array) => {
    const path = join(folder, name);
    writeFileSync(path, bytes);
    return { name, path };
  };
  it('of many small files are unpacked without going deep', async () => {
    const entries = Object.fromEntries(
      Array.from({ length: 5000 }, (_, i) => [`s/${i}.txt`, new Uint8Array([48 + (i % 10)])]),
    );
    const problems: never[] = [];
    const files = await unpack(
      [archive('many.zip', zipSync(entries, { level: 0 }))],
      place('many'),
      problems,
    );
    expect(files).toHaveLength(5000);
    expect(problems).toEqual([]);
  });
  it('that unfold beyond what is allowed are refused, and leave nothing', async () => {
    process.env.DRESSER_UNPACK_MAX = '1';
    try {
      const problems: { reason: string }[] = [];
      const bomb = zipSync({ 'zeros.bin': new Uint8Array(8 * 2 ** 20) });
      const files = await unpack([archive('bomb.zip', bomb)], place('bomb'), problems as never);
      expect(files).toEqual([]);
      expect(problems[0].reason).toMatch(/more than the 1 MB/);
    } finally {
      delete process.env.DRESSER_UNPACK_MAX;
    }
  });
  it('keep the names of their files within them, and say when they are damaged', async () => {
    const climbing = zipSync({ '../../../up.vtu': new Uint8Array([1]), 'a\u0000b.vtu': new Uint8Array([2]) });
    const files = await unpack([archive('climb.zip', climbing)], place('climb'), []);
    expect(files.every((f) => !f.name.includes('..') && f.path.startsWith(folder))).toBe(true);
    const problems: { reason: string }[] = [];
    await unpack([archive('torn.zip', climbing.slice(0, 40))], place('torn'), problems as never);
    expect(problems[0].reason).toBe('the archive is damaged');
  });
});

describe('trouble of the own store', () => {
  it('is told as such, and never shows what the database says', () => {
    const full = storeTrouble(Object.assign(new Error('write'), { code: 'ENOSPC' }))!;
    expect(full.reason).toMatch(/^the disk is full: free \d+ MB under /);
    expect(isStoreError(full)).toBe(true);
    const wrapped = Object.assign(new Error('Failed query: insert into scenes'), {
      cause: new Error('could not extend file: No space left on device'),
    });
    expect(intakeProblem(wrapped).reason).toMatch(/disk is full/);
    expect(storeTrouble(Object.assign(new Error('x'), { code: 'EACCES' }))?.reason).toMatch(
      /may not be written/,
    );
    expect(storeTrouble(new Error('other'))).toBeNull();
    const unknown = intakeProblem(new Error('Failed query: select * from runs where id = $1'));
    expect(JSON.stringify(unknown)).not.toMatch(/select|runs/);
  });
});

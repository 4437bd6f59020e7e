import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, describe, expect, it } from 'vitest';
import { BATCH_LOG, readBatchLog } from '#core/batch/batch-log.ts';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { RUNS_TABLE } from '#core/sets/made-rows.ts';
import { temperature } from '../sample-run.ts';
import { toldOfFilm } from '../told-film.ts';
import { hexBlock } from '../vtu-builder.ts';

const folder = mkdtempSync(join(tmpdir(), 'dresser-watched-'));
const shot = join(folder, 'walls.txt');
writeFileSync(shot, 'Surface of everything, coloured by temperature\n');
let child: ChildProcess | null = null;
let said = '';

const heated = (low: number, name = 'temperature'): Uint8Array => {
  const mesh = hexBlock(3);
  return writeVtu(mesh, [{ ...temperature(mesh, (x, y) => low + x + y), name }], null);
};

/** Watches a folder of its own. */
function watch(name: string, ...more: string[]): { into: string; out: string } {
  const [into, out] = [join(folder, name), join(folder, `${name}-out`)];
  mkdirSync(into);
  said = '';
  const order = [
    'watch',
    into,
    '--shots',
    shot,
    '--out',
    out,
    '--size',
    '64x48',
    '--passes',
    '1',
    '--rest',
    '1',
  ];
  child = spawn(process.execPath, ['cli/bin.mjs', ...order, ...more], { stdio: ['ignore', 'pipe', 'pipe'] });
  for (const stream of [child.stdout!, child.stderr!]) stream.on('data', (text) => (said += text));
  return { into, out };
}

const ended = (): Promise<number | null> => new Promise((resolve) => child!.once('exit', resolve));
const heard = (text: string | RegExp): Promise<void> =>
  expect.poll(() => said, { timeout: 180_000 }).toMatch(text) as unknown as Promise<void>;
const logOf = (out: string) => readBatchLog(readFileSync(join(out, BATCH_LOG), 'utf8'));

afterEach(async () => {
  if (!child || child.exitCode !== null) return;
  const gone = ended();
  child.kill('SIGTERM');
  await gone;
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('a folder that is watched', () => {
  it('has pictures of each run once it is whole, and again when it has changed', async () => {
    const { into, out } = watch('runs');
    await heard('watching');
    writeFileSync(join(into, 'a.vtu'), heated(20));
    mkdirSync(join(into, 'b'));
    writeFileSync(join(into, 'b', 'oven.vtu'), heated(30));
    await heard(/2 made, 0 current, 0 failed/);
    expect([...logOf(out).keys()].sort()).toEqual(['a/walls.png', 'oven/walls.png']);
    const before = statSync(join(out, 'oven/walls.png')).mtimeMs;
    writeFileSync(join(into, 'a.vtu'), heated(21));
    await heard(/1 made, 1 current, 0 failed/);
    expect(statSync(join(out, 'oven/walls.png')).mtimeMs).toBe(before);
    // The run that came in its place is called as it was.
    expect([...logOf(out).keys()].sort()).toEqual(['a/walls.png', 'oven/walls.png']);
    expect(readFileSync(join(out, RUNS_TABLE), 'utf8')).toBe(
      'run,files,failed,what did not match\noven,1,0,\na,1,0,\n',
    );
  });

  it('has films of what moves in a shot beside its pictures', async () => {
    const fading = join(folder, 'fading.txt');
    writeFileSync(
      fading,
      'Surface of everything, coloured by temperature\nFilm of 1 s, 4 pictures a second\nKey of line 1 / opacity at 0 s is 1\nKey of line 1 / opacity at 1 s is 0.4\n',
    );
    const { into, out } = watch('moving', '--shots', fading, '--film', 'gif', '--until', '1');
    await heard('watching');
    writeFileSync(join(into, 'a.vtu'), heated(20));
    await heard(/3 made, 0 current, 0 failed/);
    expect(logOf(out).get('a/fading.gif')).toMatchObject({ state: 'made', pictures: 4, format: 'gif' });
    const gif = readFileSync(join(out, 'a/fading.gif'));
    expect(gif.subarray(0, 6).toString('latin1')).toBe('GIF89a');
    expect(toldOfFilm(join(out, 'a/fading.gif'))).toMatchObject({
      nb_read_frames: 4,
      width: 64,
      nb_streams: 1,
    });
  });

  it('tells of what is damaged and what does not match, and goes on with the others', async () => {
    const { into } = watch('odd', '--until', '2');
    await heard('watching');
    writeFileSync(join(into, 'broken.vtu'), heated(20).slice(0, 700));
    writeFileSync(join(into, 'good.vtu'), heated(20));
    await heard(/good[\\/]walls.png made/);
    expect(said).toMatch(/broken/);
    const gone = ended();
    writeFileSync(join(into, 'named.vtu'), heated(20, 'temp'));
    await heard('no field "temperature" in named; if temp is meant, say --mean "temperature=temp"');
    expect(await gone).toBe(0);
  });

  it('waits for a mark where one is asked for, and leaves nothing behind when it is stopped', async () => {
    const { into, out } = watch('marked', '--mark', 'done');
    await heard('watching');
    mkdirSync(join(into, 'c'));
    writeFileSync(join(into, 'c', 'oven.vtu'), heated(20));
    await new Promise((r) => setTimeout(r, 4000));
    expect(existsSync(join(out, BATCH_LOG))).toBe(false);
    writeFileSync(join(into, 'c', 'done'), 'yes');
    await heard(/1 made/);
    const gone = ended();
    child!.kill('SIGINT');
    expect(await gone).toBe(130);
  });

  it('that is not there is told', async () => {
    child = spawn(process.execPath, [
      'cli/bin.mjs',
      'watch',
      join(folder, 'nowhere'),
      '--shots',
      shot,
      '--out',
      folder,
    ]);
    said = '';
    child.stderr!.on('data', (text) => (said += text));
    expect(await ended()).toBe(1);
    expect(said).toContain('is no folder that is there');
  });
});

import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { Scene } from '#core/scene/document.ts';
import { applyEdit } from '#core/scene/edits.ts';
import { even } from '#core/scene/reel/ease.ts';
import { ask, askBytes, followJob, RequestProblem } from '#engine/server-requests.ts';
import type { FilmAtWork } from '#web/desks/give-out/film-at-work.ts';
import { filmScene } from '../../cli/film.ts';
import { Served } from '../attack/served.ts';
import { ovenSteps } from '../sample-run.ts';
import { picturesOfFilm } from '../told-film.ts';

const SIZE = { width: 160, height: 120 };
const RATE = 10;
const COUNT = 10;

describe('films made by the server', () => {
  const served = new Served();
  const folder = mkdtempSync(join(tmpdir(), 'dresser-films-'));
  let run = '';
  let film: Scene;
  let job = '';
  const files = new Map<string, string>();

  const start = async (json: object, of = film): Promise<string> =>
    (
      await ask<{ job: string }>(`${served.address}/api/runs/${run}/films`, {
        method: 'POST',
        json: { scene: of, ...SIZE, passes: 2, ...json },
      })
    ).job;
  const follow = (id: string, progress: (done: number) => void = () => undefined) =>
    followJob<{ pictures: number; seconds: number }>(id, (p) => progress(p.done), undefined, served.address);
  const picture = async (id: string, n: number): Promise<PNG> =>
    PNG.sync.read(Buffer.from(await askBytes(`${served.address}/api/jobs/${id}/pictures/${n}`)));

  beforeAll(async () => {
    await served.start();
    const steps = Object.fromEntries(ovenSteps().map((s, n) => [`oven_${n}.vtu`, s.parts.oven]));
    const made = await served.imported(steps);
    run = made.run;
    const { document } = await ask<{ document: Scene }>(`${served.address}/api/scenes/${made.scene}`);
    // Even light and a plain backdrop: what is one colour in the picture is known exactly.
    const still: Scene = {
      ...document,
      light: { ...document.light, rig: 'even' },
      floor: { ...document.floor, kind: 'none' },
      backdrop: { ...document.backdrop, kind: 'own', top: '#3c6e8a', foot: '#3c6e8a' },
      reel: { ...document.reel, seconds: 1, rate: RATE, loop: true },
    };
    const { camera } = still;
    const moved = { ...camera, position: camera.position.map((v) => 1.3 * v) };
    film = applyEdit(still, {
      type: 'reel.begin',
      beginning: {
        lanes: [
          {
            of: ['time'],
            keys: [
              { at: 0, value: 0, ease: even },
              { at: 1, value: 10, ease: even },
            ],
          },
          {
            of: ['camera'],
            keys: [
              { at: 0, value: camera, ease: even },
              { at: 1, value: moved, ease: even },
            ],
          },
        ],
      },
    });
    const formats = ['mp4', 'webm', 'gif', 'apng'];
    job = await start({ films: formats.map((format) => ({ format, quality: 'best' })) });
    expect(await follow(job)).toMatchObject({ pictures: COUNT, seconds: 1 });
    for (const [i, format] of formats.entries()) {
      const file = join(folder, `film.${format}`);
      writeFileSync(file, Buffer.from(await askBytes(`${served.address}/api/jobs/${job}/films/${i}`)));
      files.set(format, file);
    }
  });
  afterAll(async () => {
    await served.remove();
    rmSync(folder, { recursive: true, force: true });
  });

  /** Told by FFmpeg, which shares nothing with the writers. */
  const probe = (format: string) => {
    const shown =
      'stream=codec_name,width,height,nb_read_frames,r_frame_rate,pix_fmt,color_space,color_primaries,color_transfer,color_range:frame=best_effort_timestamp_time';
    const out = execFileSync('ffprobe', [
      '-v',
      'error',
      '-count_frames',
      '-select_streams',
      'v:0',
      '-show_entries',
      shown,
      '-of',
      'json',
      files.get(format)!,
    ]);
    const { streams, frames } = JSON.parse(out.toString());
    return {
      ...streams[0],
      times: frames.map((f: { best_effort_timestamp_time: string }) => Number(f.best_effort_timestamp_time)),
    };
  };

  /** All pictures as FFmpeg decodes them, three bytes a pixel. */
  const decoded = (format: string): Buffer[] => {
    const matrix =
      format === 'mp4' || format === 'webm'
        ? ['-vf', 'scale=in_color_matrix=bt709:in_range=tv:out_range=pc:flags=accurate_rnd+full_chroma_int']
        : [];
    return picturesOfFilm(files.get(format)!, SIZE, matrix);
  };

  it.each([
    ['mp4', 'h264'],
    ['webm', 'vp9'],
  ])(
    'have just their pictures, at one rate, of their size, and say that their colours are BT.709: %s',
    (format, codec) => {
      const { times, ...stream } = probe(format);
      expect(stream).toMatchObject({
        codec_name: codec,
        ...SIZE,
        nb_read_frames: String(COUNT),
        r_frame_rate: `${RATE}/1`,
        pix_fmt: 'yuv420p',
        color_space: 'bt709',
        color_primaries: 'bt709',
        color_transfer: 'bt709',
        color_range: 'tv',
      });
      for (const [n, time] of times.entries()) expect(time).toBeCloseTo(n / RATE, 3);
    },
  );

  it('keep known colours within 2 of 255 after H.264 at its best', async () => {
    const shown = decoded('mp4');
    expect(shown).toHaveLength(COUNT);
    for (const n of [0, 4, 9]) {
      const png = await picture(job, n);
      // The backdrop in all four corners, away from words: #3c6e8a.
      for (const [x, y] of [
        [3, 3],
        [150, 4],
        [155, 60],
      ]) {
        const at = y * SIZE.width + x;
        const own = [...png.data.subarray(4 * at, 4 * at + 3)];
        expect(own).toEqual([0x3c, 0x6e, 0x8a]);
        for (const k of [0, 1, 2]) expect(Math.abs(shown[n][3 * at + k] - own[k])).toBeLessThanOrEqual(2);
      }
    }
  });

  it('without loss are the pictures themselves, and picture n of a film is the still of its time', async () => {
    const apng = decoded('apng');
    expect(apng).toHaveLength(COUNT);
    const times = Array.from({ length: COUNT }, (_, i) => i / COUNT);
    const stills = (
      await ask<{ job: string }>(`${served.address}/api/runs/${run}/pictures`, {
        method: 'POST',
        json: {
          scene: film,
          pictures: [0, 3, 9].map((n) => ({ film: times[n] })),
          ...SIZE,
          transparent: false,
          passes: 2,
        },
      })
    ).job;
    await follow(stills);
    for (const [i, n] of [0, 3, 9].entries()) {
      const own = await picture(job, n);
      expect((await picture(stills, i)).data.equals(own.data), `picture ${n}`).toBe(true);
      const rgb = Buffer.from(own.data.filter((_, k) => k % 4 < 3));
      expect(apng[n].equals(rgb), `picture ${n} of the APNG`).toBe(true);
    }
    const [first, last] = [await picture(job, 0), await picture(job, 9)];
    expect(first.data.equals(last.data)).toBe(false);
  });

  it('as GIF keep their time and their colours near', async () => {
    const { times } = probe('gif');
    expect(times).toHaveLength(COUNT);
    for (const [n, time] of times.entries()) expect(time).toBeCloseTo(n / RATE, 6);
    const shown = decoded('gif')[0];
    const png = await picture(job, 0);
    let off = 0;
    for (let i = 0; i < SIZE.width * SIZE.height; i++)
      off += Math.abs(shown[3 * i] - png.data[4 * i]) / (SIZE.width * SIZE.height);
    expect(off).toBeLessThan(3);
  });

  it('killed in their middle go on behind the last whole picture: none is lost, none is drawn twice', async () => {
    const long: Scene = { ...film, reel: { ...film.reel, rate: 24 } };
    const id = await start({ films: [{ format: 'mp4', quality: 'small' }, { pictures: 'tiff' }] }, long);
    const at = join(served.data, 'pictures', id);
    const whole = (): string[] => {
      try {
        return readdirSync(at).filter((n) => n.endsWith('.png'));
      } catch {
        return [];
      }
    };
    while (whole().length < 4) await new Promise((r) => setTimeout(r, 20));
    await served.kill();
    const before = new Map(whole().map((n) => [n, statSync(join(at, n)).mtimeMs]));
    expect(before.size).toBeLessThan(24);
    await served.start();
    expect(await follow(id)).toMatchObject({ pictures: 24 });
    expect(whole()).toHaveLength(24);
    for (const [name, time] of before) expect(statSync(join(at, name)).mtimeMs, name).toBe(time);
    const file = join(folder, 'killed.mp4');
    writeFileSync(file, Buffer.from(await askBytes(`${served.address}/api/jobs/${id}/films/0`)));
    files.set('killed', file);
    expect(probe('killed').times).toHaveLength(24);
    // The numbered pictures in another format are the same ones, and none of them is lacking.
    const numbered = unzipSync(new Uint8Array(await askBytes(`${served.address}/api/jobs/${id}/films/1`)));
    expect(Object.keys(numbered)).toEqual(
      Array.from({ length: 24 }, (_, i) => `picture-${String(i + 1).padStart(4, '0')}.tif`),
    );
    for (const n of [0, 3, 4, 23]) {
      const tiff = join(folder, `${n}.tif`);
      writeFileSync(tiff, numbered[`picture-${String(n + 1).padStart(4, '0')}.tif`]);
      const deep = execFileSync('ffmpeg', [
        ...['-v', 'error', '-i', tiff, '-f', 'rawvideo', '-pix_fmt', 'rgba64le', '-'],
      ]);
      const own = await picture(id, n);
      // 16 bits a channel round to the 8 of the other; edges of words, which are laid over it in 8, to within two.
      const apart = [...own.data].map((v, k) => Math.abs(deep.readUInt16LE(2 * k) / 257 - v));
      expect(Math.max(...apart.slice(0, 4 * SIZE.width * 20)), `top of picture ${n}`).toBeLessThan(0.51);
      expect(apart.filter((v) => v > 0.51).length / apart.length, `picture ${n}`).toBeLessThan(0.01);
      expect(apart.every((v) => v < 2)).toBe(true);
    }
  });

  it('go on in another browser where the one that draws is killed: none is lost, none is drawn twice', async () => {
    const long: Scene = { ...film, reel: { ...film.reel, rate: 20 } };
    const id = await start({ films: [{ format: 'mp4', quality: 'small' }] }, long);
    const at = join(served.data, 'pictures', id);
    const whole = (): string[] => (existsSync(at) ? readdirSync(at).filter((n) => n.endsWith('.png')) : []);
    for (const count of [3, 8]) {
      while (whole().length < count) await new Promise((r) => setTimeout(r, 20));
      const browsers = execFileSync('pgrep', ['-P', String(served.process!.pid), '-f', 'chromium']);
      const before = new Map(whole().map((n) => [n, statSync(join(at, n)).mtimeMs]));
      expect(before.size).toBeLessThan(20);
      for (const pid of browsers.toString().trim().split('\n')) process.kill(Number(pid), 'SIGKILL');
      while (whole().length === before.size) await new Promise((r) => setTimeout(r, 20));
      for (const [name, time] of before) expect(statSync(join(at, name)).mtimeMs, name).toBe(time);
    }
    expect(await follow(id)).toMatchObject({ pictures: 20 });
    const file = join(folder, 'browser-killed.mp4');
    writeFileSync(file, Buffer.from(await askBytes(`${served.address}/api/jobs/${id}/films/0`)));
    files.set('browser-killed', file);
    expect(probe('browser-killed').times).toHaveLength(20);
  });

  it('are listed with their run, paused, gone on with, and removed with all their files', async () => {
    const markers = [{ id: 'm', at: 0, name: 'Heat', caption: 'The fan is on', until: null }];
    const long: Scene = { ...film, name: 'Warm-up', markers, reel: { ...film.reel, rate: 16 } };
    const id = await start({ films: [{ format: 'gif', quality: 'good' }, { pictures: 'png' }] }, long);
    const listed = async (): Promise<FilmAtWork | undefined> =>
      (await ask<{ films: FilmAtWork[] }>(`${served.address}/api/runs/${run}/films`)).films.find(
        (one) => one.job === id,
      );
    const at = join(served.data, 'pictures', id);
    const whole = (): string[] => (existsSync(at) ? readdirSync(at).filter((n) => n.endsWith('.png')) : []);
    await vi.waitFor(() => expect(whole().length).toBeGreaterThan(1), { timeout: 60_000 });
    expect(await listed()).toMatchObject({
      name: 'Warm-up',
      ...SIZE,
      outlets: [{ film: 'gif' }, { pictures: 'png' }],
      tracks: [],
      state: 'running',
      pictures: null,
    });
    const address = `${served.address}/api/jobs/${id}`;
    await ask(address, { method: 'DELETE' });
    await vi.waitFor(async () => expect((await listed())?.state).toBe('cancelled'), { timeout: 20_000 });
    const kept = new Map(whole().map((n) => [n, statSync(join(at, n)).mtimeMs]));
    expect(kept.size).toBeLessThan(16);
    await ask(address, { method: 'POST' });
    expect(await follow(id)).toMatchObject({ pictures: 16 });
    for (const [name, time] of kept) expect(statSync(join(at, name)).mtimeMs, name).toBe(time);
    expect(await listed()).toMatchObject({
      state: 'done',
      pictures: 16,
      problem: null,
      tracks: [
        { track: 'captions', text: expect.stringContaining('The fan is on') },
        { track: 'chapters', text: expect.stringContaining('Heat') },
      ],
    });
    const numbered = unzipSync(new Uint8Array(await askBytes(`${address}/films/1`)));
    expect(Object.keys(numbered)).toHaveLength(16);
    expect(PNG.sync.read(Buffer.from(numbered['picture-0016.png'])).data).toEqual(
      (await picture(id, 15)).data,
    );
    await ask(`${address}/films`, { method: 'DELETE' });
    expect(await listed()).toBeUndefined();
    expect(existsSync(at)).toBe(false);
    await expect(ask(`${address}/films`, { method: 'DELETE' })).rejects.toThrow(/no longer known/);
  });

  it('have their numbered pictures in several formats of one drawing', async () => {
    const id = await start({ films: [{ pictures: 'tiff' }, { pictures: 'exr' }] });
    const { pictures } = await follow(id);
    for (const [i, ending] of ['tif', 'exr'].entries()) {
      const names = Object.keys(
        unzipSync(new Uint8Array(await askBytes(`${served.address}/api/jobs/${id}/films/${i}`))),
      );
      expect(names).toHaveLength(pictures);
      expect(names.every((name) => name.startsWith('picture-') && name.includes(`.${ending}`))).toBe(true);
    }
  });

  it('that cannot be written are refused in words before anything is drawn', async () => {
    const films = (format: string) => ({ films: [{ format, quality: 'good' }] });
    const unknown = await start(films('tape'));
    await expect(follow(unknown)).rejects.toThrow(/not written as "tape" here, but as mp4/);
    const odd = await start({ ...films('mp4'), width: 161 });
    await expect(follow(odd)).rejects.toThrow(
      /Films of 161 × 120 are not written as "mp4"|films of 161 × 120/,
    );
    await expect(follow(odd)).rejects.toMatchObject({
      problem: { remedy: expect.stringContaining('162 × 120') },
    });
    const bodies = await start({ films: [{ pictures: 'glb' }] });
    await expect(follow(bodies)).rejects.toThrow(/holds bodies, and no picture/);
    await expect(start({ films: [] })).rejects.toBeInstanceOf(RequestProblem);
    expect(readdirSync(join(served.data, 'pictures'))).not.toContain(unknown);
  });
});

describe('films made by the command line', () => {
  const folder = mkdtempSync(join(tmpdir(), 'dresser-film-'));
  const run = ovenSteps().map(({ parts }, n) => {
    const path = join(folder, `oven_${n}.vtu`);
    writeFileSync(path, parts.oven);
    return path;
  });
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const order = { run, size: SIZE, quality: 'small' as const, passes: 1 };
  const told = async (
    make: () => Promise<number>,
  ): Promise<{ code: number; out: string; errors: string }> => {
    const [out, errors] = (['log', 'error'] as const).map((how) =>
      vi.spyOn(console, how).mockImplementation(() => undefined),
    );
    try {
      const code = await make();
      const said = (spy: typeof out): string => spy.mock.calls.flat().join('\n');
      return { code, out: said(out), errors: said(errors) };
    } finally {
      for (const spy of [out, errors]) spy.mockRestore();
    }
  };

  it('have the motions that were typed, several files of one drawing', async () => {
    const script = join(folder, 'film.txt');
    writeFileSync(
      script,
      'Scene "Oven"\nSurface of oven\nFilm of 0.5 s, 10 pictures a second, poster at 0.38 s\n',
    );
    const out = ['oven.mp4', 'oven.gif', 'oven.zip', 'oven.poster.png'].map((file) =>
      join(folder, 'a', file),
    );
    const move = ['play the results once', 'from 0 s to 0.5 s turntable'];
    const { code, out: said } = await told(() =>
      filmScene(script, { ...order, out, move, pictures: 'jpeg' }),
    );
    expect(code).toBe(0);
    const [mp4, gif, zip, poster] = out;
    const numbered = unzipSync(readFileSync(zip));
    expect(Object.keys(numbered)).toEqual([1, 2, 3, 4, 5].map((n) => `picture-000${n}.jpg`));
    // Start of image (ITU-T T.81, table B.1).
    for (const bytes of Object.values(numbered)) expect([...bytes.subarray(0, 2)]).toEqual([0xff, 0xd8]);
    const films = [mp4, gif, zip].map((file) => `${file} 5 pictures, 0.5 s, 160x120`);
    expect(said.split('\n')).toEqual([...films, poster]);
    // Pictures are at 0, 0.125, 0.25, 0.375 and 0.5 s: the fourth, as GIF keeps it nearly.
    const decoded = execFileSync('ffmpeg', [
      ...['-v', 'error', '-i', gif, '-vf', 'select=eq(n\\,3)', '-vframes', '1', '-f', 'rawvideo'],
      ...['-pix_fmt', 'rgba', '-'],
    ]);
    const { data } = PNG.sync.read(readFileSync(poster));
    expect(data.length).toBe(decoded.length);
    const apart = data.reduce((sum, v, i) => sum + Math.abs(v - decoded[i]), 0) / data.length;
    expect(apart).toBeLessThan(4);
    const alone = await told(() => filmScene(script, { ...order, out: [poster] }));
    expect([alone.code, alone.errors]).toEqual([1, expect.stringContaining('no film is asked for')]);
    for (const file of out) expect(statSync(file).size).toBeGreaterThan(500);
  });
  it('have captions and chapters beside them, or it is told that there are none', async () => {
    const script = join(folder, 'marked.txt');
    writeFileSync(
      script,
      'Scene "Oven"\nSurface of oven\nFilm of 4 s, 10 pictures a second\nMarker at 1 s "Baking", saying "The fan is on", until 3 s\n',
    );
    const out = ['oven.vtt', 'oven.chapters.vtt'].map((file) => join(folder, file));
    const { code, out: said } = await told(() => filmScene(script, { ...order, out, to: 2 }));
    expect({ code, said: said.split('\n') }).toEqual({ code: 0, said: out });
    const span = '00:00:01.000 --> 00:00:02.000';
    expect(out.map((file) => readFileSync(file, 'utf8'))).toEqual([
      `WEBVTT\n\n1\n${span}\nThe fan is on\n`,
      `WEBVTT\n\n1\n${span}\nBaking\n`,
    ]);
    const none = await told(() => filmScene('default', { ...order, out }));
    expect(none.code).toBe(1);
    expect(none.errors).toContain('the film has no captions');
  });
  it('play the results once where nothing moves, and tell what is not understood', async () => {
    const out = [join(folder, 'plain.webm')];
    const plain = { ...order, out, to: 0.2, rate: 10 };
    const made = await told(() => filmScene('default', plain));
    expect(made.code).toBe(0);
    expect(made.out).toBe(`${out[0]} 2 pictures, 0.2 s, 160x120`);
    const wrong = await told(() => filmScene('default', { ...plain, move: ['turntable sideways'] }));
    expect(wrong.code).toBe(1);
    expect(wrong.errors).toMatch(/"sideways" is not understood here/);
    expect(wrong.errors).toContain('where: --move "turntable sideways"');
  });
});

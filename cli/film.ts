import { mkdir } from 'node:fs/promises';
import { dirname, extname } from 'node:path';
import { Readable } from 'node:stream';
import type { ReadableStream as WebStream } from 'node:stream/web';
import { whyNotRead } from '#core/language/sentence-reader.ts';
import { playResults } from '#core/motion/beginnings/play-results.ts';
import { begun, readMotion } from '#core/motion/beginnings/read-motion.ts';
import { settingOfReel } from '#core/motion/beginnings/registry.ts';
import type { FilmQuality } from '#core/motion/film-quality.ts';
import { filmPictures } from '#core/motion/reel-facts.ts';
import { hasFilm } from '#core/motion/scene-at.ts';
import { type TextTrack, trackOfFilm } from '#core/motion/web-vtt.ts';
import type { Scene } from '#core/scene/document.ts';
import { applyEdit } from '#core/scene/edits.ts';
import { shippedLooks } from '#core/scene/looks/registry.ts';
import { spanOfReel } from '#core/scene/things/reel.ts';
import { ask, askFile, followJob } from '#engine/server-requests.ts';
import type { OrderedOutlet } from '#web/desks/give-out/film-at-work.ts';
import { type OpenedScene, type OpenOptions, withOpenedScene } from './opened-scene.ts';
import { filmFindings, noteFindings } from './tell-findings.ts';
import { tellProgress } from './tell-progress.ts';
import { inFolder, writeWhole } from './write-whole.ts';

export interface FilmOptions extends OpenOptions {
  /** Files of the film, each in the format of its ending; `.vtt`, `.chapters.vtt` and `.poster.png` go beside it. */
  out: string[];
  size: { width: number; height: number };
  /** Pictures a second, in place of what the scene says. */
  rate?: number;
  /** In seconds of the film, in place of what the scene says. */
  from?: number;
  to?: number;
  quality: FilmQuality;
  passes: number;
  /** Of the file, by its id, where the ending does not tell. */
  as?: string;
  /** Of the numbered pictures in a zip, by its id; PNG where it is not said. */
  pictures?: string;
  /** Motions in plain words, added to those of the scene. */
  move?: string[];
}

/** Formats by the endings of their files. */
const formatOf: Record<string, string> = { '.mp4': 'mp4', '.webm': 'webm', '.gif': 'gif', '.png': 'apng' };

/** Of the file that holds the pictures one by one. */
const ZIP = '.zip';

/** Makes the film of a scene of a run; returns the exit code. */
export const filmScene = (scenePath: string, options: FilmOptions): Promise<number> =>
  withOpenedScene(
    scenePath,
    options,
    async () => {
      if (options.from !== undefined && options.to !== undefined) checkEnds(options.from, options.to);
      if (options.out.some(isPoster) && options.out.every((file) => isPoster(file) || trackNamed(file)))
        throw {
          reason: 'a poster is one of the pictures of a film, and no film is asked for',
          where: '--out',
          remedy: 'Name a film as well, or make a still with "dresser render".',
        };
      for (const file of options.out) if (!trackNamed(file) && !isPoster(file)) outletNamed(file, options);
      for (const folder of new Set(options.out.map((file) => dirname(file))))
        await inFolder(folder, () => mkdir(folder, { recursive: true }));
    },
    (opened) => makeFilms(opened, options),
  );

/** What goes beside a film, where a file is that. */
function trackNamed(file: string): TextTrack | null {
  if (extname(file).toLowerCase() !== '.vtt') return null;
  return /\.chapters\.vtt$/i.test(file) ? 'chapters' : 'captions';
}

const isPoster = (file: string): boolean => /\.poster\.png$/i.test(file);

/** The files that go beside a film, and what each says. */
function tracksOf(film: Scene, out: readonly string[]): { file: string; text: string }[] {
  return out.flatMap((file) => {
    const track = trackNamed(file);
    if (!track) return [];
    const text = trackOfFilm(film, track);
    if (text) return [{ file, text }];
    const marker =
      track === 'captions' ? 'Marker at 2 s "Fan", saying "The fan is on"' : 'Marker at 2 s "Baking"';
    throw {
      reason: `the film has no ${track}`,
      where: `--out ${file}`,
      remedy: `Give the scene markers, for example by a line of its script: ${marker}.`,
    };
  });
}

/** What a file is to be: a film, or its numbered pictures in a zip. */
function outletNamed(file: string, { as, pictures, quality }: FilmOptions): OrderedOutlet {
  const ending = extname(file).toLowerCase();
  if (ending === ZIP) return { pictures: pictures ?? 'png' };
  const format = as ?? formatOf[ending];
  if (format) return { format, quality };
  throw {
    reason: `what format "${file}" is to have is not known`,
    where: '--out',
    remedy: `Let it end with ${[...Object.keys(formatOf), ZIP, '.vtt'].join(', ')}, or name the format after --as.`,
  };
}

async function makeFilms(
  { address, run, description, scene }: OpenedScene,
  options: FilmOptions,
): Promise<void> {
  const film = withMotions(withReel(scene, options), { description, options });
  const { count } = filmPictures(film);
  noteFindings([{ of: 'the film', findings: filmFindings(film, description) }]);
  const { size, passes } = options;
  const tracks = tracksOf(film, options.out);
  const posters = options.out.filter(isPoster);
  const out = options.out.filter((file) => !trackNamed(file) && !isPoster(file));
  const writeTracks = async (): Promise<void> => {
    for (const { file, text } of tracks) {
      await writeWhole(file, Buffer.from(text));
      console.log(file);
    }
  };
  if (out.length === 0) return writeTracks();
  const { job } = await ask<{ job: string }>(`${address}/api/runs/${run}/films`, {
    method: 'POST',
    json: {
      scene: film,
      ...size,
      passes,
      films: out.map((file) => outletNamed(file, options)),
    },
  });
  const made = await followJob<{ mismatches: string[]; seconds: number; poster: number }>(
    job,
    tellProgress,
    undefined,
    address,
  );
  await writeTracks();
  for (const [i, file] of out.entries()) {
    const { bytes } = await askFile(`${address}/api/jobs/${job}/films/${i}`);
    await writeWhole(file, Readable.fromWeb(bytes as WebStream));
    const seconds = Number(made.seconds.toFixed(3));
    console.log(`${file} ${count} pictures, ${seconds} s, ${size.width}x${size.height}`);
  }
  for (const file of posters) {
    const { bytes } = await askFile(`${address}/api/jobs/${job}/pictures/${made.poster}`);
    await writeWhole(file, Readable.fromWeb(bytes as WebStream));
    console.log(file);
  }
  for (const mismatch of made.mismatches) console.error(`note: ${mismatch}`);
}

/** A scene whose reel has what was asked for. */
function withReel(scene: Scene, { rate, from, to }: FilmOptions): Scene {
  const reel = {
    ...scene.reel,
    ...(rate && { rate }),
    ...(from !== undefined && { from }),
    ...(to && { to }),
  };
  // A film that is asked to go on for longer is longer.
  reel.seconds = Math.max(reel.seconds, to ?? 0);
  checkEnds(reel.from, to ?? reel.seconds);
  return { ...scene, reel };
}

function checkEnds(from: number, to: number): void {
  if (to > from) return;
  throw {
    reason: `the film would end at ${to} s, and begin at ${from} s`,
    where: '--from and --to',
    remedy: 'Let --to be larger than --from, both in seconds of the film.',
  };
}

/** With the motions that were typed; where nothing moves at all the results play once. */
function withMotions(
  scene: Scene,
  { description, options }: { description: OpenedScene['description']; options: FilmOptions },
): Scene {
  let film = scene;
  for (const text of options.move ?? []) {
    const setting = settingOfReel(film, description, { looks: shippedLooks });
    const motion = readMotion(text, setting);
    if ('at' in motion)
      throw {
        reason: whyNotRead(text, motion),
        where: `--move "${text}"`,
        remedy: 'Write it as docs/film.md shows, for example "turntable" or "play the results once".',
      };
    film = applyEdit(film, { type: 'reel.begin', beginning: begun(motion, setting) });
  }
  if (hasFilm(film)) return film;
  const setting = settingOfReel(film, description);
  const nothing = playResults.defaults(setting);
  if (typeof nothing === 'string')
    throw {
      reason: 'nothing moves in this scene, and the run has one step only',
      where: 'the scene',
      remedy: 'Say what moves, for example --move "turntable".',
    };
  const span = { ...spanOfReel(film.reel), ease: playResults.ease };
  return applyEdit(film, { type: 'reel.begin', beginning: playResults.begin(nothing, span, setting) });
}

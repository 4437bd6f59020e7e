import { readFile } from 'node:fs/promises';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import type { RunDescription } from '#core/model/run.ts';
import { stepRange } from '#core/motion/play-clock.ts';
import type { Scene } from '#core/scene/document.ts';
import type { Look } from '#core/scene/looks/look.ts';
import { lookSettingOf, withLook } from '#core/scene/looks/wear-look.ts';
import { readSceneFile, type SceneFile } from '#core/scene/scene-file.ts';
import { readScript } from '#core/scene/scene-script.ts';
import { withArrowKey } from '#core/scene/with-arrow-key.ts';
import { keepEnclosed } from '#engine/enclosed.ts';
import { importPreviewed, openImported, previewFiles } from './import-files.ts';
import { type OwnServer, withOwnServer } from './own-server.ts';
import type { StatedUnit } from './stated-units.ts';

/** What a scene is opened with. */
export interface OpenOptions {
  /** The result files of the run. */
  run: string[];
  /** Units of time, length and quantities, where the files do not state them. */
  units?: StatedUnit[];
  /** Sentences of lines: added to the scene, or in place of the lines the run opens with. */
  say?: string[];
  /** Put on after all that. */
  look?: Look;
}

/** A scene on its run, with a server of its own that draws it. */
export interface OpenedScene {
  address: string;
  /** Id of the run. */
  run: string;
  description: RunDescription;
  scene: Scene;
}

/** Steps that are asked for, counted from 0. */
export interface StepsAsked {
  from: number;
  to: number;
  every: number;
}

/**
 * The steps that are meant: those asked for as far as the run has them, or the one the scene shows.
 *
 * @throws what is lacking where there is none
 */
export function askedSteps(
  asked: StepsAsked | undefined,
  { description, scene }: Pick<OpenedScene, 'description' | 'scene'>,
): number[] {
  const last = description.steps.length - 1;
  if (!asked) return [Math.min(scene.step, last)];
  const steps = stepRange(asked.from, Math.min(asked.to, last), asked.every);
  if (steps.length > 0) return steps;
  throw {
    reason: 'no step is in the range',
    where: '--steps',
    remedy: `The run has the steps 1 to ${last + 1}.`,
  };
}

/**
 * Opens a scene on a run, works with it, and leaves nothing behind; what goes wrong is said with reason, place and remedy.
 *
 * @param check is asked before anything is read, and throws what cannot be
 * @returns the exit code
 */
export const withOpenedScene = (
  scenePath: string,
  options: OpenOptions,
  check: () => Promise<void>,
  work: (opened: OpenedScene) => Promise<void>,
): Promise<number> =>
  withOwnServer(
    { files: options.run },
    async () => {
      await check();
      return readScenePath(scenePath);
    },
    async (server, given) => {
      const seen = await previewFiles(server, options.run);
      const imported = await importPreviewed(server, seen, 0, options.units);
      const { scene, ...opened } = await openImported(server, imported);
      const shown = await sceneOf(server, given, { scene, description: opened.description });
      await work({ ...server, ...opened, scene: withWords(shown, given, opened.description, options) });
      return 0;
    },
  );

/** A scene as it is given on the command line: by a file, or the one a run opens with. */
export interface GivenScene {
  path: string;
  /** Null for the one the run opens with. */
  text: string | null;
  /** What a JSON file holds; null for a script. */
  file: SceneFile | null;
}

/** Reads a scene before any run is, so that a damaged one costs no time. */
export async function readScenePath(path: string): Promise<GivenScene> {
  const text = path === 'default' ? null : await readFile(path, 'utf8');
  return { path, text, file: text?.trimStart().startsWith('{') ? readGiven(path, text) : null };
}

/** A scene that was given, on a run; the files that go with it are kept on the server. */
export async function sceneOf(
  { address }: OwnServer,
  { path, text, file }: GivenScene,
  { scene, description }: { scene: Scene; description: RunDescription },
): Promise<Scene> {
  for (const { enclosure, base64 } of file?.enclosed ?? [])
    await keepEnclosed(enclosure.name, Buffer.from(base64, 'base64'), address);
  if (file) return file.scene;
  return text === null ? scene : readWords(text, path, withOfferedQuantities(description));
}

/** With what is said of it beside, and in a look. */
function withWords(
  scene: Scene,
  given: GivenScene,
  description: RunDescription,
  { say, look }: OpenOptions,
): Scene {
  const run = withOfferedQuantities(description);
  let shown = scene;
  if (say)
    shown = withArrowKey(
      readWords(say.join('\n'), '--say', run, given.text === null ? undefined : shown),
      null,
    );
  if (!look) return shown;
  const worn = withLook(shown, look, lookSettingOf(run));
  for (const what of worn.unmatched) console.error(`note: of the look, ${what}`);
  return worn.scene;
}

function readWords(text: string, where: string, run: RunDescription, before?: Scene): Scene {
  try {
    return readScript(text, run, before);
  } catch (error) {
    throw {
      reason: (error as Error).message,
      where,
      remedy: 'Write it as docs/guide.md shows, for example "Section of everything at z = 0.4 m".',
    };
  }
}

function readGiven(path: string, text: string): SceneFile {
  try {
    return readSceneFile(text);
  } catch (error) {
    throw {
      reason: (error as Error).message,
      where: path,
      remedy: 'Give a scene that Dresser saved, or the word "default".',
    };
  }
}

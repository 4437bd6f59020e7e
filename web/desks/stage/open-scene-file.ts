import type { RunDescription } from '#core/model/run.ts';
import { sceneMismatches } from '#core/scene/apply-scene.ts';
import { readScene } from '#core/scene/document.ts';
import { readSceneFile, type SceneFile } from '#core/scene/scene-file.ts';
import { readScript } from '#core/scene/scene-script.ts';
import { keepEnclosed } from '#engine/enclosed.ts';
import { sceneInPicture } from '#stage/pictures/about.ts';
import { edit, goToStep, sceneNow } from './desk-store.ts';

/**
 * Opens a scene on a run: of a scene file, of sentences, or of a picture that was given out.
 *
 * @returns what the run does not have of it, in words
 * @throws Error when it holds no scene, saying what to do
 */
export async function openSceneFile(file: File, run: RunDescription): Promise<string[]> {
  const { scene, enclosed } = await sceneOf(file, run);
  for (const { enclosure, base64 } of enclosed)
    await keepEnclosed(
      enclosure.name,
      Uint8Array.from(atob(base64), (c) => c.charCodeAt(0)),
    );
  edit({ type: 'scene.replace', scene: { ...scene, name: sceneNow().name } });
  goToStep(scene.step);
  return sceneMismatches(scene, run);
}

async function sceneOf(file: File, run: RunDescription): Promise<SceneFile> {
  if (/^image\//.test(file.type) || /\.(tiff?|png|jpe?g|webp|exr)$/i.test(file.name)) {
    const found = sceneInPicture(new Uint8Array(await file.arrayBuffer()));
    if (found === null)
      throw new Error(
        `${file.name} does not hold the scene it was made of. Drop a PNG, JPEG, WebP, TIFF or OpenEXR file that Dresser gave out.`,
      );
    return { scene: readScene(found.scene), enclosed: [] };
  }
  const text = await file.text();
  if (text.trimStart().startsWith('{')) return readSceneFile(text);
  return { scene: readScript(text, run), enclosed: [] };
}

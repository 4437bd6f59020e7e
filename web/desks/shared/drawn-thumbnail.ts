import { OPENING_ASPECT } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import type { SceneSource } from '#engine/scene-source.ts';
import { developed } from '#stage/pictures/develop.ts';
import type { Stage } from '#stage/stage.ts';
import { developScene } from '#web/desks/give-out/darkroom.ts';
import { asThumbnail, THUMBNAIL_WIDTH } from './thumbnails.ts';

/** Draws the small picture of a scene that nobody has looked at yet. */
export async function drawnThumbnail(
  stage: Stage,
  source: SceneSource,
  scene: Scene,
  { passes, signal }: { passes: number; signal?: AbortSignal },
): Promise<string> {
  const picture = await developScene(stage, source, scene, scene.step, {
    width: THUMBNAIL_WIDTH,
    height: Math.round(THUMBNAIL_WIDTH / (scene.picture.aspect ?? OPENING_ASPECT)),
    transparent: false,
    passes,
    signal,
  });
  return asThumbnail(await developed({ ...picture, words: null }));
}

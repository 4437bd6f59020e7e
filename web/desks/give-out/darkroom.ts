import type { Scene } from '#core/scene/document.ts';
import type { SceneSource } from '#engine/scene-source.ts';
import { type LayersApart, renderApart } from '#stage/pictures/layers-apart.ts';
import type { Picture } from '#stage/pictures/picture.ts';
import { type PictureOptions, renderPicture } from '#stage/pictures/render-picture.ts';
import type { Stage } from '#stage/stage.ts';

/**
 * Makes pictures of scenes away from the screen, with the stage of the screen. Still, film, page and command line
 * all come through here.
 *
 * @param exposed the moments that it is made of where motion blurs it; see `exposedScenes`
 */
export async function developScene(
  stage: Stage,
  source: SceneSource,
  scene: Scene,
  step: number,
  options: PictureOptions,
  exposed: readonly Scene[] = [],
): Promise<Picture> {
  const frame = await source.frame(scene, step, 'export');
  stage.show(frame, scene);
  if (exposed.length === 0) return renderPicture(stage, frame, scene, options);
  const show = async (moment: number): Promise<void> => {
    const one = exposed[moment];
    stage.show(await source.frame(one, one.step, 'export'), one);
    await stage.prepare();
  };
  return renderPicture(stage, frame, scene, { ...options, exposure: { count: exposed.length, show } });
}

/** The same, taken apart into its layers. */
export async function developApart(
  stage: Stage,
  source: SceneSource,
  scene: Scene,
  step: number,
  options: PictureOptions,
): Promise<LayersApart> {
  const frame = await source.frame(scene, step, 'export');
  stage.show(frame, scene);
  return renderApart(stage, frame, scene, options);
}

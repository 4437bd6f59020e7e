import type { RunDescription } from '#core/model/run.ts';
import { saySteps } from '#core/motion/step-text.ts';
import type { Scene } from '#core/scene/document.ts';
import type { PictureAbout } from '#stage/pictures/about.ts';
import type { Size } from './SizeFields.tsx';

/**
 * What the file of a picture is to say of itself.
 *
 * @param quality how long it was worked on, in words
 */
export const aboutPicture = (
  scene: Scene,
  run: RunDescription,
  { width, height }: Size,
  quality: string,
): PictureAbout => ({
  scene,
  run: run.name,
  step: saySteps([run.steps[scene.step]], run.timeUnit),
  settings: `${width} x ${height}, ${quality}`,
  made: new Date(),
});

import { picturesOf } from '#core/scene/annotations/registry.ts';
import type { Scene } from '#core/scene/document.ts';
import { loadChartLibrary } from './charts/paint-chart.ts';
import { bodiesOf, loadBodies } from './scenery/enclosed-bodies.ts';
import { enclosuresOfScenery } from './scenery/scenery-parts.ts';
import { imageOf, loadImages } from './words/images.ts';

/**
 * Brings what a scene shows beside its run: pictures that go with its words, bodies from files, and what charts are drawn
 * with.
 *
 * @returns whether something came that was not there before; and what could not be had, in words
 */
export async function bringBeside(scene: Scene): Promise<{ fresh: boolean; missing: string[] }> {
  if (scene.annotations.some((a) => a.kind === 'chart' && a.visible)) await loadChartLibrary();
  const pictures = picturesOf(scene).filter((source) => !imageOf(source));
  const bodies = enclosuresOfScenery(scene).filter((enclosure) => !bodiesOf(enclosure));
  await loadImages(pictures);
  const missing = await loadBodies(bodies);
  return { fresh: pictures.length + bodies.length > 0, missing };
}

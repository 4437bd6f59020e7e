import type { SceneFacts } from '#core/report/facts.ts';
import { type DrawChart, sceneFacts } from '#core/report/scene-facts.ts';
import { OPENING_ASPECT } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { givesCurve } from '#core/scene/gauge-label.ts';
import type { SceneSource } from '#engine/scene-source.ts';
import { inkOf } from '#stage/charts/chart-options.ts';
import { pictureSeen } from '#stage/words/picture-seen.ts';
import { chartFile, chartSvg } from '#web/desks/shared/chart-file.ts';
import { dataAddress } from '#web/desks/shared/data-address.ts';

/** Of the picture that its preflight takes for granted, in pixels: no figure is much smaller on its page. */
const WIDTH = 1600;

/** Measures what a report is to know of a scene at its step, and draws its charts. */
export async function factsOfScene(
  source: SceneSource,
  scene: Scene,
  runId: string,
  files: SceneFacts['origin']['files'],
): Promise<SceneFacts> {
  const frame = await source.frame(scene, scene.step, 'facts');
  const { run, parts } = frame;
  const gauges = scene.gauges.filter((g) => !givesCurve(g));
  const readings = await source.gauges.readings(gauges, scene, scene.step, 'facts');
  const curves = await source.curves.of(scene.charts, scene, run, scene.step);
  const size = { width: WIDTH, height: Math.round(WIDTH / (scene.picture.aspect ?? OPENING_ASPECT)) };
  const picture = pictureSeen(frame, scene, null, size);
  return sceneFacts({ scene, run, runId, spreads: parts, readings, curves, picture, files }, drawChart);
}

const drawChart: DrawChart = async (drawn) => ({
  svg: ownIds(chartSvg(drawn)),
  png: (await dataAddress(await chartFile(drawn, 'png'))).split(',')[1],
  inks: drawn.curves.map(inkOf),
});

/** Names within a drawing are counted by the library through all that it draws: here they begin anew, as any others would be. */
function ownIds(svg: string): string {
  const names = new Map<string, string>();
  const tag = svg.length.toString(36);
  return svg.replace(/\bzr\d+-[\w-]+/g, (name) => {
    if (!names.has(name)) names.set(name, `c${tag}-${names.size}`);
    return names.get(name)!;
  });
}

import { quantityByKey } from '../language/phrase.ts';
import type { RunDescription } from '../model/run.ts';
import { sayMoment } from '../motion/say-moment.ts';
import type { Layer, Scene } from '../scene/document.ts';
import { sayWhat } from '../scene/layer-sentence.ts';
import { saidInPicture } from '../scene/said-in-picture.ts';
import { settingOf } from '../scene/setting.ts';
import type { Reader } from './readers.ts';

/** More lines than this are not told one by one below a picture. */
const TOLD = 4;

/**
 * What a picture shows, in words: for engineers as exactly as it is known ("Section of chamber air at z = 0.4 m, temperature;
 * step 25, t = 50 s."), for others without what they have no use for. What must be stated of it is said to all.
 */
export function captionOf(scene: Scene, run: RunDescription, reader: Reader): string {
  const shown = scene.layers.filter((l) => l.visible && l.opacity > 0);
  const lines = shown.slice(0, TOLD).map((layer) => sayLayer(layer, scene, run, reader));
  const more = shown.length - lines.length;
  const all = more > 0 ? [...lines, `${more} more ${more === 1 ? 'line' : 'lines'}`] : lines;
  const what = all.length > 0 ? all.join('; ') : 'nothing on show';
  const when = sayWhen(scene, run, reader);
  const stated = saidInPicture(scene, run).map((s) => `, ${s}`);
  const said = `${what}${when}${stated.join('')}`;
  return `${said[0].toUpperCase()}${said.slice(1)}.`;
}

function sayLayer(layer: Layer, scene: Scene, run: RunDescription, reader: Reader): string {
  const { colour, name } = layer;
  const what = reader !== 'engineer' && name !== null ? name : sayWhat(layer, scene, run, 'reader');
  if (colour.kind !== 'field') return what;
  const quantity = quantityByKey(colour.field, colour.component, settingOf(run, scene, layer));
  if (!quantity) return what;
  return reader === 'engineer' ? `${what}, ${quantity.name}` : `${what}, coloured by ${quantity.name}`;
}

/** When it is, where that makes a difference. */
function sayWhen(scene: Scene, run: RunDescription, reader: Reader): string {
  if (run.steps.length < 2) return '';
  const said = sayMoment(scene, run);
  if (said === null) return '';
  if (reader === 'engineer') return `; step ${said.step}, ${said.time}`;
  const time = said.time.replace(/^t = /, '');
  const isTime = time !== said.time;
  return isTime && reader === 'lay' ? ` after ${time}` : ` at ${isTime ? `t = ${time}` : time}`;
}

import type { ScaleToWrite } from '#core/formats/surfaces/scene-to-write.ts';
import { element } from './element.ts';

/** Of the bar, in pixels of the page. */
const WIDTH = 320;
const HEIGHT = 12;
/** So much of the bar is left free between the numbers below it, at least. */
const FREE = 0.12;
/** So near to an end of the bar a number does not stand across it. */
const EDGE = 0.06;

/** The colours of a scale, with numbers below them. */
export function legendBar(scale: ScaleToWrite, colours: ImageBitmap): HTMLElement {
  const { title, unit, from, to } = scale;
  const ticks = thinned(scale.ticks);
  const bar = element('canvas', {
    width: WIDTH * 2,
    height: HEIGHT * 2,
    role: 'img',
    'aria-label': `Colours from ${ticks[0]?.says ?? 'low'} to ${ticks.at(-1)?.says ?? 'high'}${unit ? ` ${unit}` : ''}`,
  });
  const painter = bar.getContext('2d')!;
  painter.imageSmoothingEnabled = scale.mixed;
  const { width, height } = colours;
  painter.drawImage(colours, from * width, 0, (to - from) * width, height, 0, 0, bar.width, bar.height);
  const numbers = ticks.map(({ at, says }) => {
    const number = element('span', {}, says);
    number.style.left = `${100 * at}%`;
    // Those at the ends stay within the bar.
    number.style.transform = `translateX(${at < EDGE ? 0 : at > 1 - EDGE ? -100 : -50}%)`;
    return number;
  });
  return element(
    'div',
    { class: 'living-legend' },
    element('p', {}, unit ? `${title} (${unit})` : title),
    bar,
    element('div', { class: 'living-ticks', 'aria-hidden': 'true' }, ...numbers),
  );
}

/** Every number, or every second, third … of them, so that none stands in the way of another. */
export function thinned(ticks: ScaleToWrite['ticks']): ScaleToWrite['ticks'] {
  const ordered = [...ticks].sort((a, b) => a.at - b.at);
  for (let every = 1; ; every++) {
    const kept = ordered.filter((_, i) => i % every === 0);
    if (kept.every((tick, i) => i === 0 || tick.at - kept[i - 1].at >= FREE)) return kept;
  }
}

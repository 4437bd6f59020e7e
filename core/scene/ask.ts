import { speak } from '../language/sentence.ts';
import { isLacking } from '../measure/measure.ts';
import { measureById } from '../measure/registry.ts';
import type { RunDescription } from '../model/run.ts';
import type { Gauge, Scene } from './document.ts';
import { sayWhat } from './layer-sentence.ts';
import { settingOf } from './setting.ts';

/** What is asked for by a gauge: what is measured, and on what. */
export type Ask = Omit<Gauge, 'id' | 'name'>;

/**
 * What is asked, as it is understood.
 *
 * @param style in full, so that it can be read again, or for a reader
 */
export function sayAsk(
  { measure, options, on, phase }: Ask,
  scene: Scene,
  run: RunDescription,
  style: 'told' | 'reader' = 'told',
): string {
  const { phrase, clauses, asks } = measureById(measure);
  const setting = { ...settingOf(run, scene), exact: style === 'told' };
  const measured = speak(phrase.say(options, setting) ?? []);
  const what = asks === 'something' ? ` ${sayWhat(on, scene, run, style)}` : '';
  const behind =
    clauses
      ?.say(options, setting)
      ?.map((piece) => piece.text)
      .join('') ?? '';
  return `${measured}${what}${behind}${phase === null ? '' : ` at phase ${phase}°`}`;
}

/** One answer of what several parts give; what all of them lack is told. */
export function joinedAnswer({ measure, options }: Ask, parts: readonly object[]) {
  const known = measureById(measure);
  const whole = parts.filter((part) => !isLacking(part));
  if (whole.length === 0) return { part: null, answer: parts.find(isLacking) ?? { lacking: 'parts' } };
  const part = whole.reduce((a, b) => known.join(a, b, options));
  return { part, answer: known.answer(part, options) };
}

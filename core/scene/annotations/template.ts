import { completionsIn, filledWith, troublesIn, valuesIn } from '../../language/template.ts';
import type { RunDescription } from '../../model/run.ts';
import type { Scene } from '../document.ts';
import type { AnnotationNeeds } from './annotation.ts';
import type { WantedValue } from './attachment.ts';
import { type TemplateSetting, templateWords } from './template-words.ts';

/** A text on a picture with its values filled in; see `filledWith`. */
export const filledIn = (text: string, setting: TemplateSetting): string =>
  filledWith(text, () => templateWords(setting));

/** What in a text is not understood, with what to do about it. */
export const templateTroubles = (text: string, setting: TemplateSetting): string[] =>
  troublesIn(text, () => templateWords(setting));

/** What could stand at the caret of a text; see `completionsIn`. */
export const templateCompletions = (text: string, caret: number, setting: TemplateSetting) =>
  completionsIn(text, caret, () => templateWords(setting));

/** What a text must know: quantities whose range it tells, and those it tells at the place where it hangs. */
export function templateNeeds(
  text: string,
  setting: TemplateSetting,
): { ranges: string[]; gauges: string[]; here: WantedValue[] } {
  const words = valuesIn(text, () => templateWords(setting));
  return {
    ranges: [...new Set(words.flatMap((w) => w.range ?? []))],
    gauges: [...new Set(words.flatMap((w) => w.gauge ?? []))],
    here: words.flatMap((w) => w.here ?? []),
  };
}

/** What words that hang on nothing must know. */
export function needsOfText(text: string, run: RunDescription, scene: Scene): AnnotationNeeds {
  const { ranges, gauges } = templateNeeds(text, { run, scene, step: scene.step, here: null });
  return { ranges, gauges, attachments: [] };
}

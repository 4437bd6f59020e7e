import type { Phrase } from '../../language/phrase.ts';
import type { Name } from '../../language/sentence-reader.ts';
import type { RunDescription } from '../../model/run.ts';
import type { z } from '../../model/schema.ts';
import type { OperationSetting, OptionControl } from '../../ops/chain/operation.ts';
import type { Camera, Scene } from '../../scene/document.ts';
import type { Look } from '../../scene/looks/look.ts';
import type { Ease } from '../../scene/reel/ease.ts';
import type { Begun } from '../../scene/reel/reel-edits.ts';
import type { StepPlaces } from '../time-map.ts';
import type { MovingNumber } from './moving-numbers.ts';

/** A view that was kept: a shot of the scene, or one of its cameras. */
export interface KeptView {
  name: string;
  camera: Camera;
}

/** What a beginning may know of the scene whose film it begins. */
export interface BeginningSetting extends OperationSetting {
  scene: Scene;
  run: RunDescription;
  /** Where its steps are. */
  places: StepPlaces;
  /** Numbers of the scene that can move. */
  numbers: readonly MovingNumber[];
  /** Its lines, by what sentences call them. */
  lines: readonly Name<string>[];
  /** Words and marks on its picture, by what sentences call them. */
  words: readonly Name<string>[];
  views: readonly KeptView[];
  looks: readonly Look[];
}

/** The time of a film that something takes, and how it goes. */
export interface Span {
  /** In seconds from the beginning of the film. */
  from: number;
  to: number;
  ease: Ease;
}

/**
 * A motion in plain words that becomes ordinary keys: all of it stands in one file, as with operations. What it makes can
 * then be moved, eased and deleted key by key; nothing remembers how it began.
 */
export interface Beginning<Options extends object> {
  id: string;
  /** How it is offered. */
  name: string;
  /** What it does, in a few words. */
  purpose: string;
  schema: z.ZodType<Options>;
  /** What it proposes for a scene; a sentence saying what is missing where it has nothing to move. */
  defaults(setting: BeginningSetting): Options | string;
  /** Its words, without the time it takes: `turntable once`. */
  phrase: Phrase<Options>;
  controls(setting: BeginningSetting): OptionControl<Options>[];
  /** How it goes unless something else is asked for. */
  ease: Ease;
  begin(options: Options, span: Span, setting: BeginningSetting): Begun;
}

/** A line by what sentences call it; the options keep its id. */
export const lineByName = <K extends string>(key: K): Phrase<Record<K, string>> => ({
  say: (options, s) => [
    {
      text: settingOfBeginning(s).lines.find((l) => l.value === options[key])?.text ?? 'a line that is gone',
      control: { kind: 'option', step: '', key },
    },
  ],
  read(reader, into, s) {
    const found = reader.name(settingOfBeginning(s).lines);
    if (found === undefined) return false;
    Object.assign(into, { [key]: found });
    return true;
  },
});

/** Phrases know of the setting what operations know; those of beginnings are only ever used with all of it. */
export const settingOfBeginning = (setting: object): BeginningSetting => setting as BeginningSetting;

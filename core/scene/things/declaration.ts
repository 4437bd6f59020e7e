import type { Phrase } from '../../language/phrase.ts';
import type { z } from '../../model/schema.ts';
import type { Versioned } from '../../model/versioned.ts';
import type { OperationSetting, OptionControl } from '../../ops/chain/operation.ts';
import type { Scene } from '../document.ts';
import type { Style } from './style.ts';

/**
 * A thing in a scene, all of it in one file: how it is stored, what it is to begin with, how it is said and read, edited
 * and blended. The document, its repair, the sentences of the desk, scripts, lists of changes and the keys of films
 * follow from it.
 */
export interface Declaration<T extends object> extends Versioned {
  /** Where the document keeps it. */
  id: string;
  /** How it is called: "the light". */
  name: string;
  schema: z.ZodType<T>;
  /** What stands in where a document does not fit, whatever the run. */
  plain: T;
  /** Words before it in a script: `Light `. */
  opening: string;
  /** Says it to a reader or in full, and reads what is said in full. */
  phrase: Phrase<T>;
  /** Not said in a script while this holds. */
  silent?(value: T): boolean;
  controls: OptionControl<T>[];
  /** Quantities it is made for; a run that lacks them is told of. */
  needs?(value: T): string[];
  /**
   * Something between two states, when it is more than each value by itself.
   *
   * @param share 0 at `a`, 1 at `b`
   */
  blend?(a: T, b: T, share: number): T;
}

/** A thing of which a scene has just one. */
export interface SceneThing<T extends object, Id extends string = string> extends Declaration<T> {
  id: Id;
  /** The sentence of the desk it is a part of. */
  line: 'light' | 'lens' | 'words' | null;
  /** Where it belongs to the style of a scene, which goes from one to others. */
  style?: Style<T>;
  /**
   * What else of the scene changes with it.
   *
   * @param scene as it was before
   */
  takesAlong?(value: T, scene: Scene): Partial<Scene>;
  /**
   * What it is for a run as it opens.
   *
   * @param aspect width over height of what is left of the picture for the model
   */
  defaults(setting: OperationSetting, aspect: number): T;
}

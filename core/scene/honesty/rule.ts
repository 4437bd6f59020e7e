import type { CompiledScale } from '../../colour/compiled-scale.ts';
import type { Spread } from '../../colour/spread.ts';
import type { RunDescription } from '../../model/run.ts';
import type { Scale, Scene } from '../document.ts';

/** A scale that something on show uses, as it is on show. */
export interface ShownScale {
  scale: Scale;
  settled: CompiledScale;
  /** How the values of what uses it are spread; null where that is not known. */
  spread: Spread | null;
}

/** What rules look at: a scene as it is on show. */
export interface Shown {
  scene: Scene;
  run: RunDescription;
  scales: readonly ShownScale[];
}

/** Something about a picture that whoever looks at it should know. */
export interface Remark {
  /** Of the rule that makes it. */
  rule: string;
  /** What is so, in a sentence. */
  says: string;
  /** What can be done, in a sentence. */
  remedy: string;
  /** The scale it is about; null where it is about none. */
  scale: string | null;
}

/** One way in which a picture may mislead. A new one is a file beside this and a line in the registry. */
export interface HonestyRule {
  id: string;
  remarks(shown: Shown): Omit<Remark, 'rule'>[];
}

import { runsIn, sentencesIn } from '#core/fields/formula/expanded-formula.ts';
import {
  unmeasured,
  withOfferedQuantities,
  withQuantities,
  withRange,
} from '#core/fields/quantity-sources.ts';
import { type Component, parseQuantity, quantityStatistics } from '#core/model/quantity.ts';
import { fieldByKey, type MeasuredRange, type RunDescription, sharesOf } from '#core/model/run.ts';
import type { Statistics } from '#core/model/statistics.ts';
import { knownAnswer, type OtherRun, type RunAnswer, type RunQuestion, withAnswer } from './run-ranges.ts';

/** Has a question about a run as a whole answered: by the server, a worker, or at once in tests. */
export type AskRun = (question: RunQuestion, signal: AbortSignal) => Promise<RunAnswer>;

/** What a scene must know of its run before it is drawn. */
export interface RangesNeeded {
  /** Keys of quantities. */
  ranges: readonly string[];
  /** Quantities whose quantiles are used, by `quantityKey`. */
  shares: readonly string[];
}

const nameOf = (question: RunQuestion): string => JSON.stringify(question);
const never = new AbortController().signal;

/**
 * The ranges of a run: those the files state, and those computed when first asked for, each whole and once. They never
 * depend on what was looked at.
 */
export class Ranges {
  private current: RunDescription;
  private readonly coming = new Map<string, Promise<void>>();

  constructor(
    run: RunDescription,
    private readonly ask: AskRun | null,
  ) {
    this.current = withOfferedQuantities(run);
  }

  /** The run with the ranges that are known by now. */
  get run(): RunDescription {
    return this.current;
  }

  /**
   * The range of one component of a quantity.
   *
   * @param steps over all of them, or at one
   * @returns null where the run has no such quantity, or nothing of it there
   * @throws Error when it cannot be computed, or the signal is cancelled
   */
  async rangeOf(
    key: string,
    component: Component,
    steps: 'all' | number,
    signal: AbortSignal = never,
  ): Promise<Statistics | null> {
    await this.know({ ranges: [key], shares: [] }, signal);
    const field = fieldByKey(this.current, key);
    return field && quantityStatistics(field, component, steps === 'all' ? null : steps);
  }

  /** Evenly spaced quantiles of one component over the whole run. */
  async sharesOf(quantity: string, signal: AbortSignal = never): Promise<readonly number[] | null> {
    await this.know({ ranges: [], shares: [quantity] }, signal);
    return sharesOf(this.current, quantity);
  }

  /** Makes sure that ranges are known. Without somebody to ask, what the files do not state stays unknown. */
  async know({ ranges, shares }: RangesNeeded, signal: AbortSignal = never): Promise<void> {
    const keys = [...ranges, ...shares.map((s) => parseQuantity(s).field)];
    await this.knowIngredients(keys, signal);
    this.current = withQuantities(this.current, keys);
    if (!this.ask) return;
    const questions: RunQuestion[] = [
      ...unmeasured(ranges, this.current).map((key): RunQuestion => ({ kind: 'range', key })),
      ...[...new Set(shares)].map((s): RunQuestion => {
        const { field: key, component } = parseQuantity(s);
        return { kind: 'shares', key, component };
      }),
    ].filter((q) => knownAnswer(this.current, q) === null && fieldByKey(this.current, q.key) !== null);
    await Promise.all(questions.map((q) => this.answered(q, signal)));
  }

  /** Another run by its name; without somebody to ask there is none. */
  async otherRun(key: string, signal: AbortSignal = never): Promise<OtherRun> {
    const question: RunQuestion = { kind: 'run', key };
    if (this.ask && knownAnswer(this.current, question) === null) await this.answered(question, signal);
    return (
      (knownAnswer(this.current, question) as OtherRun | null) ?? { trouble: `there is no run “${key}” here` }
    );
  }

  /** Makes sure that the other runs and the numbers are known that quantities are computed with, by their keys. */
  async knowIngredients(keys: readonly string[], signal: AbortSignal = never): Promise<void> {
    if (!this.ask) return;
    const all = (kind: 'run' | 'number', names: string[]): Promise<unknown> =>
      Promise.all(
        [...new Set(names)]
          .map((key): RunQuestion => ({ kind, key }))
          .filter((q) => knownAnswer(this.current, q) === null)
          .map((q) => this.answered(q, signal)),
      );
    await all('run', keys.flatMap(runsIn));
    await all('number', keys.flatMap(sentencesIn));
  }

  private answered(question: RunQuestion, signal: AbortSignal): Promise<void> {
    const name = nameOf(question);
    let coming = this.coming.get(name);
    if (!coming) {
      coming = this.ask!(question, signal).then((answer) => {
        this.current =
          question.kind === 'range'
            ? withRange(this.current, question.key, answer as MeasuredRange)
            : withAnswer(this.current, question, answer);
      });
      this.coming.set(name, coming);
      // What failed is asked for again the next time.
      coming.catch(() => this.coming.delete(name));
    }
    return coming;
  }
}

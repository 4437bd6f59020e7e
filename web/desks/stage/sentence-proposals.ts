import type { NotRead } from '#core/language/sentence-reader.ts';
import { nearestNames } from '#core/model/nearest-names.ts';

/** What could stand where one types. */
export interface Proposal {
  text: string;
  /** Where it takes the place of what is typed, and where that ends if it is not the end of it all. */
  from: number;
  to?: number;
  /** It only says what is wanted, like a number. */
  describes: boolean;
}

/** What is said below a sentence that is not understood yet. */
export interface Proposed {
  proposals: Proposal[];
  /** Why what is typed cannot be gone on with, in a sentence; null while it can. */
  because: string | null;
  /** Whether a key may put in the first of them: not where none of them looks like what is typed. */
  byKey: boolean;
}

/** How many proposals are shown at once. */
const PROPOSALS = 8;
const NONE: Proposed = { proposals: [], because: null, byKey: false };

/**
 * What a sentence could go on with at the caret: what begins like what is typed there; where nothing does, what looks like it,
 * and what else could stand there.
 */
export function proposedAt(text: string, caret: number, notRead: NotRead | null): Proposed {
  if (!notRead) return NONE;
  const { at: from, refused } = notRead;
  const expected = [...new Set(notRead.expected)].sort(
    (a, b) => Number(isDescription(a)) - Number(isDescription(b)),
  );
  if (refused) {
    const proposals = expected
      .slice(0, PROPOSALS)
      .map((e) => ({ text: e, from, to: refused.to, describes: false }));
    return { proposals, because: `${refused.because}.`, byKey: true };
  }
  // What there is to begin with stands below anyway as long as nothing is typed.
  if (caret < from || text.trim() === '') return NONE;
  const typed = text.slice(from, caret).trimStart().toLowerCase();
  const begun = expected.filter((e) => e.toLowerCase().startsWith(typed));
  const [said, word] = /^\s*(\S+)/.exec(text.slice(from)) ?? ['', ''];
  const aNumber = /^[-−+.\d]/.test(word) && expected.some((e) => /^(a|the) number/.test(e));
  if (begun.length > 0 || word === '' || aNumber || isDescribed(expected)) {
    const fitting = expected.filter((e) => begun.includes(e) || isDescription(e)).slice(0, PROPOSALS);
    return {
      proposals: fitting.map((e) => ({ text: e, from, describes: isDescription(e) })),
      because: null,
      byKey: true,
    };
  }
  const likely = nearestNames(text.slice(from), expected);
  const described = expected.filter(isDescription);
  const others = expected
    .filter((e) => !isDescription(e))
    .slice(0, Math.max(0, PROPOSALS - described.length));
  const shown = likely.length > 0 ? likely.slice(0, PROPOSALS) : [...others, ...described];
  return {
    proposals: shown.map((e) => ({ text: e, from, to: from + said.length, describes: isDescription(e) })),
    because: `“${word}” is not understood here.`,
    byKey: likely.length > 0,
  };
}

/** Whether what could stand there is told only by what it is; where nothing could, one is told that what is typed cannot. */
const isDescribed = (expected: readonly string[]): boolean =>
  expected.length > 0 && expected.every(isDescription);

const isDescription = (wanted: string): boolean =>
  /^(a number|the number|the end|#rrggbb|“a (condition|text)”)/.test(wanted);

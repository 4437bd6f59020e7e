import { inFormula, MEASURED } from './formula-tree.ts';
import { formulaFunctions } from './functions/registry.ts';
import { quantityFunctions } from './quantity-functions.ts';

/** What could stand in a formula where somebody types. */
export interface FormulaProposal {
  /** What is put in. */
  text: string;
  says: string;
}

/** A piece of a formula. */
export interface Piece {
  from: number;
  to: number;
  text: string;
}

const WORD = /\[[^\]]*\]?|[\p{L}_$][\p{L}\p{N}_$]*(?:\.\w*)?/gu;

/**
 * The word of a formula that a place in it touches: a name, with the component behind its dot, or what stands in brackets.
 *
 * @param names that may stand without brackets though they are more than one word
 */
export function pieceAt(text: string, caret: number, names: readonly string[]): Piece | null {
  const lower = text.toLowerCase();
  for (const name of [...names].sort((a, b) => b.length - a.length)) {
    for (let from = lower.indexOf(name.toLowerCase()); from >= 0; ) {
      const to = from + name.length;
      if (caret >= from && caret <= to && !/[\p{L}\p{N}_]/u.test(text[to] ?? ' '))
        return { from, to, text: text.slice(from, to) };
      from = lower.indexOf(name.toLowerCase(), from + 1);
    }
  }
  for (const { index: from, 0: found } of text.matchAll(WORD))
    if (caret >= from && caret <= from + found.length) return { from, to: from + found.length, text: found };
  return null;
}

/** Names that are understood as they are, as long as they are known. */
const SEVERAL_WORDS = /^\p{L}[\p{L}\p{N}_-]*(?: [\p{L}\p{N}_-]+)+$/u;

/** What a formula may name. */
export interface KnownName {
  name: string;
  says: string;
  /** What is put in for it, where that is not its name. */
  text?: string;
}

/** How many are proposed at once. */
const PROPOSED = 8;

/**
 * What could stand where somebody types: names that begin with what is typed, then functions that do, then names that
 * have it at the beginning of another of their words.
 *
 * @param names what can be named, with what it is
 * @param runs other runs, proposed where one of them is named
 * @returns nothing where no word is begun
 */
export function formulaProposals(
  text: string,
  caret: number,
  names: readonly KnownName[],
  runs: readonly string[] = [],
): { piece: Piece; proposals: FormulaProposal[] } | null {
  const run = NAMES_RUN.exec(text.slice(0, caret));
  if (run) return proposedRuns(text, run, runs);
  const before = /(?:\[[^\]]*|[\p{L}_$][\p{L}\p{N}_$]*)$/u.exec(text.slice(0, caret));
  if (!before) return null;
  const typed = before[0].replace(/^\[/, '').toLowerCase();
  const piece = { from: before.index, to: caret, text: before[0] };
  // The rest of a word that is begun in its middle goes as well.
  piece.to += /^[\p{L}\p{N}_$]*\]?/u.exec(text.slice(caret))![0].length;
  const begins = (name: string): boolean => name.toLowerCase().startsWith(typed);
  const within = (name: string): boolean =>
    name
      .toLowerCase()
      .split(/[\s_.-]+/)
      .some((w) => w.startsWith(typed));
  const functions = [
    ...Object.entries(formulaFunctions)
      .filter(([name]) => /^\w+$/.test(name) && !/^(?:minus|plus|and|or|not)$/.test(name))
      .map(([name, { says }]) => ({ name, says })),
    ...Object.entries(quantityFunctions).map(([name, { says }]) => ({ name, says })),
    { name: MEASURED, says: 'a number that a sentence asks for, between quotation marks' },
  ].map(({ name, says }) => ({ name, says, text: `${name}(` }));
  const all = names.map((n) => ({
    ...n,
    text: n.text ?? (SEVERAL_WORDS.test(n.name) ? n.name : inFormula(n.name)),
  }));
  const ordered = [
    ...all.filter((n) => begins(n.name)),
    ...functions.filter((n) => begins(n.name)),
    ...all.filter((n) => !begins(n.name) && within(n.name)),
  ];
  const proposals = ordered.slice(0, PROPOSED).map(({ text: put, says }) => ({ text: put, says }));
  // What is there already is no proposal.
  return proposals.length === 0 || (proposals.length === 1 && proposals[0].text === before[0])
    ? null
    : { piece, proposals };
}

/** Where another run is named, as far as it is. */
const NAMES_RUN = /\bin_run\s*\(\s*(?<begun>"?(?<typed>(?:\\.|[^"\\,()])*))$/;

function proposedRuns(
  text: string,
  { index, 0: all, groups }: RegExpExecArray,
  runs: readonly string[],
): { piece: Piece; proposals: FormulaProposal[] } | null {
  const begun = groups!.begun;
  const [from, caret] = [index + all.length - begun.length, index + all.length];
  const proposals = runs
    .filter((name) => name.toLowerCase().includes(groups!.typed.toLowerCase()))
    .slice(0, PROPOSED)
    .map((name) => ({ text: `${JSON.stringify(name)}, `, says: 'another run' }));
  // A quotation mark that is closed already, and the comma behind it, go as well.
  const rest = /^[^"(),]*"?\s*,?\s*/.exec(text.slice(caret))![0].length;
  return proposals.length === 0 ? null : { piece: { from, to: caret + rest, text: begun }, proposals };
}

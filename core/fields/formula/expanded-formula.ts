import { literalPattern } from '../../model/literal-pattern.ts';
import { QUOTED } from '../../model/quoted-text.ts';
import type { SetRule } from '../../model/set-rule.ts';
import { type NamedSet, setsOutOf, withRulesOfSets } from './sets-in-sentences.ts';

/** A formula under a name that other formulas may use. */
export interface NamedFormula {
  name: string;
  formula: string;
}

/** The key of the quantity by a formula. */
export const formulaKey = (formula: string): string => `formula:${formula}`;

/** The formula of a key; null where it is the key of something else. */
export const formulaOfKey = (key: string): string | null =>
  key.startsWith(formulaKey('')) ? key.slice(formulaKey('').length) : null;

/** A key with another formula in it, which others may be made of; null where there is none in it. */
export function inFormulaOfKey(key: string, said: (formula: string) => string): string | null {
  const [, kind, formula, component = ''] =
    /^((?:.*?:)??formula:)(.*?)(#(?:\d+|magnitude))?$/s.exec(key) ?? [];
  return formula === undefined ? null : `${kind}${said(formula)}${component}`;
}

/** What a quantity is called that has no name but its formula: with part sets by their names alone. */
export const formulaName = (formula: string): string =>
  `(${withSentences(formula, (sentence) => setsOutOf(sentence).sentence)})`;

/** Whether it is made by a formula and called by nothing but that: no name for others to use. */
export const isNameless = ({ key, name }: { key: string; name: string }): boolean => {
  const formula = formulaOfKey(key);
  return formula !== null && name === formulaName(formula);
};

/** A sentence that asks for a number within a formula, between its quotation marks. */
const ASKED = String.raw`\bmeasured\s*\(\s*(?<asked>${QUOTED})\s*\)`;
/** The name of another run that a formula looks at. */
const RUN_NAMED = String.raw`\bin_run\s*\(\s*(?<name>${QUOTED})`;
/** Words before which a name in a sentence is that of a quantity. */
const BEFORE_QUANTITY = /(?:\b(?:of|from|and|by|where|against)\s+|[“(]|[-+*/<>=]\s*)$/i;

/** The sentences that formulas ask for numbers by; those within sentences are for who answers them. */
export const sentencesIn = (formula: string): string[] =>
  [...formula.matchAll(new RegExp(ASKED, 'gu'))].flatMap(({ groups }) => {
    const sentence = sentenceOf(groups!.asked);
    return sentence === null ? [] : [sentence];
  });

/** The names of other runs that formulas look at. */
export const runsIn = (formula: string): string[] =>
  [...formula.matchAll(new RegExp(RUN_NAMED, 'g'))].flatMap(({ groups }) => {
    const name = sentenceOf(groups!.name);
    return name === null ? [] : [name];
  });

function sentenceOf(quoted: string): string | null {
  try {
    return JSON.parse(quoted) as string;
  } catch {
    return null;
  }
}

/** A formula with other sentences in place of those that ask for numbers, and of those within them, the inner ones first. */
function withSentences(formula: string, said: (sentence: string) => string): string {
  return formula.replace(new RegExp(ASKED, 'gu'), (found, ...rest) => {
    const sentence = sentenceOf((rest.at(-1) as { asked: string }).asked);
    return sentence === null ? found : `measured(${JSON.stringify(said(withSentences(sentence, said)))})`;
  });
}

/** A part set with the names in its conditions put by the formulas they stand for. */
export function expandedSet({ name, rule }: NamedSet, known: readonly NamedFormula[]): NamedSet {
  const expanded = (r: SetRule): SetRule =>
    'of' in r
      ? ({ ...r, of: r.of.map(expanded) } as SetRule)
      : r.kind === 'condition'
        ? { ...r, condition: withNames(r.condition, known) }
        : r;
  return { name, rule: expanded(rule) };
}

/**
 * A formula in which each name of another is that formula itself, in brackets, and each part set that its sentences name has its
 * rule with it: it then says all of it alone.
 */
export function expandedFormula(
  text: string,
  known: readonly NamedFormula[],
  sets: readonly NamedSet[] = [],
): string {
  const plain = withNames(text.trim(), known);
  if (sets.length === 0) return plain;
  const whole = sets.map((set) => expandedSet(set, known));
  return withSentences(plain, (sentence) => withRulesOfSets(sentence, whole));
}

function withNames(text: string, known: readonly NamedFormula[]): string {
  if (known.length === 0) return text;
  const by = new Map(known.map((k) => [k.name.toLowerCase(), k.formula]));
  const some = [...by.keys()]
    .sort((a, b) => b.length - a.length)
    .map(literalPattern)
    .join('|');
  const pattern = new RegExp(
    `${ASKED}|"[^"]*"|\\[(?<boxed>${some})\\]|\\[[^\\]]*\\]|(?<![\\p{L}\\p{N}_.])(?<plain>${some})(?![\\p{L}\\p{N}_(])`,
    'giu',
  );
  const expanded = (within: string, isSentence: boolean): string =>
    within.replace(pattern, (found, ...rest) => {
      const { boxed, plain, asked } = rest.at(-1) as Record<'boxed' | 'plain' | 'asked', string | undefined>;
      const sentence = asked === undefined ? null : sentenceOf(asked);
      if (sentence !== null) return `measured(${JSON.stringify(expanded(sentence, true))})`;
      const at = rest.at(-3) as number;
      if (isSentence && !BEFORE_QUANTITY.test(within.slice(0, at))) return found;
      const name = boxed ?? plain;
      return name === undefined ? found : `(${by.get(name.toLowerCase())})`;
    });
  return expanded(text, false);
}

import { literalPattern } from '../../model/literal-pattern.ts';
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

/** What a quantity is called that has no name but its formula. */
export const formulaName = (formula: string): string => `(${formula})`;

/** Whether it is made by a formula and called by nothing but that: no name for others to use. */
export const isNameless = ({ key, name }: { key: string; name: string }): boolean => {
  const formula = formulaOfKey(key);
  return formula !== null && name === formulaName(formula);
};

/** A formula in which each name of another is that formula itself, in brackets: it then says all of it alone. */
export function expandedFormula(text: string, known: readonly NamedFormula[]): string {
  if (known.length === 0) return text.trim();
  const by = new Map(known.map((k) => [k.name.toLowerCase(), k.formula]));
  const some = [...by.keys()]
    .sort((a, b) => b.length - a.length)
    .map(literalPattern)
    .join('|');
  const pattern = new RegExp(
    `"[^"]*"|\\[(?<boxed>${some})\\]|\\[[^\\]]*\\]|(?<![\\p{L}\\p{N}_.])(?<plain>${some})(?![\\p{L}\\p{N}_(])`,
    'giu',
  );
  return text.trim().replace(pattern, (found, ...rest) => {
    const { boxed, plain } = rest[rest.length - 1] as { boxed?: string; plain?: string };
    const name = boxed ?? plain;
    return name === undefined ? found : `(${by.get(name.toLowerCase())})`;
  });
}

import { behindBracket } from '../model/closing-bracket.ts';
import type { Component, Quantity } from '../model/quantity.ts';
import type { PhraseSetting } from './phrase.ts';
import { quantityNames, refuseLacking } from './quantity-names.ts';
import type { Name, SentenceReader } from './sentence-reader.ts';

/** What formulas come to in a run, for who reads and says them. */
export interface FormulasOfRun {
  /** The components of a formula, under names that begin with it in brackets; or why it has none, in a sentence. */
  read(text: string): readonly Quantity[] | string;
  /** The components of a formula by its key; none for other keys. */
  byKey(key: string): readonly Quantity[];
}

export interface ReadQuantity extends Pick<Quantity, 'field'> {
  component: Component;
  /** The words it was named by, without the formula. */
  said: string;
}

const LENGTH_OF = /^(?:magnitude|length|size) of(?=\s*\()/i;

/**
 * A quantity by one of its names, by a formula in brackets, or by its key in quotation marks. What is not one is refused where it
 * is known why.
 */
export function readQuantity(
  r: SentenceReader,
  s: PhraseSetting,
  names: readonly Name<Quantity>[] = quantityNames(s, r.forgiving),
): ReadQuantity | null {
  const begin = r.at;
  const named = r.first<Pick<ReadQuantity, 'field' | 'component'>>([
    () => r.name(names),
    () => {
      const [, field, c] = /^(.*)#(\w+)$/.exec(r.quoted() ?? '') ?? [];
      return field !== undefined ? { field, component: c === 'magnitude' ? c : Number(c) } : undefined;
    },
  ]);
  if (named) return { field: named.field, component: named.component, said: r.text.slice(begin, r.at) };
  return readFormula(r, s, namesOf) ?? (refuseLacking(r, s) || null);
}

const namesOf = (quantities: readonly Quantity[]): Name<Quantity>[] =>
  quantities.map((value) => ({ text: value.name, value }));

/** Tensors as a whole, by their names without a component. */
const tensorNames = (quantities: readonly Quantity[]): Name<Quantity>[] =>
  quantities
    .filter((q) => (q.components === 6 || q.components === 9) && q.component === 0)
    .map((value) => ({ text: value.name.replace(/ \S+$/, ''), value }));

/** A tensor as a whole, by its name or a formula; gives its key. */
export function readTensor(r: SentenceReader, s: PhraseSetting): string | null {
  const named = r.name(tensorNames(s.quantities));
  return named?.field ?? readFormula(r, s, tensorNames)?.field ?? null;
}

/** What a tensor is called as a whole; undefined where the run has no such. */
export const tensorName = (field: string, { quantities, formulas }: PhraseSetting): string | undefined =>
  tensorNames([...quantities, ...(formulas?.byKey(field) ?? [])]).find((n) => n.value.field === field)?.text;

function readFormula(
  r: SentenceReader,
  { formulas }: PhraseSetting,
  names: (found: readonly Quantity[]) => Name<Quantity>[],
): ReadQuantity | null {
  if (!formulas) return null;
  const begin = r.at + /^\s*/.exec(r.text.slice(r.at))![0].length;
  const before = LENGTH_OF.exec(r.text.slice(begin))?.[0] ?? '';
  const from = r.text.indexOf('(', begin + before.length);
  if (r.text.slice(begin + before.length, from).trim() !== '' || from < 0) {
    r.miss('(a formula)');
    return null;
  }
  const to = behindBracket(r.text, from);
  if (to === null) {
    r.refuse(r.text.length, 'the bracket of the formula is not closed', [')']);
    return null;
  }
  const formula = r.text.slice(from + 1, to - 1);
  const found = formulas.read(formula);
  if (typeof found === 'string') {
    r.refuse(to, `(${formula}): ${found.replace(/[.!?]$/, '')}`, []);
    return null;
  }
  r.at = from;
  const q = r.name(names(found));
  if (!q) {
    r.at = begin;
    return null;
  }
  const { at } = r;
  return { field: q.field, component: q.component, said: `${before} ${r.text.slice(to, at)}` };
}

import type { RunDescription } from '../../model/run.ts';
import { fieldsOfCondition, formulaOn, type NamedField } from '../condition.ts';
import { type Formula, parseFormula } from '../formula.ts';
import { madeField, type QuantitySource } from './quantity-source.ts';

/** What a formula needs beside the quantities it is made from: which name stands for which of them. */
interface FormulaOptions {
  text: string;
  names: [name: string, of: number, component: NamedField['component']][];
}

/** A formula and what its names stand for in a run; null when it is not understood there. */
function understoodIn(
  text: string,
  run: RunDescription,
): { formula: Formula; names: Map<string, NamedField> } | null {
  try {
    const formula = parseFormula(text);
    const sets = run.sets.map((s) => s.name);
    return { formula, names: fieldsOfCondition(formula, run.fields, sets) };
  } catch {
    return null;
  }
}

/**
 * Quantities by a formula, which is the rest of their key: `formula:temperature - 20`. They lie on points when all they
 * are made from does, and on cells otherwise.
 */
export const formula: QuantitySource = {
  id: 'formula',
  prefixes: ['formula'],
  usual: false,
  changes: true,
  needsMesh: true,
  offers: () => [],
  field(text, prefix, run, find) {
    const known = understoodIn(text, run);
    if (!known) return null;
    const of = [...known.names.values()].map(({ need }) => find.field(need.field, run));
    const location = of.some((f) => f?.location === 'cell') ? 'cell' : 'point';
    return madeField(run, { key: `${prefix}:${text}`, name: text, location, components: 1 });
  },
  lacking(text, _prefix, run, find) {
    const known = understoodIn(text, run);
    if (!known) return `quantity by the formula "${text}": it is not understood here`;
    for (const { need } of known.names.values()) {
      const lacking = find.lacking(need.field, run);
      if (lacking) return lacking;
    }
    return null;
  },
  origin({ step }, text, _prefix, at, find) {
    const known = understoodIn(text, at.run);
    if (!known) return null;
    const entries = [...known.names];
    const of = entries.map(([, { need }]) => find.origin({ ...need, step }, at));
    if (of.some((o) => o === null)) return null;
    const made = of as NonNullable<(typeof of)[number]>[];
    const location = made.some((o) => o.location === 'cell') ? 'cell' : 'point';
    const options: FormulaOptions = {
      text,
      names: entries.map(([name, { component }], i) => [name, i, component]),
    };
    const id = `formula ${JSON.stringify(text)} of ${made.map((o) => o.id).join()} at ${at.part.name}`;
    return { source: 'formula', id, location, components: 1, axial: false, arrays: [], of: made, options };
  },
  compute({ location, options }, { mesh, origin, part, of }) {
    const { text, names } = options as FormulaOptions;
    const named = Object.fromEntries(
      names.map(([name, i, component]): [string, NamedField] => [
        name,
        { need: { field: String(i) }, component },
      ]),
    );
    const input = { mesh, origin, part, field: (need: { field: string }) => of[Number(need.field)] ?? null };
    return formulaOn(input, text, named, location === 'cell' ? 'cells' : 'points');
  },
};

import type { Column } from './column.ts';
import { add, constant, type Expression, mul } from './expression.ts';
import type { TypedNode } from './typed-formula.ts';

/** A comparison of texts under the name of a column of its own, which is worked out before everything else. */
const nameOfTexts = ({ says }: TypedNode): string => `same text: ${says}`;

/**
 * How each component of a formula is worked out.
 *
 * @param column whether a name stands for one number, and which; else how many numbers a row of it has
 */
export function expressionsOf(
  formula: TypedNode,
  column: (name: string) => { same: number } | { width: number },
): Expression[] {
  const made = new Map<TypedNode, Expression[]>();
  const loads = new Map<string, Expression>();
  const load = (name: string, at: number): Expression => {
    const key = `${at} ${name}`;
    let found = loads.get(key);
    if (!found) loads.set(key, (found = { op: 'load', name, at }));
    return found;
  };
  const of = (node: TypedNode): Expression[] => {
    let found = made.get(node);
    if (!found) made.set(node, (found = afresh(node)));
    return found;
  };
  const afresh = (node: TypedNode): Expression[] => {
    switch (node.does) {
      case 'constant':
        return [constant(node.value)];
      case 'text':
        throw new Error('A text by itself has no numbers.');
      case 'same text':
        return [load(nameOfTexts(node), 0)];
      case 'column': {
        const values = column(node.name);
        if ('same' in values) return [constant(values.same)];
        // A vector in a plane has no third component.
        return Array.from({ length: node.kind.components }, (_, k) =>
          k < values.width ? load(node.name, k) : constant(0),
        );
      }
      case 'component':
        return [of(node.of)[node.at]];
      case 'convert':
        return of(node.of).map((e) => add(mul(e, constant(node.factor)), constant(node.shift)));
      case 'apply':
        return node.by.code(node.args.map(of));
    }
  };
  return of(formula);
}

/** The columns that comparisons of texts come to: 1 where they are as wanted, 0 elsewhere. */
export function textsCompared(
  formula: TypedNode,
  rows: number,
  column: (name: string) => Column,
): Map<string, Float32Array> {
  const out = new Map<string, Float32Array>();
  const look = (node: TypedNode): void => {
    if (node.does === 'apply') for (const a of node.args) look(a);
    if (node.does === 'component' || node.does === 'convert') look(node.of);
    if (node.does !== 'same text') return;
    const [a, b] = node.args.map((side): ((row: number) => string) => {
      const values = side.does === 'text' ? side.text : column((side as { name: string }).name);
      return typeof values === 'string' ? () => values : (row) => (values as readonly string[])[row];
    });
    out.set(
      nameOfTexts(node),
      Float32Array.from({ length: rows }, (_, i) => ((a(i) === b(i)) === node.wanted ? 1 : 0)),
    );
  };
  look(formula);
  return out;
}

const RAISED = '⁰¹²³⁴⁵⁶⁷⁸⁹';

const power = (said: string): number =>
  Number(
    [...said]
      .map((c) => (c === '⁻' ? '-' : RAISED.includes(c) ? RAISED.indexOf(c) : c === '^' ? '' : c))
      .join(''),
  );

/** What a unit is made of, each with its power: `kg/m³` is kg once and m minus three times. Null where it is not such. */
function factorsOf(unit: string): Map<string, number> | null {
  const out = new Map<string, number>();
  const [over, ...under] = unit.split('/');
  for (const [i, side] of [over, ...under].entries())
    for (const factor of side.replace(/^\((.*)\)$/, '$1').split(/[·*.\s]+/)) {
      if (factor === '1' || factor === '') continue;
      const [, name, raised = ''] = /^([^\d^⁰¹²³⁴⁵⁶⁷⁸⁹⁻()]+)(\^?-?\d+|⁻?[⁰¹²³⁴⁵⁶⁷⁸⁹]+)?$/u.exec(factor) ?? [];
      if (!name) return null;
      out.set(name, (out.get(name) ?? 0) + (i === 0 ? 1 : -1) * (raised ? power(raised) : 1));
    }
  return out;
}

const written = ([name, n]: [string, number]): string =>
  n === 1 ? name : `${name}${[...String(n)].map((c) => RAISED[Number(c)]).join('')}`;

/**
 * The unit of a product of quantities, each raised to a power: `m/s` and `m` twice are `m³/s`. Null where one of them is
 * not known or not understood, or no whole power is left; empty for a pure number.
 */
export function unitProduct(...terms: readonly [unit: string | null, power: number][]): string | null {
  const all = new Map<string, number>();
  for (const [unit, times] of terms) {
    const factors = unit === null ? null : factorsOf(unit);
    if (!factors) return null;
    for (const [name, n] of factors) all.set(name, (all.get(name) ?? 0) + times * n);
  }
  if ([...all.values()].some((n) => !Number.isInteger(n))) return null;
  const over = [...all].filter(([, n]) => n > 0);
  const under = [...all].filter(([, n]) => n < 0).map(([name, n]): [string, number] => [name, -n]);
  const below = under.map(written).join('·');
  const above = over.map(written).join('·') || (below ? '1' : '');
  return below ? `${above}/${under.length > 1 ? `(${below})` : below}` : above;
}

import { isSymbolNode, type MathNode, parse } from 'mathjs/number';
import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { phrasesOf } from '../../language/phrase.ts';
import { sayNumber } from '../../language/sentence.ts';
import { boundedNumber, wholeNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { unitProduct } from '../../model/unit-products.ts';
import type { CurveData } from './curve-data.ts';
import type { CurveWork } from './curve-work.ts';

export interface FitOptions {
  kind: 'line' | 'polynomial' | 'exponential' | 'formula';
  degree: number;
  /** Of `x` and any letters, which are found. */
  formula: string;
  /** The stretch that is looked at; null from the beginning, to the end. */
  from: number | null;
  to: number | null;
  /** A stretch that is passed over; null for none. */
  without: [number, number] | null;
}

const p = phrasesOf<FitOptions>();
const end = boundedNumber().nullable();

/** What a curve nearly is: the line, polynomial, exponential or formula whose squared distances to it sum to the least. */
export const fit: CurveWork<FitOptions> = {
  id: 'fit',
  name: 'Fit',
  purpose: 'the line, polynomial or formula it nearly is',
  schema: z.object({
    kind: z.enum(['line', 'polynomial', 'exponential', 'formula']),
    degree: wholeNumber().min(1).max(12),
    formula: z.string().max(300),
    from: end,
    to: end,
    without: z.tuple([boundedNumber(), boundedNumber()]).nullable(),
  }),
  defaults: () => ({
    kind: 'line',
    degree: 2,
    formula: 'a * sin(b * x + c)',
    from: null,
    to: null,
    without: null,
  }),
  phrase: p.row(
    p.text('fitted by '),
    p.oneOf(
      p.row(p.text('a line'), p.fixed('kind', 'line')),
      p.row(p.text('an exponential'), p.fixed('kind', 'exponential')),
      p.row(p.text('a polynomial of degree '), p.number('degree'), p.fixed('kind', 'polynomial')),
      p.row(p.quoted('formula'), p.fixed('kind', 'formula')),
    ),
    p.unless('from', null, p.text(' from '), p.number('from')),
    p.unless('to', null, p.text(' to '), p.number('to')),
    p.unless('without', null, p.text(' without '), p.pair('without')),
  ),
  controls: [
    {
      kind: 'choice',
      key: 'kind',
      label: 'By',
      choices: [
        { value: 'line', label: 'a line' },
        { value: 'polynomial', label: 'a polynomial' },
        { value: 'exponential', label: 'an exponential, a exp(b x) + c' },
        { value: 'formula', label: 'a formula' },
      ],
    },
    {
      kind: 'number',
      key: 'degree',
      label: 'Degree',
      whole: true,
      range: () => [1, 8],
      when: (o) => o.kind === 'polynomial',
    },
    {
      kind: 'words',
      key: 'formula',
      label: 'Formula of x',
      hint: 'a * sin(b * x + c)',
      when: (o) => o.kind === 'formula',
    },
    { kind: 'number', key: 'from', label: 'From', none: 'the beginning' },
    { kind: 'number', key: 'to', label: 'To', none: 'the end' },
    { kind: 'pair', key: 'without', label: 'Without', none: 'nothing left out' },
  ],
  apply(curve, o) {
    const { x: allX, y: allY } = curve;
    const used = Array.from(allX.keys()).filter(
      (i) =>
        !Number.isNaN(allY[i]) &&
        (o.from === null || allX[i] >= o.from) &&
        (o.to === null || allX[i] <= o.to) &&
        !(o.without && allX[i] > Math.min(...o.without) && allX[i] < Math.max(...o.without)),
    );
    const x = used.map((i) => allX[i]);
    const y = used.map((i) => allY[i]);
    const made = fitted(o, x, y, curve);
    const values = allX.map((at) =>
      (o.from !== null && at < o.from) || (o.to !== null && at > o.to) ? Number.NaN : made.at(at),
    );
    const mean = y.reduce((a, b) => a + b, 0) / y.length;
    const left = y.reduce((sum, v, i) => sum + (v - made.at(x[i])) ** 2, 0);
    const all = y.reduce((sum, v) => sum + (v - mean) ** 2, 0);
    return {
      ...curve,
      y: values,
      up: { ...curve.up, name: `fit of ${curve.up.name}` },
      notes: [
        ...(curve.notes ?? []),
        made.says,
        `R² ${sayNumber(all > 0 ? 1 - left / all : 1, 5)}, ${x.length} places.`,
      ],
    };
  },
};

interface Fitted {
  at(x: number): number;
  says: string;
}

function fitted(o: FitOptions, x: number[], y: number[], curve: CurveData): Fitted {
  const parameters = o.kind === 'line' ? 2 : o.kind === 'polynomial' ? o.degree + 1 : 3;
  if (x.length < parameters)
    throw new Error(`${x.length} places are too few for ${parameters} numbers. Take a longer stretch.`);
  if (o.kind === 'line') return line(x, y, curve);
  if (o.kind === 'polynomial') return polynomial(x, y, o.degree);
  return o.kind === 'exponential' ? exponential(x, y) : ofFormula(o.formula, x, y);
}

/** Slope and place by least squares, with the standard error of the slope (any textbook of statistics; from memory). */
function line(x: number[], y: number[], { along, up }: CurveData): Fitted {
  const n = x.length;
  const [mx, my] = [x, y].map((v) => v.reduce((a, b) => a + b, 0) / n);
  const sxx = x.reduce((s, v) => s + (v - mx) ** 2, 0);
  const sxy = x.reduce((s, v, i) => s + (v - mx) * (y[i] - my), 0);
  if (!(sxx > 0)) throw new Error('All of it stands at one place. Take a longer stretch.');
  const slope = sxy / sxx;
  const begin = my - slope * mx;
  const left = y.reduce((s, v, i) => s + (v - begin - slope * x[i]) ** 2, 0);
  const error = n > 2 ? Math.sqrt(left / (n - 2) / sxx) : 0;
  const unit = unitProduct([up.unit, 1], [along.unit, -1]);
  return {
    at: (v) => begin + slope * v,
    says: `Slope ${sayNumber(slope, 5)} ± ${sayNumber(error, 2)}${unit ? ` ${unit}` : ''}, ${sayNumber(begin, 5)}${up.unit ? ` ${up.unit}` : ''} at 0.`,
  };
}

/**
 * By polynomials that are orthogonal on the places, which stays exact where powers would not (Forsythe: Generation and use of
 * orthogonal polynomials for data-fitting with a digital computer, J. SIAM 5 (1957); from memory).
 */
function polynomial(x: number[], y: number[], degree: number): Fitted {
  const terms: { a: number; b: number; c: number }[] = [];
  let before = x.map(() => 0);
  let now = x.map(() => 1);
  let normBefore = 1;
  for (let k = 0; k <= degree; k++) {
    const norm = now.reduce((s, v) => s + v * v, 0);
    if (!(norm > 1e-300)) throw new Error('Too few different places for that degree. Take a lower one.');
    const c = now.reduce((s, v, i) => s + v * y[i], 0) / norm;
    const a = now.reduce((s, v, i) => s + x[i] * v * v, 0) / norm;
    const b = k === 0 ? 0 : norm / normBefore;
    terms.push({ a, b, c });
    const next = now.map((v, i) => (x[i] - a) * v - b * before[i]);
    [before, now, normBefore] = [now, next, norm];
  }
  const at = (v: number): number => {
    let [last, own, sum] = [0, 1, 0];
    for (const { a, b, c } of terms) {
      sum += c * own;
      [last, own] = [own, (v - a) * own - b * last];
    }
    return sum;
  };
  return { at, says: `A polynomial of degree ${degree}.` };
}

/** `a exp(b x) + c`, begun from how its slope changes. */
function exponential(x: number[], y: number[]): Fitted {
  const [first, last] = [0, x.length - 1];
  const span = x[last] - x[first] || 1;
  const middle = Math.floor(last / 2);
  const [d1, d2] = [y[middle] - y[first], y[last] - y[middle]];
  const ratio = d1 !== 0 && d2 / d1 > 0 ? d2 / d1 : 0.5;
  const b = (2 * Math.log(ratio)) / span || -1 / span;
  const a = (y[last] - y[first]) / (Math.exp(b * x[last]) - Math.exp(b * x[first])) || 1;
  const c = y[last] - a * Math.exp(b * x[last]);
  const found = least(
    x,
    y,
    [a, b, c],
    ([p0, p1, p2]) =>
      (v) =>
        p0 * Math.exp(p1 * v) + p2,
  );
  const [fa, fb, fc] = found;
  return {
    at: (v) => fa * Math.exp(fb * v) + fc,
    says: `${sayNumber(fa, 5)} exp(${sayNumber(fb, 5)} x) ${fc < 0 ? '−' : '+'} ${sayNumber(Math.abs(fc), 5)}.`,
  };
}

function parsed(formula: string): MathNode {
  try {
    return parse(formula);
  } catch (error) {
    throw new Error(`The formula is not understood: ${(error as Error).message}.`);
  }
}

function ofFormula(formula: string, x: number[], y: number[]): Fitted {
  const node = parsed(formula);
  const names = new Set<string>();
  node.traverse((one, path) => {
    if (isSymbolNode(one) && path !== 'fn') names.add(one.name);
  });
  for (const known of ['x', 'pi', 'e']) names.delete(known);
  const letters = [...names].sort();
  if (letters.length === 0)
    throw new Error('The formula has no letters to be found beside x, as in a * x + b.');
  const compiled = node.compile();
  const of = (values: readonly number[]) => {
    const scope: Record<string, number> = Object.fromEntries(letters.map((l, i) => [l, values[i]]));
    return (v: number): number => {
      scope.x = v;
      return Number(compiled.evaluate(scope));
    };
  };
  let made: readonly number[];
  try {
    made = least(
      x,
      y,
      letters.map(() => 1),
      of,
    );
  } catch (error) {
    throw new Error(`The formula cannot be fitted: ${(error as Error).message}.`);
  }
  return {
    at: of(made),
    says: letters
      .map((l, i) => `${l} = ${sayNumber(made[i], 5)}`)
      .join(', ')
      .concat('.'),
  };
}

/** The numbers for which the squares sum to the least, by the library. */
function least(
  x: number[],
  y: number[],
  initialValues: number[],
  of: (values: readonly number[]) => (x: number) => number,
): readonly number[] {
  const { parameterValues } = levenbergMarquardt({ x, y }, (values) => of(values), {
    initialValues,
    damping: 1e-2,
    maxIterations: 500,
    gradientDifference: initialValues.map((v) => 1e-6 * (Math.abs(v) || 1)),
    centralDifference: true,
    errorTolerance: 1e-14,
    improvementThreshold: 1e-12,
  });
  if (parameterValues.some((v) => !Number.isFinite(v)))
    throw new Error('it does not come near. Begin with a curve of another size');
  return parameterValues;
}

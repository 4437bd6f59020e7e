import type { MeshField } from '../../model/field.ts';
import type { RunDescription, RunField } from '../../model/run.ts';
import {
  fieldByName,
  formulaOn,
  kindOfField,
  madeKey,
  type NamedField,
  type NamedNumber,
  namesToKnow,
  ownKind,
  ownNames,
  unknownName,
} from '../condition.ts';
import { formulaName } from '../formula/expanded-formula.ts';
import { NotMeasured } from '../formula/formula-error.ts';
import { type Formula, FormulaError, parseFormula } from '../formula/parse-formula.ts';
import { setsOutOf } from '../formula/sets-in-sentences.ts';
import type { NameKind } from '../formula/typed-formula.ts';
import { setQuantity } from './part-set.ts';
import { madeField, type QuantityFinder, type QuantitySource } from './quantity-source.ts';

/** What a formula needs beside the quantities it is made from: which name stands for which of them. */
interface FormulaOptions {
  text: string;
  names: [name: string, of: number, unit: string | null][];
  numbers: Record<string, NamedNumber>;
  lengthUnit: string | null;
}

/** A formula and what its names stand for in a run. */
interface Understood {
  formula: Formula;
  fields: Map<string, RunField>;
  /** Of the run as a whole, by their names; null for those of each step. */
  numbers: Map<string, OfRun | null>;
  kind: NameKind;
  /** What is taken for granted because a unit is not known. */
  unsure?: string;
}

/** A number of the run, which may differ from step to step. */
interface OfRun {
  unit: string | null;
  components: number;
  at(step: number): NamedNumber['value'];
}

/** Letters of a sentence with the rules of its part sets; what is longer is not sent to be measured. */
const LONGEST_SENTENCE = 50_000;

/** @throws NotMeasured while it was not asked for, FormulaError where it has no answer at any step */
function measuredIn({ numbers = {} }: RunDescription, sentence: string): OfRun {
  const found = Object.hasOwn(numbers, sentence) ? numbers[sentence] : null;
  const plain = setsOutOf(sentence).sentence;
  if (sentence.length > LONGEST_SENTENCE)
    throw new FormulaError(
      `"${plain}" asks of a part set that lists too many cells. Make the set by a box, a range of values or a condition.`,
    );
  if (!found) throw new NotMeasured(`"${plain}" is not measured yet.`);
  const { unit, components, perStep, trouble } = found;
  if (trouble !== undefined) throw new FormulaError(`"${plain}" has no answer: ${trouble}`);
  const none = components === 1 ? Number.NaN : Array.from({ length: components }, () => Number.NaN);
  return { unit, components, at: (step) => perStep[step] ?? none };
}

/** Of the step that is looked at. */
const ofStep = ['time', 'step'];

const recent = new WeakMap<RunDescription, Map<string, Understood | FormulaError>>();

/** What a formula says in a run; made once for each. */
function understand(text: string, run: RunDescription, find: QuantityFinder): Understood | FormulaError {
  let known = recent.get(run);
  if (!known) recent.set(run, (known = new Map()));
  let found = known.get(text);
  if (found === undefined) {
    try {
      found = understoodIn(text, run, find);
    } catch (error) {
      if (!(error instanceof FormulaError)) throw error;
      found = error;
    }
    known.set(text, found);
  }
  return found;
}

/** @throws FormulaError for what is not understood there */
function understoodIn(text: string, run: RunDescription, find: QuantityFinder): Understood {
  const formula = parseFormula(text, namesToKnow(run.fields));
  const onParts = run.fields.filter((f) => !find.comesWithShapes(f.key));
  const fieldOf = (name: string): RunField | null => {
    const key = madeKey(name, formula, onParts);
    if (key !== null) return find.field(key, run);
    const set = run.sets.find((s) => s.name.toLowerCase() === name.toLowerCase());
    return fieldByName(name, onParts) ?? (set ? find.field(setQuantity(set.name), run) : null);
  };
  const numberOf = (name: string): OfRun | null | undefined => {
    if (ofStep.includes(name)) return null;
    const sentence = formula.measured.get(name);
    if (sentence !== undefined) return measuredIn(run, sentence);
    const value = Object.hasOwn(run.parameters, name) ? run.parameters[name] : undefined;
    return typeof value === 'number' ? { unit: null, components: 1, at: () => value } : undefined;
  };
  const isKnown = (name: string): boolean =>
    ownNames.includes(name) || fieldOf(name) !== null || numberOf(name) !== undefined;
  const fields = new Map<string, RunField>();
  const numbers = new Map<string, OfRun | null>();
  for (const name of formula.namesBeside(isKnown)) {
    if (ownNames.includes(name)) continue;
    const field = fieldOf(name);
    const number = field ? undefined : numberOf(name);
    if (field) fields.set(name, field);
    else if (number !== undefined) numbers.set(name, number);
    else if (formula.made.has(name)) {
      const lacking = find.lacking(madeKey(name, formula, onParts)!, run);
      if (lacking === null) throw new NotMeasured(`"${name}" is not known yet.`);
      throw new FormulaError(`"${name}" cannot be had: the run has no ${lacking}.`);
    } else
      throw new FormulaError(
        unknownName(name, formula, [
          ...onParts.map((f) => f.name),
          ...run.sets.map((s) => s.name),
          ...Object.keys(run.parameters),
          ...ofStep,
        ]),
      );
  }
  const { kind, unsure } = formula.typed((name): NameKind | null => {
    const field = fields.get(name);
    if (field) return kindOfField(field);
    if (name === 'time') return { components: 1, unit: run.timeUnit };
    const number = numbers.get(name);
    if (number !== undefined) return number ?? { components: 1, unit: '' };
    return ownKind(name, run.lengthUnit);
  });
  if (kind.components === 0) throw new FormulaError('This is a text; a quantity is made of numbers.');
  return { formula, fields, numbers, kind, ...(unsure && { unsure }) };
}

const locationOf = (of: readonly { location: MeshField['location'] }[]): MeshField['location'] =>
  of.some((f) => f.location === 'cell') ? 'cell' : 'point';

function firstOf<T, R>(list: readonly T[], of: (one: T) => R | null): R | null {
  for (const one of list) {
    const found = of(one);
    if (found !== null) return found;
  }
  return null;
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
    const known = understand(text, run, find);
    if (known instanceof FormulaError) return null;
    const { kind, unsure } = known;
    return madeField(run, {
      key: `${prefix}:${text}`,
      name: formulaName(text),
      location: locationOf([...known.fields.values()]),
      components: kind.components,
      unit: kind.unit,
      ...(unsure && { unsure }),
    });
  },
  lacking(text, _prefix, run, find) {
    const known = understand(text, run, find);
    if (known instanceof NotMeasured) return null;
    if (known instanceof FormulaError)
      return `quantity by the formula "${formulaName(text).slice(1, -1)}": ${known.message}`;
    for (const { key } of known.fields.values()) {
      const lacking = find.lacking(key, run);
      if (lacking) return lacking;
    }
    return null;
  },
  trouble(text, _prefix, run, find) {
    const known = understand(text, run, find);
    if (!(known instanceof FormulaError) || known instanceof NotMeasured) return null;
    return /[.!?]$/.test(known.message) ? known.message : `${known.message}.`;
  },
  absent({ step }, text, _prefix, at, find) {
    const known = understand(text, at.run, find);
    if (known instanceof FormulaError) return null;
    return firstOf([...known.fields.values()], ({ key }) => find.absent({ field: key, step }, at));
  },
  origin({ step }, text, _prefix, at, find) {
    const known = understand(text, at.run, find);
    if (known instanceof FormulaError) return null;
    const fields = [...known.fields];
    const of = fields.map(([, { key }]) => find.origin({ field: key, step }, at));
    if (of.some((o) => o === null)) return null;
    const made = of as NonNullable<(typeof of)[number]>[];
    const { lengthUnit, timeUnit, steps } = at.run;
    const now = step ?? at.step;
    const numbers = Object.fromEntries(
      [...known.numbers].map(([name, number]): [string, NamedNumber] => [
        name,
        number
          ? { value: number.at(now), unit: number.unit }
          : name === 'time'
            ? { value: steps[now].time, unit: timeUnit }
            : { value: now + 1, unit: '' },
      ]),
    );
    const options: FormulaOptions = {
      text,
      names: fields.map(([name, { unit }], i) => [name, i, unit]),
      numbers,
      lengthUnit,
    };
    const beside = known.numbers.size > 0 ? ` with ${JSON.stringify(numbers)}` : '';
    const id = `formula ${JSON.stringify(text)} of ${made.map((o) => o.id).join()} at ${at.part.name}${beside}`;
    const { components } = known.kind;
    const axial = components === 3 && made.length > 0 && made.every((o) => o.axial || o.components === 1);
    return {
      source: 'formula',
      id,
      location: locationOf(made),
      components,
      axial: axial && made.some((o) => o.axial),
      arrays: [],
      of: made,
      options,
    };
  },
  compute({ location, options }, { mesh, origin, part, of }) {
    const { text, names, numbers, lengthUnit } = options as FormulaOptions;
    const named = Object.fromEntries(
      names.map(([name, i, unit]): [string, NamedField] => [name, { need: { field: String(i) }, unit }]),
    );
    const input = { mesh, origin, part, field: (need: { field: string }) => of[Number(need.field)] ?? null };
    const on = location === 'cell' ? 'cells' : 'points';
    return formulaOn(input, text, named, on, { lengthUnit, numbers });
  },
};

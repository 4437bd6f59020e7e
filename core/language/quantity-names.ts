import type { Quantity } from '../model/quantity.ts';
import type { PhraseSetting } from './phrase.ts';
import type { Name, SentenceReader } from './sentence-reader.ts';

/** Everyday words for the length of a vector. */
const lengths = ['magnitude', 'length', 'size'];

/** What else the measures of a stress are called by the trade: `maximum principal stress` for `largest principal of stress`. */
const ofStress: Record<string, readonly string[]> = {
  'von Mises': ['von Mises', 'Mises', 'equivalent'],
  Tresca: ['Tresca'],
  'maximum shear': ['maximum shear', 'max shear'],
  'largest principal': ['largest principal', 'maximum principal', 'max principal', 'first principal'],
  'middle principal': ['middle principal', 'second principal'],
  'least principal': ['least principal', 'minimum principal', 'min principal', 'third principal'],
  'mean of normal parts': ['mean', 'hydrostatic'],
};

function stressNames(name: string): string[] {
  const [measure, own] = Object.keys(ofStress).flatMap((m) =>
    name.startsWith(`${m} of `) ? [m, name.slice(m.length + 4)] : [],
  );
  return measure === undefined ? [] : ofStress[measure].map((said) => `${said} ${own}`);
}

const known = new WeakMap<readonly Quantity[], Name<Quantity>[]>();

/**
 * Names a person may use for the quantities of a run: their own, their role where only one has it ("temperature" for
 * `T`), their beginning where only one begins so, and "velocity magnitude" for the length of a vector. The first of a
 * name is what it means.
 *
 * @param everyday false for their own names alone
 */
export function quantityNames(
  { quantities }: Pick<PhraseSetting, 'quantities'>,
  everyday = true,
): Name<Quantity>[] {
  if (!everyday) return quantities.map((value) => ({ text: value.name, value }));
  const found = known.get(quantities);
  if (found) return found;
  const out: Name<Quantity>[] = quantities.map((value) => ({ text: value.name, value }));
  const add = (text: string, value: Quantity, begun = false): void => {
    if (!out.some((n) => n.text.toLowerCase() === text.toLowerCase()))
      out.push({ text, value, ...(begun && { begun }) });
  };
  const whole = quantities.filter((q) => q.component === 'magnitude' || q.components === 1);
  for (const q of whole) {
    if (q.component !== 'magnitude') continue;
    for (const word of lengths) {
      add(`${q.name} ${word}`, q);
      add(`${word} of ${q.name}`, q);
    }
    if (/^velocity$/i.test(q.name) || q.role === 'velocity') add('speed', q);
  }
  for (const q of whole) for (const name of stressNames(q.name)) add(name, q);
  const flow = whole.find((q) => q.role === 'velocity');
  const turning = flow && whole.find((q) => q.field === `curl:${flow.field}`);
  if (turning) add('vorticity', turning);
  for (const q of whole) {
    if (q.role === 'other' || whole.filter((w) => w.role === q.role).length > 1) continue;
    add(q.role, q);
    if (q.component === 'magnitude') for (const word of lengths) add(`${q.role} ${word}`, q);
  }
  for (const q of whole)
    for (let n = 4; n < q.name.length; n++) {
      const beginning = q.name.slice(0, n);
      if (whole.filter((w) => w.name.toLowerCase().startsWith(beginning.toLowerCase())).length === 1)
        add(beginning.trim(), q, true);
    }
  known.set(quantities, out);
  return out;
}

/** Says of a quantity that the run lacks, and that could be computed, how; it is not read. */
export function refuseLacking(reader: SentenceReader, { computable = [] }: PhraseSetting): false {
  const begin = reader.at;
  for (const { name, formula } of computable) {
    if (!reader.words(name)) continue;
    reader.refuse(
      begin,
      `the run has no ${name}; it can be computed: make it a quantity of your own, ${name} = ${formula}`,
      [],
    );
    reader.at = begin;
    return false;
  }
  return false;
}

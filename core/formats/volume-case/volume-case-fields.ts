import type { NumberArray } from '../../model/arrays.ts';
import { byName } from '../../model/by-name.ts';
import type { FieldHeader } from '../../model/field.ts';
import { ReadError } from '../../model/read-error.ts';
import type { ByteSource } from '../bytes/byte-source.ts';
import { CaseText } from './volume-case-text.ts';

/** Numbers of each value by the class of a field file, and where its values stand. */
export const fieldClasses: Record<string, Pick<FieldHeader, 'components' | 'location' | 'tensor'>> = byName({
  volScalarField: { components: 1, location: 'cell' },
  volVectorField: { components: 3, location: 'cell' },
  volSphericalTensorField: { components: 1, location: 'cell' },
  volSymmTensorField: { components: 6, location: 'cell', tensor: true },
  volTensorField: { components: 9, location: 'cell' },
  pointScalarField: { components: 1, location: 'point' },
  pointVectorField: { components: 3, location: 'point' },
  pointSymmTensorField: { components: 6, location: 'point', tensor: true },
});

/** Values of a field: of the cells, and of the faces of each patch that states them. */
export interface CaseField {
  components: number;
  unit: string | null;
  internal: NumberArray | Float64Array;
  /** One value for all, or one for each. */
  uniform: boolean;
  patches: Map<string, { values: NumberArray; uniform: boolean }>;
}

const baseUnits = ['kg', 'm', 's', 'K', 'mol', 'A', 'cd'];

/** A unit from the exponents of kg, m, s, K, mol, A and cd; null for plain numbers. */
export function unitOfDimensions(exponents: number[]): string | null {
  const named: Record<string, string> = {
    '1,-1,-2,0,0,0,0': 'Pa',
    '1,1,-2,0,0,0,0': 'N',
    '1,2,-2,0,0,0,0': 'J',
    '1,2,-3,0,0,0,0': 'W',
    '1,0,-3,0,0,0,0': 'W/m²',
  };
  const whole = baseUnits.map((_, i) => exponents[i] ?? 0);
  if (whole.every((e) => e === 0)) return null;
  const known = named[whole.join()];
  if (known) return known;
  const power = (unit: string, e: number): string =>
    e === 1 ? unit : e === 2 ? `${unit}²` : e === 3 ? `${unit}³` : `${unit}^${e}`;
  const above = baseUnits.flatMap((u, i) => (whole[i] > 0 ? [power(u, whole[i])] : []));
  const below = baseUnits.flatMap((u, i) => (whole[i] < 0 ? [power(u, -whole[i])] : []));
  const top = above.join(' ') || '1';
  return below.length === 0 ? top : `${top}/${below.length > 1 ? `(${below.join(' ')})` : below[0]}`;
}

/**
 * Reads a field file.
 *
 * @throws ReadError when it is damaged
 */
export function readCaseField(source: ByteSource, where: string): CaseField {
  const text = new CaseText(source, where);
  const kind = fieldClasses[text.header.class];
  if (!kind) throw new ReadError(`files of class ${text.header.class} are no fields`, where, 'Leave it out.');
  const out: CaseField = {
    components: kind.components,
    unit: null,
    internal: new Float64Array(0),
    uniform: true,
    patches: new Map(),
  };
  for (let word = text.word(); word !== ''; word = text.word()) {
    if (word === 'dimensions') {
      text.expect('[');
      const exponents: number[] = [];
      for (let w = text.word(); w !== ']' && w !== ''; w = text.word()) exponents.push(Number(w));
      out.unit = unitOfDimensions(exponents);
      text.expect(';');
    } else if (word === 'internalField') {
      const { values, uniform } = readValues(text, kind.components);
      out.internal = values;
      out.uniform = uniform;
    } else if (word === 'boundaryField') readBoundary(text, kind.components, out);
    else text.skipEntry();
  }
  return out;
}

/** Tensors of six are written xx xy xz yy yz zz here; they are kept as xx yy zz xy yz xz, as everywhere. */
const FROM_ROWS = [0, 3, 5, 1, 4, 2];

function readValues(text: CaseText, components: number): { values: NumberArray; uniform: boolean } {
  const read = readAsWritten(text, components);
  if (components !== 6) return read;
  const values = new Float64Array(read.values.length);
  for (let i = 0; i < values.length; i++) values[i] = read.values[i - (i % 6) + FROM_ROWS[i % 6]];
  return { ...read, values };
}

function readAsWritten(text: CaseText, components: number): { values: NumberArray; uniform: boolean } {
  const word = text.word();
  if (word === 'uniform') {
    const values = text.plain(components);
    text.closeTuple();
    text.expect(';');
    return { values, uniform: true };
  }
  // nonuniform List<vector> 12 ( ... );
  if (word === 'nonuniform' && !/^\d+$/.test(text.peek())) text.word();
  const count = text.count();
  const values = text.peek() === ';' ? new Float64Array(0) : text.numbers(count, components, 'scalar');
  text.expect(';');
  return { values, uniform: false };
}

function readBoundary(text: CaseText, components: number, out: CaseField): void {
  text.expect('{');
  for (let patch = text.word(); patch !== '}' && patch !== ''; patch = text.word()) {
    text.expect('{');
    for (let key = text.word(); key !== '}' && key !== ''; key = text.word()) {
      if (key === 'value') out.patches.set(patch, readValues(text, components));
      else text.skipEntry();
    }
  }
}

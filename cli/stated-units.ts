import type { ImportChoices } from '#core/model/run.ts';

/** A unit stated on the command line: `time=s`, `length=mm`, or that of a quantity by its name. */
export interface StatedUnit {
  of: string;
  unit: string;
}

/** @returns null for what does not say of what it is the unit */
export function readUnit(text: string): StatedUnit | null {
  const at = text.indexOf('=');
  const [of, unit] = [text.slice(0, at).trim(), text.slice(at + 1).trim()];
  return at < 1 || of === '' || unit === '' || unit.length > 40 ? null : { of, unit };
}

/**
 * What units mean for a run that is brought in. A quantity that is called like them counts more than time and length.
 *
 * @param fields keys of the quantities of the run and what they are called
 * @throws a problem with its remedy where nothing is called so
 */
export function choicesOfUnits(
  stated: readonly StatedUnit[],
  fields: readonly { key: string; name: string }[],
): Pick<ImportChoices, 'timeUnit' | 'lengthUnit' | 'units'> {
  const made: Pick<ImportChoices, 'timeUnit' | 'lengthUnit' | 'units'> = {};
  for (const { of, unit } of stated) {
    const called = fields.filter(({ name }) => name === of);
    if (called.length > 0)
      made.units = { ...made.units, ...Object.fromEntries(called.map(({ key }) => [key, unit])) };
    else if (of === 'time') made.timeUnit = unit;
    else if (of === 'length') made.lengthUnit = unit;
    else
      throw {
        reason: `the run has no quantity "${of}"`,
        where: '--units',
        remedy: `Give the unit of one of these: time, length, ${[...new Set(fields.map(({ name }) => name))].join(', ')}.`,
      };
  }
  return made;
}

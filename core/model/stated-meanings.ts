import { missingNotes } from './missing-notes.ts';
import { ReadError } from './read-error.ts';
import { type FieldRole, fieldRoles } from './roles.ts';
import type { RunDescription, RunField } from './run.ts';
import { z } from './schema.ts';

const unit = z.string().trim().max(40).nullable();

export const statedSchema = z.object({
  name: z.string().trim().min(1).max(200).optional(),
  lengthUnit: unit.optional(),
  timeUnit: unit.optional(),
  /** By the key of the field, which stays: scenes find it under any name. */
  fields: z
    .record(
      z.string(),
      z.object({
        name: z.string().trim().min(1).max(200).optional(),
        unit: unit.optional(),
        role: z.enum(fieldRoles).optional(),
      }),
    )
    .optional(),
});

/** What a person says of a run that its files do not, or say otherwise: names, units, and what fields mean. */
export type StatedMeanings = z.infer<typeof statedSchema>;

/**
 * A run with what was said of it. Numbers stay as they are; a unit only names what they are in.
 *
 * @throws ReadError for a field the run does not have, and for a name another field of its kind has
 */
export function withMeanings(run: RunDescription, stated: StatedMeanings): RunDescription {
  const { fields: said = {}, ...whole } = stated;
  for (const key of Object.keys(said))
    if (!run.fields.some((f) => f.key === key))
      throw new ReadError(`the run has no field "${key}"`, run.name, 'Load the page anew.');
  const fields = run.fields.map((f) => (Object.hasOwn(said, f.key) ? { ...f, ...said[f.key] } : f));
  const twin = fields.find((f, i) => fields.slice(0, i).some((g) => sameName(f, g)));
  if (twin)
    throw new ReadError(
      `two fields on ${twin.location}s would be called ${twin.name}`,
      run.name,
      'Choose another name.',
    );
  const source = run.source && {
    ...run.source,
    choices: { ...run.source.choices, units: { ...run.source.choices.units, ...unitsOf(said) } },
  };
  const out = { ...run, ...whole, fields, source };
  return { ...out, notes: missingNotes(out) };
}

const sameName = (a: RunField, b: RunField): boolean =>
  a.location === b.location && a.name.toLowerCase() === b.name.toLowerCase();

/** Read again, the fields keep the units that were said. */
const unitsOf = (
  said: Record<string, { unit?: string | null; role?: FieldRole }>,
): Record<string, string | null> =>
  Object.fromEntries(
    Object.entries(said).flatMap(([key, f]) => (f.unit === undefined ? [] : [[key, f.unit]])),
  );

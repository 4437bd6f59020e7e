import type { Component } from '../model/quantity.ts';
import { quantityStatistics } from '../model/quantity.ts';
import type { FieldRole } from '../model/roles.ts';
import type { RunDescription, RunField } from '../model/run.ts';
import { isUsual } from './quantity-sources.ts';
import { swingingKey } from './sources/complex-part.ts';

const preferred: FieldRole[] = ['temperature', 'stress', 'velocity', 'displacement', 'pressure', 'density'];

/** Columns of a table that say where its points are. Common practice, no source. */
const COORDINATE = /^(?:[xyz]|(?:coord|pos|position|points?)[:_. ]*[xyz012])$/i;

/** The field a newcomer most likely wants to see: one that varies, by role, points before cells. */
export function sensibleField(run: RunDescription): { field: RunField; component: Component } | null {
  const candidates = run.fields
    .filter((f) => f.role !== 'identifier' && isUsual(f.key))
    .map((field) => ({ field, component: naturalComponent(field) }))
    .filter(({ field, component }) => {
      const stats = quantityStatistics(field, component, null);
      return stats !== null && stats.max > stats.min;
    });
  const rank = ({ field }: { field: RunField }): number => {
    const role = preferred.indexOf(field.role);
    const tensor = field.components > 3 ? 20 : 0;
    const place = COORDINATE.test(field.name) ? 40 : 0;
    return (role < 0 ? preferred.length : role) * 2 + (field.location === 'cell' ? 1 : 0) + tensor + place;
  };
  candidates.sort((a, b) => rank(a) - rank(b));
  const [found] = candidates;
  // Half of a complex quantity is not what is there at any moment.
  const swinging = found?.field.pair && run.fields.find((f) => f.key === swingingKey(found.field.key));
  return swinging ? { ...found, field: swinging } : (found ?? null);
}

export const naturalComponent = (field: Pick<RunField, 'components'>): Component =>
  field.components === 2 || field.components === 3 ? 'magnitude' : 0;

import type { MapRole } from '../colour/maps/colour-map.ts';
import { mapsFor } from '../colour/maps/registry.ts';
import { type Component, quantityStatistics } from '../model/quantity.ts';
import type { FieldRole } from '../model/roles.ts';
import type { RunField } from '../model/run.ts';

type Named = Pick<RunField, 'name' | 'role'> &
  Partial<Pick<RunField, 'pair' | 'overall' | 'perStep' | 'components'>>;

const byRole: Partial<Record<FieldRole, MapRole>> = {
  temperature: 'temperature',
  velocity: 'speed',
  'relative velocity': 'speed',
  pressure: 'pressure',
  stress: 'stress',
  strain: 'stress',
  density: 'density',
  fraction: 'fraction',
  identifier: 'id',
};

/** What names say of a quantity that has no other role. Common practice, no source. */
const byName: [RegExp, MapRole][] = [
  [/salin|salt/i, 'salt'],
  [/oxygen|\bo2\b/i, 'oxygen'],
  [/bathym|depth/i, 'depth'],
  [/elevation|altitude|height|topograph/i, 'height'],
  [/rain|precipit|humid|moist|wet/i, 'rain'],
  [/phase|azimuth|heading|direction|angle/i, 'phase'],
];

/** Both signs with neither much stronger: less than this many times. */
const BALANCED = 4;

/** What a map for a quantity has to suit; null where nothing is known. */
export function roleOfMap(field: Named, component: Component): MapRole | null {
  if (field.role === 'identifier') return 'id';
  if (field.pair?.half === 'phase') return 'phase';
  const named = byName.find(([pattern]) => pattern.test(field.name))?.[1] ?? null;
  if (field.role === 'other' && named) return named;
  if (isSigned(field, component)) return 'signed';
  return byRole[field.role] ?? named;
}

/** Components of vectors and waves go both ways from zero; a pressure below zero somewhere need not. */
function isSigned(field: Named, component: Component): boolean {
  if (field.role === 'temperature' || component === 'magnitude' || !field.overall || !field.perStep)
    return false;
  const stats = quantityStatistics(field as RunField, component, null);
  if (!stats || !(stats.min < 0 && stats.max > 0)) return false;
  const [small, large] = [-stats.min, stats.max].sort((a, b) => a - b);
  return large < BALANCED * small;
}

/** The map a new scale of a quantity begins with. */
export function mapForQuantity(field: Named, component: Component): string {
  const role = roleOfMap(field, component);
  if (role === 'pressure') return 'viridis';
  return (role && mapsFor(role)[0]?.id) ?? 'viridis';
}

import type { MapRole } from '../colour/maps/colour-map.ts';
import { mapsFor } from '../colour/maps/registry.ts';
import { followsCycle } from '../fields/quantity-sources.ts';
import { type Component, quantityStatistics } from '../model/quantity.ts';
import type { FieldRole } from '../model/roles.ts';
import type { RunField } from '../model/run.ts';
import { MOST_CATEGORIES, type Scale } from './things/scale.ts';

type Named = Pick<RunField, 'name' | 'role'> &
  Partial<Pick<RunField, 'key' | 'names' | 'pair' | 'overall' | 'perStep' | 'components'>>;

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
  if (field.key && component !== 'magnitude' && followsCycle(field.key)) return 'signed';
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

/** More than these would not be told apart by their colours. */
const MOST_NAMES = 24;

/** Numbers that stand for something, each by itself; null where a quantity is measured, or has too many of them. */
export function namesOfValues(field: Named, component: Component): Scale['categories'] {
  if (field.names)
    return field.names.slice(0, MOST_CATEGORIES).map(({ value, name }) => ({ value, name, colour: null }));
  if (field.role !== 'identifier' || !field.overall || !field.perStep) return null;
  const stats = quantityStatistics(field as RunField, component, null);
  if (!stats || !Number.isInteger(stats.min) || !Number.isInteger(stats.max)) return null;
  const count = stats.max - stats.min + 1;
  if (!(count >= 1 && count <= MOST_NAMES)) return null;
  return Array.from({ length: count }, (_, i) => {
    const value = stats.min + i;
    return { value, name: String(value), colour: null };
  });
}

/** The map a new scale of a quantity begins with. */
export function mapForQuantity(field: Named, component: Component): string {
  const role = roleOfMap(field, component);
  // Too many numbers to tell them apart by colours of their own.
  if (role === 'pressure' || (role === 'id' && !namesOfValues(field, component))) return 'viridis';
  return (role && mapsFor(role)[0]?.id) ?? 'viridis';
}

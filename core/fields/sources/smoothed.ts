import { nameWithoutUnit } from '../../model/quantity.ts';
import { replayAll } from '../../model/recipe.ts';
import type { RunDescription, RunField } from '../../model/run.ts';
import { cellsToPoints, pointsToCells } from '../averages.ts';
import { madeField, type QuantitySource } from './quantity-source.ts';

const PREFIX = 'smooth';

function fieldOf(run: RunDescription, inner: RunField | null): RunField | null {
  if (!inner) return null;
  const { location, components, unit } = inner;
  const name = `smoothed ${nameWithoutUnit(inner.name)}`;
  return madeField(run, { key: `${PREFIX}:${inner.key}`, name, location, components, unit });
}

/**
 * Quantities in which each place has the mean of what lies around it: points that of the cells around them, which have that of
 * their points, and cells the other way round. What is the same everywhere stays.
 */
export const smoothed: QuantitySource = {
  id: 'smoothed',
  prefixes: [PREFIX],
  usual: false,
  changes: true,
  needsMesh: true,
  offers: () => [],
  field: (name, _prefix, run, find) => fieldOf(run, find.field(name, run)),
  lacking: (name, _prefix, run, find) => find.lacking(name, run),
  origin({ step }, name, _prefix, at, find) {
    const inner = find.origin({ field: name, step }, at);
    if (!inner) return null;
    const { location, components, axial } = inner;
    const id = `${PREFIX} ${inner.id}`;
    return { source: 'smoothed', id, location, components, axial, arrays: [], of: [inner] };
  },
  compute({ components }, { mesh, of: [{ data, location }] }) {
    const onward = [pointsToCells(mesh), cellsToPoints(mesh)];
    const ways = location === 'point' ? onward : onward.reverse();
    return ways.reduce<ArrayLike<number>>((values, way) => replayAll(way, values, components), data);
  },
};

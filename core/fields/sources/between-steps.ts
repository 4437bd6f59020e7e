import { joinBounds } from '../../model/mesh.ts';
import { mixedArrays } from '../../model/moment.ts';
import type { PartStep, RunPart, StoredMesh } from '../../model/run.ts';
import type { FieldOrigin, QuantitySource } from './quantity-source.ts';

/** What tells the cells of a mesh from others, wherever their points are. */
const cellsOf = ({ types, offsets, connectivity, faces }: StoredMesh): string =>
  [types, offsets, connectivity, faces].map((a) => a?.hash ?? '').join();

/** Keys of fields that say which point is which, as particles and atoms have them. Common practice, no source. */
const NUMBERS_OF_POINTS = /:(?:\w*[ _-])?ids?$/i;

/** Whether points are the same at two steps, one by one, as far as their numbers tell. */
const sameOrder = (here: PartStep, next: PartStep): boolean =>
  Object.entries(here.fields).every(
    ([key, { hash }]) => !NUMBERS_OF_POINTS.test(key) || next.fields[key]?.hash === hash,
  );

/** Whether a part has the same points and cells at a step and the next, one by one: what lies between them has meaning then. */
export function sameCells(part: RunPart, step: number): boolean {
  const [here, next] = [part.steps[step], part.steps[step + 1]];
  if (!here || !next) return false;
  const [a, b] = [part.meshes[here.mesh], part.meshes[next.mesh]];
  return sameOrder(here, next) && (a === b || (a.pointCount === b.pointCount && cellsOf(a) === cellsOf(b)));
}

/**
 * The mesh of a part on the way from a step to the next: its points go straight from the one to the other. Where the next step has
 * other cells, or none, the part stays as it is.
 *
 * @param onward share of the way, from 0 to below 1
 */
export function meshOnward(part: RunPart, step: number, onward: number): StoredMesh {
  const here = part.meshes[part.steps[step]!.mesh];
  if (onward === 0 || !sameCells(part, step)) return here;
  const next = part.meshes[part.steps[step + 1]!.mesh];
  if (next === here || next.points.hash === here.points.hash) return here;
  const bounds = joinBounds(here.bounds, next.bounds);
  return { ...here, bounds, towards: { points: next.points, share: onward } };
}

/** Numbers on the way from a step to the next: they go straight from what they are at the one to what they are at the other. */
export function originBetween(here: FieldOrigin, next: FieldOrigin, onward: number): FieldOrigin {
  const { location, components, axial } = here;
  return {
    source: betweenSteps.id,
    id: `${here.id} to ${next.id} by ${onward}`,
    location,
    components,
    axial,
    arrays: [],
    of: [here, next],
    options: onward,
  };
}

/** Has no keys of its own: any quantity of the files becomes one between two steps. */
export const betweenSteps: QuantitySource = {
  id: 'between steps',
  prefixes: [],
  usual: false,
  changes: true,
  needsMesh: false,
  offers: () => [],
  field: () => null,
  lacking: () => null,
  origin: () => null,
  compute: ({ options }, { of: [here, next] }) => mixedArrays(here.data, next.data, options as number),
};

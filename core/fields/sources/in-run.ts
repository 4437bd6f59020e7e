import { buildBlocks } from '../../model/blocks.ts';
import type { MeshField } from '../../model/field.ts';
import { cellCount, type Mesh } from '../../model/mesh.ts';
import { nameWithoutUnit } from '../../model/quantity.ts';
import { replayAll } from '../../model/recipe.ts';
import { arraysOfMesh, type RunDescription, type RunPart, type StoredMesh } from '../../model/run.ts';
import { convertUnit } from '../../model/units.ts';
import { pointsToCells } from '../averages.ts';
import { CellFinder } from '../places/cell-finder.ts';
import { madeField, type QuantityFinder, type QuantitySource } from './quantity-source.ts';

/** How places here become places there: times a factor, plus a shift. */
interface Placed {
  factor: number;
  shift: [number, number, number];
}

interface InRunOptions {
  /** How much each of the quantities it is made of counts, for a time between two steps. */
  weights: number[];
  /** Null where both lie on one mesh, number by number. */
  placed: Placed | null;
}

/** The name of the run, and the key there: `in-run:fan%20slow:point:T`. */
function readRest(rest: string): { run: string; key: string } {
  const colon = rest.indexOf(':');
  return { run: decodeURIComponent(rest.slice(0, colon)), key: rest.slice(colon + 1) };
}

function otherRun(name: string, { others = {} }: RunDescription): RunDescription | null {
  const found = Object.hasOwn(others, name) ? others[name] : null;
  return found && !('trouble' in found) ? found : null;
}

function lackingIn(rest: string, { others = {} }: RunDescription, find: QuantityFinder): string | null {
  const { run: name, key } = readRest(rest);
  const found = Object.hasOwn(others, name) ? others[name] : null;
  // It is not opened yet.
  if (!found) return null;
  if ('trouble' in found) return `view of the run "${name}": ${found.trouble}`;
  const lacking = find.lacking(key, found);
  return lacking && `match in the run "${name}", which has no ${lacking}`;
}

/** Steps of another run at the time of a step here, with how much each counts; null where it has none at that time. */
function stepsAt(
  here: RunDescription,
  step: number,
  there: RunDescription,
): { step: number; weight: number }[] | null {
  if (there.steps.length === 1) return [{ step: 0, weight: 1 }];
  const own = here.steps[step];
  const overTime = [own, ...there.steps].every((s) => s.kind === 'time');
  if (!overTime || here.steps.length === 1) return step < there.steps.length ? [{ step, weight: 1 }] : null;
  const units = here.timeUnit && there.timeUnit && convertUnit(own.time, here.timeUnit, there.timeUnit);
  const time = typeof units === 'number' ? units : own.time;
  const times = there.steps.map((s) => s.time);
  const slack = 1e-6 * Math.abs(times.at(-1)! - times[0]);
  const same = times.findIndex((t) => Math.abs(t - time) <= slack);
  if (same >= 0) return [{ step: same, weight: 1 }];
  const next = times.findIndex((t) => t > time);
  if (next <= 0) return null;
  const share = (time - times[next - 1]) / (times[next] - times[next - 1]);
  return [
    { step: next - 1, weight: 1 - share },
    { step: next, weight: share },
  ];
}

/** Where it ends: `at 5 s: it goes from 0 s to 3 s`. */
function beyond(here: RunDescription, step: number, there: RunDescription): string {
  const [first, last] = [there.steps[0], there.steps.at(-1)!];
  const own = here.steps[step];
  const said = (time: number, unit: string | null): string =>
    `${Number(time.toPrecision(4))}${unit ? ` ${unit}` : ''}`;
  return [own, first, last].every((s) => s.kind === 'time')
    ? `at ${said(own.time, here.timeUnit)}: it goes from ${said(first.time, there.timeUnit)} to ${said(last.time, there.timeUnit)}`
    : `at step ${step + 1}: it has ${there.steps.length} steps`;
}

/** The part of the same name; of a run that is one part that one. */
const partThere = ({ name }: RunPart, { parts }: RunDescription): RunPart | undefined =>
  parts.find((p) => p.name === name) ?? (parts.length === 1 ? parts[0] : undefined);

const nameOfMesh = (mesh: StoredMesh): string =>
  arraysOfMesh(mesh)
    .map((a) => a.hash)
    .join();

function placedIn(here: RunDescription, there: RunDescription): Placed {
  const units = here.lengthUnit && there.lengthUnit;
  const factor = (units && convertUnit(1, here.lengthUnit!, there.lengthUnit!)) || 1;
  return {
    factor,
    shift: [0, 1, 2].map((k) => factor * here.origin[k] - there.origin[k]) as Placed['shift'],
  };
}

/**
 * Quantities as another run has them, at the same places and the same time: number by number where both have the same mesh, else
 * as they run within the cells there. Places outside of it have no value. Between two steps there it goes straight.
 */
export const inRun: QuantitySource = {
  id: 'in run',
  prefixes: ['in-run'],
  usual: false,
  changes: true,
  betweenSteps: true,
  needsMesh: true,
  offers: () => [],
  field(rest, prefix, run, find) {
    const { run: name, key } = readRest(rest);
    const other = otherRun(name, run);
    const inner = other && find.field(key, other);
    if (!inner) return null;
    const { location, components, unit } = inner;
    const said = `${nameWithoutUnit(inner.name)} in ${name}`;
    return madeField(run, { key: `${prefix}:${rest}`, name: said, location, components, unit });
  },
  lacking: (rest, _prefix, run, find) => lackingIn(rest, run, find),
  absent({ step }, rest, _prefix, at, find) {
    const { run: name, key } = readRest(rest);
    const other = otherRun(name, at.run);
    if (!other) return null;
    const now = step ?? at.step;
    const part = partThere(at.part, other);
    if (!part) return `The run “${name}” has no part “${at.part.name}”.`;
    const steps = stepsAt(at.run, now, other);
    if (!steps) return `The run “${name}” has nothing ${beyond(at.run, now, other)}.`;
    if (new Set(steps.map((s) => part.steps[s.step]?.mesh)).size > 1)
      return `The mesh of the run “${name}” changes around this step: there is nothing between two meshes.`;
    return find.absent({ field: key }, { run: other, part, step: steps[0].step });
  },
  origin({ step }, rest, _prefix, at, find) {
    const { run: name, key } = readRest(rest);
    const other = otherRun(name, at.run);
    const part = other && partThere(at.part, other);
    const now = step ?? at.step;
    const steps = other && stepsAt(at.run, now, other);
    if (!other || !part || !steps) return null;
    const of = steps.map((s) => find.origin({ field: key }, { run: other, part, step: s.step }));
    const shown = at.part.steps[now];
    const [first] = of;
    if (!first || of.some((o) => o === null) || !shown) return null;
    const mesh = part.meshes[part.steps[steps[0].step]!.mesh];
    // A mesh that changes between two steps has no value between them.
    if (steps.some((s) => part.meshes[part.steps[s.step]!.mesh] !== mesh)) return null;
    const { location, components, axial } = first;
    const placed = placedIn(at.run, other);
    const same =
      nameOfMesh(mesh) === nameOfMesh(at.part.meshes[shown.mesh]) &&
      placed.factor === 1 &&
      placed.shift.every((v) => v === 0);
    const weights = steps.map((s) => s.weight);
    const options: InRunOptions = { weights, placed: same ? null : placed };
    const beside = same ? '' : ` on ${nameOfMesh(mesh)} ${JSON.stringify(placed)}`;
    return {
      source: 'in run',
      id: `there ${of.map((o) => o!.id).join()} by ${weights.join()}${beside}`,
      location,
      components,
      axial,
      arrays: [],
      of: of as NonNullable<(typeof of)[number]>[],
      meshes: same ? [] : [mesh],
      elsewhere: { part: part.name, origin: other.origin, mesh },
      options,
    };
  },
  compute({ options, components }, { mesh, of, meshes: [other] }) {
    const { weights, placed } = options as InRunOptions;
    const values = mixed(of, weights);
    if (!placed) return values;
    const ofCells = of[0].location === 'cell';
    const at = ofCells ? replayAll(pointsToCells(mesh), mesh.points, 3) : mesh.points;
    return valuesAt(at, placed, other, values, components, ofCells);
  },
};

function mixed(of: readonly MeshField[], weights: readonly number[]): ArrayLike<number> {
  if (of.length === 1) return of[0].data;
  return Float32Array.from(of[0].data, (_, i) => weights.reduce((sum, w, k) => sum + w * of[k].data[i], 0));
}

function valuesAt(
  at: ArrayLike<number>,
  { factor, shift }: Placed,
  other: Mesh,
  values: ArrayLike<number>,
  components: number,
  ofCells: boolean,
): Float32Array {
  const n = at.length / 3;
  const out = new Float32Array(components * n).fill(Number.NaN);
  if (cellCount(other) === 0) return out;
  const finder = new CellFinder(other, buildBlocks(other));
  for (let i = 0; i < n; i++) {
    const [x, y, z] = [0, 1, 2].map((k) => factor * at[3 * i + k] + shift[k]);
    if (!finder.find(x, y, z)) continue;
    for (let k = 0; k < components; k++) {
      if (ofCells) {
        out[components * i + k] = values[components * finder.cell + k];
        continue;
      }
      out[components * i + k] = finder.between(values, components, k);
    }
  }
  return out;
}

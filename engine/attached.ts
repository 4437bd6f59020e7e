import type { MeshField } from '#core/model/field.ts';
import type { Mesh } from '#core/model/mesh.ts';
import type { Component } from '#core/model/quantity.ts';
import { type Gather, outputCount, replay } from '#core/model/recipe.ts';
import type { Vector } from '#core/model/vectors.ts';
import type { MadeMark } from '#core/ops/chain/marks.ts';
import type { Attachment, Found } from '#core/scene/annotations/attachment.ts';

/** What an attachment leads to in one part of one layer, or in its parts together. */
export interface FoundInPart extends Found {
  /** Whether it is drawn, so that it goes where what is drawn goes. */
  drawn: boolean;
}

/** What is looked into. */
export interface AttachedIn {
  /** One after the other, as their meshes are joined. */
  parts: readonly { part: string; points: number; cells: number }[];
  origin: readonly number[];
  marks: readonly MadeMark[];
  mesh(): Promise<Mesh>;
  /** Values of a field; null where the parts lack it. */
  values(field: string): Promise<MeshField | null>;
}

/** A point or cell of the parts together. */
interface Element {
  location: 'point' | 'cell';
  index: number;
}

/**
 * Where an attachment leads to, with the values that are wanted there; null where there is nothing of it. A place is that
 * of what is drawn, so that it follows deformed shapes; what is not drawn is where the files have it.
 */
export async function findAttached(attachment: Attachment, within: AttachedIn): Promise<FoundInPart | null> {
  switch (attachment.kind) {
    case 'node':
    case 'cell': {
      const location = attachment.kind === 'node' ? 'point' : 'cell';
      const index = indexTogether(within, location, attachment.part, attachment.index);
      return index === null ? null : elementFound({ location, index }, attachment.values, within);
    }
    case 'lowest':
    case 'highest':
      return attachment.among === 'all' ? extremeOfAll(attachment, within) : extremeDrawn(attachment, within);
    default:
      return null;
  }
}

type Extreme = Extract<Attachment, { kind: 'lowest' | 'highest' }>;

const countOf = (part: AttachedIn['parts'][number], location: Element['location']): number =>
  location === 'point' ? part.points : part.cells;

function indexTogether(
  { parts }: AttachedIn,
  location: Element['location'],
  name: string,
  index: number,
): number | null {
  let before = 0;
  for (const part of parts) {
    const count = countOf(part, location);
    if (part.part === name) return index < count ? before + index : null;
    before += count;
  }
  return null;
}

function partOf(
  { parts }: Pick<AttachedIn, 'parts'>,
  { location, index }: Element,
): { part: string; index: number } {
  let own = index;
  for (const part of parts) {
    const count = countOf(part, location);
    if (own < count) return { part: part.part, index: own };
    own -= count;
  }
  return { part: parts.at(-1)?.part ?? '', index: own };
}

async function elementFound(
  element: Element,
  wanted: readonly { field: string; component: Component }[],
  within: AttachedIn,
): Promise<FoundInPart> {
  const drawnAt = placeDrawn(element, within.marks);
  const place = drawnAt ?? (await placeStored(element, within));
  const values = await Promise.all(
    wanted.map(async ({ field, component }) => {
      const found = await within.values(field);
      if (!found) return Number.NaN;
      if (found.location === element.location) return valueAt(found, component, element.index);
      if (element.location === 'point') return Number.NaN;
      // Of a cell, the mean of its points.
      const points = pointsOf(await within.mesh(), element.index);
      return points.reduce((sum, p) => sum + valueAt(found, component, p), 0) / points.length;
    }),
  );
  return {
    ...partOf(within, element),
    place: place.map((v, k) => v + within.origin[k]) as Vector,
    values,
    drawn: drawnAt !== null,
  };
}

const valueAt = ({ data, components }: MeshField, component: Component, i: number): number =>
  component === 'magnitude'
    ? Math.hypot(...Array.from({ length: components }, (_, k) => data[i * components + k]))
    : data[i * components + component];

const pointsOf = ({ offsets, connectivity }: Mesh, cell: number): number[] =>
  Array.from(connectivity.subarray(offsets[cell], offsets[cell + 1]));

async function placeStored({ location, index }: Element, { mesh }: AttachedIn): Promise<Vector> {
  const whole = await mesh();
  const points = location === 'point' ? [index] : pointsOf(whole, index);
  return [0, 1, 2].map(
    (k) => points.reduce((sum, p) => sum + whole.points[3 * p + k], 0) / points.length,
  ) as Vector;
}

/** What one output of a gather is made of. */
function* sourcesOf({ starts, width, index, weight }: Gather, v: number): Generator<[number, number]> {
  const to = starts ? starts[v + 1] : (v + 1) * width;
  for (let i = starts ? starts[v] : v * width; i < to; i++) yield [index[i], weight ? weight[i] : 1];
}

/** What counts as nothing but that point. */
const WHOLE = 0.999;

/** The output that is nothing but one input; null where there is none. */
function outputOf(gather: Gather, wanted: number): number | null {
  if (!gather.starts && gather.width === 1 && !gather.weight) {
    const at = gather.index.indexOf(wanted);
    return at < 0 ? null : at;
  }
  for (let v = 0; v < outputCount(gather); v++)
    for (const [input, weight] of sourcesOf(gather, v)) if (input === wanted && weight > WHOLE) return v;
  return null;
}

/** Where a point or cell is drawn, relative to the origin; null where it is not. */
function placeDrawn({ location, index }: Element, marks: readonly MadeMark[]): Vector | null {
  for (const { mark, toVertices } of marks) {
    if (!toVertices || mark.kind === 'text' || mark.kind === 'volume') continue;
    const { positions: p } = mark;
    if (location === 'point') {
      const v = outputOf(toVertices.point, index);
      if (v !== null) return [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    } else if (mark.kind === 'surface') {
      const sum: Vector = [0, 0, 0];
      let corners = 0;
      for (let t = 0; t < mark.cells.length; t++)
        if (mark.cells[t] === index)
          for (const v of mark.triangles.subarray(3 * t, 3 * t + 3)) {
            for (let k = 0; k < 3; k++) sum[k] += p[3 * v + k];
            corners++;
          }
      if (corners > 0) return sum.map((v) => v / corners) as Vector;
    }
  }
  return null;
}

/** Index of the lowest or highest number; -1 where there is none. */
function extremeOf(kind: Extreme['kind'], values: ArrayLike<number>): number {
  let best = -1;
  const sign = kind === 'highest' ? 1 : -1;
  for (let i = 0; i < values.length; i++)
    if (!Number.isNaN(values[i]) && (best < 0 || sign * values[i] > sign * values[best])) best = i;
  return best;
}

async function extremeOfAll(attachment: Extreme, within: AttachedIn): Promise<FoundInPart | null> {
  const [{ field, component }] = attachment.values;
  const found = await within.values(field);
  if (!found) return null;
  const { data, components, location } = found;
  const values =
    components === 1
      ? data
      : Float32Array.from({ length: data.length / components }, (_, i) => valueAt(found, component, i));
  const index = extremeOf(attachment.kind, values);
  return index < 0 ? null : elementFound({ location, index }, attachment.values, within);
}

async function extremeDrawn(attachment: Extreme, within: AttachedIn): Promise<FoundInPart | null> {
  const [{ field, component }] = attachment.values;
  const own = await within.values(field);
  if (!own) return null;
  let best: { value: number; mark: MadeMark; v: number } | null = null;
  const sign = attachment.kind === 'highest' ? 1 : -1;
  for (const mark of within.marks) {
    if (!mark.toVertices) continue;
    const values = replay(mark.toVertices[own.location], own.data, own.components, component, own.axial);
    const v = extremeOf(attachment.kind, values);
    if (v >= 0 && (!best || sign * values[v] > sign * best.value)) best = { value: values[v], mark, v };
  }
  if (!best || best.mark.mark.kind === 'text' || best.mark.mark.kind === 'volume') return null;
  const { mark, toVertices } = best.mark;
  const { positions: p } = mark as Extract<typeof mark, { positions: Float32Array }>;
  const { v } = best;
  const values = await Promise.all(
    attachment.values.map(async (wanted) => {
      const found = await within.values(wanted.field);
      if (!found) return Number.NaN;
      let sum = 0;
      for (const [input, weight] of sourcesOf(toVertices![found.location], v))
        sum += weight * valueAt(found, wanted.component, input);
      return sum;
    }),
  );
  // What turned vectors show is in the first value already.
  values[0] = best.value;
  const nearest = heaviest(toVertices![own.location], v);
  return {
    ...partOf(within, { location: own.location, index: nearest }),
    place: [0, 1, 2].map((k) => p[3 * v + k] + within.origin[k]) as Vector,
    values,
    drawn: true,
  };
}

function heaviest(gather: Gather, v: number): number {
  let best: [number, number] = [0, Number.NEGATIVE_INFINITY];
  for (const source of sourcesOf(gather, v)) if (source[1] > best[1]) best = source;
  return best[0];
}

/** The point and cell of a part that are nearest to a place on what is drawn of it. */
export interface Nearest {
  part: string;
  node: number;
  cell: number | null;
}

/** @param place relative to the origin of the run */
export function nearestDrawn(place: Vector, within: Pick<AttachedIn, 'marks' | 'parts'>): Nearest | null {
  let best: { way: number; node: number; cell: number | null } | null = null;
  for (const { mark, toVertices } of within.marks) {
    if (!toVertices || mark.kind === 'text' || mark.kind === 'volume') continue;
    const { positions: p } = mark;
    for (let v = 0; v < p.length / 3; v++) {
      const way = Math.hypot(p[3 * v] - place[0], p[3 * v + 1] - place[1], p[3 * v + 2] - place[2]);
      if (best && best.way <= way) continue;
      const cells = toVertices.cell;
      const cell = outputCount(cells) > v ? heaviest(cells, v) : null;
      best = { way, node: heaviest(toVertices.point, v), cell };
    }
  }
  if (!best) return null;
  const node = partOf(within, { location: 'point', index: best.node });
  const cell = best.cell === null ? null : partOf(within, { location: 'cell', index: best.cell }).index;
  return { part: node.part, node: node.index, cell };
}

/** The better of two: what is drawn before what is not, and of extremes the lower or higher. */
export function betterFound(
  { kind }: Attachment,
  a: FoundInPart | null,
  b: FoundInPart | null,
): FoundInPart | null {
  if (!a || !b) return a ?? b;
  if (kind === 'lowest' || kind === 'highest') {
    const sign = kind === 'highest' ? 1 : -1;
    if (a.values[0] !== b.values[0]) return sign * b.values[0] > sign * a.values[0] ? b : a;
  }
  return !a.drawn && b.drawn ? b : a;
}

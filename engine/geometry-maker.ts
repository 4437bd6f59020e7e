import { LRUCache } from 'lru-cache';
import type { Spread } from '#core/colour/spread.ts';
import type { KnownField } from '#core/fields/condition.ts';
import { cellsOfRule } from '#core/fields/part-set.ts';
import { comesWithShapes } from '#core/fields/quantity-sources.ts';
import type { FieldNeed } from '#core/fields/sources/quantity-source.ts';
import type { MeshField } from '#core/model/field.ts';
import { boundsOfMark, type Mark } from '#core/model/mark.ts';
import { type Bounds, boundsInFiles, emptyBounds, joinBounds, type Mesh } from '#core/model/mesh.ts';
import { quantityKey } from '#core/model/quantity.ts';
import { replay } from '#core/model/recipe.ts';
import type { SetRule } from '#core/model/set-rule.ts';
import type { Vector } from '#core/model/vectors.ts';
import { apply, type ChainStep, drawn } from '#core/ops/chain/chain.ts';
import { type MadeMark, marksOf } from '#core/ops/chain/marks.ts';
import type { Beside, OperationReport, StepsThrough } from '#core/ops/chain/operation.ts';
import { understood } from '#core/ops/chain/understood.ts';
import { besideName, type ChainContext, needName, Workpiece } from '#core/ops/chain/workpiece.ts';
import { subsetCells } from '#core/ops/kernels/subset-cells.ts';
import { operationById } from '#core/ops/registry.ts';
import type { Attachment } from '#core/scene/annotations/attachment.ts';
import type { ArraySource } from './array-source.ts';
import { type AttachedIn, type FoundInPart, findAttached, type Nearest, nearestDrawn } from './attached.ts';
import { fieldKeyOn, type PartSource, PartSources, partsKey } from './part-sources.ts';
import { arraysOfOrigin } from './quantity-values.ts';
import { spreadOfMarks } from './spread-of-marks.ts';

/** Another part, or the cells of a part set in all of them. */
export interface BesideSource extends Pick<GeometryRequest, 'parts' | 'set' | 'setNeeds'> {
  of: Beside;
}

/** What one part of one layer needs at one step, or all parts of a layer together. */
export interface GeometryRequest {
  /** One, unless an operation looks at all parts of the layer as one. */
  parts: PartSource[];
  /** What else of the run operations look at. */
  beside: BesideSource[];
  /** Every step of the run, where an operation looks at all of them; else empty. */
  through: { time: number; parts: PartSource[] }[];
  /** Index of the step on show. */
  step: number;
  origin: [number, number, number];
  /** The part set it is limited to; null for all cells. */
  set: SetRule | null;
  /** With options settled, so that nothing depends on the run any more. */
  chain: ChainStep[];
  /** Names that conditions of the set may use. */
  names: { fields: KnownField[]; sets: string[] };
  /** What the set reads. */
  setNeeds: FieldNeed[];
  /** What it is coloured by; null for a plain colour or where the part does not have it. */
  colour: { field: string; component: number | 'magnitude' } | null;
  /** Whether the edges of its faces are wanted. */
  edges: boolean;
  /** What its edges are coloured by, where these show a quantity of their own. */
  edgeColour: { field: string; component: number | 'magnitude' } | null;
  /** Whether it is asked how the values are spread over what is shown. */
  spread: boolean;
  /** What words hang on, as far as it may be in these parts. */
  attached: Attachment[];
  /** A place, relative to the origin, for which the nearest point and cell are wanted; mostly null. */
  near: Vector | null;
  /** Key of the geometry the asker holds already; it is not sent again. */
  have: string | null;
  /** Only begins to load what it needs; the answer is empty. */
  ahead: boolean;
}

/** What is drawn of one part of one layer. */
export interface Shape {
  marks: Mark[];
  /** In the coordinates of the files; empty where there is nothing. */
  bounds: Bounds;
  report: OperationReport;
}

export interface GeometryAnswer {
  key: string;
  /** Null when the asker holds it. */
  shape: Shape | null;
  /** For each mark one value a vertex, or null for a plain colour. */
  values: (Float32Array | null)[];
  /** The same for edges that show a quantity of their own. */
  edgeValues: (Float32Array | null)[];
  /** How the values are spread; null where it was not asked. */
  spread: Spread | null;
  /** What each attachment of the request leads to here. */
  attached: (FoundInPart | null)[];
  near: Nearest | null;
}

interface Made {
  shape: Shape;
  marks: MadeMark[];
}

/** How many shapes, pieces of chains and meshes are kept at most. */
const KEPT_SHAPES = 24;
const KEPT_PIECES = 24;

const needsKey = (needs: FieldNeed[], parts: readonly PartSource[]): string =>
  needs.map((n) => fieldKeyOn(parts, needName(n))).join();

/** The key of a source: the same key, the same cells. */
function sourceKey({ parts, set, setNeeds }: Pick<GeometryRequest, 'parts' | 'set' | 'setNeeds'>): string {
  if (!set) return partsKey(parts);
  const names = parts.map((p) => p.part).join();
  return `${partsKey(parts)}/${names}/${JSON.stringify(set)}/${needsKey(setNeeds, parts)}`;
}

function besideKey({ beside }: GeometryRequest, what: Beside): string {
  const found = beside.find(({ of }) => besideName(of) === besideName(what));
  return found ? `+${sourceKey(found)}` : '';
}

/** The keys of the source and of every prefix of the chain: the same key, the same mesh. */
function prefixKeys(request: GeometryRequest): string[] {
  const { parts } = request;
  const names = parts.map((p) => p.part).join();
  let key = sourceKey(request);
  const keys = [key];
  for (const step of request.chain) {
    if (!step.off) {
      const { needs: needed, traits, beside: looksAt, reads } = operationById(step.op);
      const through = reads === 'all steps' ? throughKey(request) : '';
      const beside = looksAt?.(step.options).map((what) => besideKey(request, what)) ?? '';
      const needs = needed?.(step.options) ?? [];
      const named = traits?.readsPartName ? names : '';
      key += `|${step.op}${JSON.stringify(step.options)}${needsKey(needs, parts)}${named}${beside}${through}`;
    }
    keys.push(key);
  }
  return keys;
}

/** What all steps are made of, and which of them is on show. */
const throughKey = ({ through, step }: GeometryRequest): string =>
  `@${step}:${through.map(({ time, parts }) => `${time}=${partsKey(parts)}${Object.keys(parts[0]?.fields ?? {}).map((name) => fieldKeyOn(parts, name))}`).join()}`;

/** Whether something it is coloured by stands on cells. */
const isPerCell = ({ colour, edgeColour, parts }: GeometryRequest): boolean =>
  [colour, edgeColour].some((c) => c && parts.some((p) => p.fields[c.field]?.location === 'cell'));

/** The key of a geometry: same key, same triangles. */
export function geometryKey(request: GeometryRequest): string {
  return `${prefixKeys(request).at(-1)}|${isPerCell(request) ? 'cell' : 'point'}${request.edges ? '|edges' : ''}`;
}

/**
 * Runs chains and replays their gathers. Every piece of a chain is kept by what it depends on: moving the last
 * operation leaves those before it alone, and a change of field, component or step costs one gather.
 */
export class GeometryMaker {
  private readonly pieces = new LRUCache<string, Workpiece>({ max: KEPT_PIECES });
  private readonly shapes = new LRUCache<string, Made>({ max: KEPT_SHAPES });
  private readonly sources: PartSources;

  constructor(private readonly arrays: ArraySource) {
    this.sources = new PartSources(arrays);
  }

  async make(request: GeometryRequest): Promise<GeometryAnswer> {
    const key = geometryKey(request);
    if (request.ahead) {
      // Nobody waits for these; a failure is met when the step is asked for.
      for (const { fields } of request.parts)
        for (const origin of Object.values(fields))
          for (const ref of arraysOfOrigin(origin)) this.arrays.get(ref).catch(() => undefined);
      return { key, shape: null, values: [], edgeValues: [], spread: null, attached: [], near: null };
    }
    const made = this.shapes.get(key) ?? (await this.run(request, key));
    const values = await this.gather(request, made, request.colour);
    const edgeValues = await this.gather(request, made, request.edgeColour);
    const spread = request.spread ? spreadOfMarks(made.shape.marks, values) : null;
    const shape = request.have === key ? null : made.shape;
    return { key, shape, values, edgeValues, spread, ...(await this.attached(request, made)) };
  }

  /** What words hang on. */
  private async attached(
    request: GeometryRequest,
    made: Made,
  ): Promise<Pick<GeometryAnswer, 'attached' | 'near'>> {
    const { attached, near, parts, origin } = request;
    if (attached.length === 0 && !near) return { attached: [], near: null };
    const within: AttachedIn = {
      parts: parts.map(({ part, mesh }) => ({ part, points: mesh.pointCount, cells: mesh.cellCount })),
      origin,
      marks: made.marks,
      mesh: () => this.sources.mesh(parts),
      values: (field) => this.sources.values(parts, field, origin),
    };
    return {
      attached: await Promise.all(attached.map((a) => findAttached(a, within))),
      near: near && nearestDrawn(near, within),
    };
  }

  /** What the chain of a request leads to, before it is drawn. */
  async workpiece(request: GeometryRequest): Promise<Workpiece> {
    const context = await this.context(request);
    const keys = prefixKeys(request);
    let piece = (this.pieces.get(keys[0]) ?? (await this.source(request, context, keys[0]))).withContext(
      context,
    );
    for (const [i, step] of request.chain.entries()) {
      if (step.off) continue;
      const made = this.pieces.get(keys[i + 1]) ?? (await this.applied(piece, step, request));
      this.pieces.set(keys[i + 1], made);
      piece = made.withContext(context);
    }
    return piece;
  }

  /** An operation behind a piece; what goes through all steps is done at once. */
  private async applied(piece: Workpiece, step: ChainStep, request: GeometryRequest): Promise<Workpiece> {
    const known = understood(step);
    const through = known?.operation.runThrough;
    if (!known || !through) return apply(piece, step);
    const { operation, options } = known;
    const result = await through(piece, options, this.stepsThrough(request));
    return piece.followedBy(() => result, operation.gives(piece.dimension), null, false);
  }

  private stepsThrough({ through, step, origin }: GeometryRequest): StepsThrough {
    return {
      times: through.map((s) => s.time),
      shown: step,
      at: async (index) => {
        const { parts } = through[index];
        if (parts.length === 0) return null;
        const key = partsKey(parts);
        const piece = this.pieces.get(key) ?? Workpiece.source(await this.sources.mesh(parts));
        this.pieces.set(key, piece);
        const names = [...new Set(parts.flatMap((p) => Object.keys(p.fields)))];
        const fields = new Map(
          await Promise.all(
            names.map(async (name) => [name, await this.sources.values(parts, name, origin)] as const),
          ),
        );
        return { mesh: piece.mesh, blocks: piece.blocks, field: (name) => fields.get(name) ?? null };
      },
    };
  }

  private async run(request: GeometryRequest, key: string): Promise<Made> {
    const end = drawn(await this.workpiece(request));
    const perCell = [request.colour, request.edgeColour].some((colour) => {
      const field = colour && end.context.fields.get(colour.field);
      return field ? end.route(field.location).at === 'cell' : false;
    });
    const made = shapeOf(end, perCell, request.edges);
    this.shapes.set(key, made);
    return made;
  }

  /** What the chain begins with: all cells, or those of the part set. */
  private async source(request: GeometryRequest, context: ChainContext, key: string): Promise<Workpiece> {
    const { parts, set } = request;
    const known = this.pieces.get(partsKey(parts));
    const mesh = known?.mesh ?? (await this.sources.mesh(parts));
    const whole = known ?? Workpiece.source(mesh, context);
    this.pieces.set(partsKey(parts), whole);
    if (!set) return whole;
    const inside = await this.cellsInside(request, set, whole.withContext(context));
    const cells: number[] = [];
    for (let c = 0; c < inside.length; c++) if (inside[c]) cells.push(c);
    const kept = whole.withContext(context).derive({
      ...subsetCells(mesh, Uint32Array.from(cells)),
      report: { kept: cells.length, of: inside.length, what: 'cells' },
    });
    this.pieces.set(key, kept);
    return kept;
  }

  /** Belonging to a set is told part by part: rules may name them. */
  private async cellsInside(
    request: GeometryRequest,
    set: SetRule,
    whole: Workpiece,
  ): Promise<ArrayLike<number>> {
    const { parts, names } = request;
    if (parts.length === 1) return cellsOfRule(set, whole, names.fields, names.sets);
    const each = await Promise.all(
      parts.map(async (part) => {
        const one = { ...request, parts: [part] };
        const alone = Workpiece.source(await this.sources.mesh([part]), await this.context(one));
        return Array.from(cellsOfRule(set, alone, names.fields, names.sets));
      }),
    );
    return each.flat();
  }

  private async context(request: GeometryRequest): Promise<ChainContext> {
    const { parts, beside, origin } = request;
    const names = [...new Set(parts.flatMap((p) => Object.keys(p.fields)))];
    const read = await Promise.all(
      names.map(async (name): Promise<[string, MeshField][]> => {
        const field = await this.sources.values(parts, name, origin);
        return field ? [[name, field]] : [];
      }),
    );
    const others = await Promise.all(
      beside
        .filter((b) => b.parts.length > 0)
        .map(async ({ of, ...source }): Promise<[string, Mesh]> => {
          const own = { ...request, ...source, beside: [] };
          const cells = await this.source(own, await this.context(own), sourceKey(source));
          return [besideName(of), cells.mesh];
        }),
    );
    return {
      origin,
      part: parts.map((p) => p.part).join(),
      fields: new Map(read.flat()),
      beside: new Map(others),
    };
  }

  private async gather(
    { parts, origin }: GeometryRequest,
    { marks }: Made,
    colour: GeometryRequest['colour'],
  ): Promise<GeometryAnswer['values']> {
    if (!colour) return marks.map(() => null);
    if (comesWithShapes(colour.field)) return marks.map((m) => m.made(colour.field));
    // Shapes that go through steps bring the values they met there.
    const met = marks.map((m) => m.made(quantityKey(colour.field, colour.component)));
    const field = await this.sources.values(parts, colour.field, origin);
    if (!field) return met;
    const { data, components, axial, location } = field;
    return marks.map(({ toVertices }, i) =>
      met[i] || !toVertices
        ? met[i]
        : replay(toVertices[location], data, components, colour.component, axial),
    );
  }
}

function shapeOf(end: Workpiece, perCell: boolean, edges: boolean): Made {
  const marks = marksOf(end, perCell, edges);
  return {
    shape: {
      marks: marks.map((m) => m.mark),
      bounds: boundsInFiles(
        marks.map((m) => boundsOfMark(m.mark)).reduce(joinBounds, emptyBounds()),
        end.origin,
      ),
      report: end.report(),
    },
    marks,
  };
}

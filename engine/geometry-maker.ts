import { LRUCache } from 'lru-cache';
import { cellsOfRule } from '#core/fields/part-set.ts';
import { needsMesh } from '#core/fields/quantity-sources.ts';
import type { FieldNeed, FieldOrigin } from '#core/fields/sources/quantity-source.ts';
import type { MeshField } from '#core/model/field.ts';
import { boundsOfMark, type Mark } from '#core/model/mark.ts';
import { type Bounds, emptyBounds, joinBounds, type Mesh } from '#core/model/mesh.ts';
import { replay } from '#core/model/recipe.ts';
import type { StoredMesh } from '#core/model/run.ts';
import type { SetRule } from '#core/model/set-rule.ts';
import { apply, type ChainStep, drawn } from '#core/ops/chain/chain.ts';
import { type MadeMark, marksOf } from '#core/ops/chain/marks.ts';
import type { OperationReport } from '#core/ops/chain/operation.ts';
import { joinReports } from '#core/ops/chain/report.ts';
import { type ChainContext, needName, Workpiece } from '#core/ops/chain/workpiece.ts';
import { subsetCells } from '#core/ops/kernels/subset-cells.ts';
import { operationById } from '#core/ops/registry.ts';
import type { ArraySource } from './array-source.ts';
import { arraysOfOrigin, quantityValues } from './quantity-values.ts';
import { meshKey } from './run-builder.ts';
import { readStoredMesh } from './stored-mesh.ts';

/** What one part of one layer needs at one step. */
export interface GeometryRequest {
  mesh: StoredMesh;
  origin: [number, number, number];
  part: string;
  /** The part set it is limited to; null for all cells. */
  set: SetRule | null;
  /** With options settled, so that nothing depends on the run any more. */
  chain: ChainStep[];
  /** The fields that the set, the chain and the colours read, by `needName`; what the part lacks is not there. */
  fields: Record<string, FieldOrigin>;
  /** Names that conditions of the set may use. */
  names: { fields: { key: string; name: string; components: number }[]; sets: string[] };
  /** What the set reads. */
  setNeeds: FieldNeed[];
  /** What it is coloured by; null for a plain colour or where the part does not have it. */
  colour: { field: string; component: number | 'magnitude' } | null;
  /** Whether the edges of its faces are wanted. */
  edges: boolean;
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
}

interface Made {
  shape: Shape;
  marks: MadeMark[];
}

/** How many shapes, pieces of chains and meshes are kept at most. */
const KEPT_SHAPES = 24;
const KEPT_PIECES = 24;
/** How many computed quantities are kept at most. */
const KEPT_QUANTITIES = 12;

const originKey = (origin: FieldOrigin | undefined): string => origin?.id ?? '';

const needsKey = (needs: FieldNeed[], { fields }: Pick<GeometryRequest, 'fields'>): string =>
  needs.map((n) => originKey(fields[needName(n)])).join();

/** The keys of the source and of every prefix of the chain: the same key, the same mesh. */
function prefixKeys(request: GeometryRequest): string[] {
  const { mesh, set, part, setNeeds } = request;
  let key = set
    ? `${meshKey(mesh)}/${part}/${JSON.stringify(set)}/${needsKey(setNeeds, request)}`
    : meshKey(mesh);
  const keys = [key];
  for (const step of request.chain) {
    if (!step.off) {
      const { needs: needed, traits } = operationById(step.op);
      const needs = needed?.(step.options) ?? [];
      const named = traits?.readsPartName ? part : '';
      key += `|${step.op}${JSON.stringify(step.options)}${needsKey(needs, request)}${named}`;
    }
    keys.push(key);
  }
  return keys;
}

/** The key of a geometry: same key, same triangles. */
export function geometryKey(request: GeometryRequest): string {
  const colour = request.colour && request.fields[request.colour.field];
  return `${prefixKeys(request).at(-1)}|${colour?.location === 'cell' ? 'cell' : 'point'}${request.edges ? '|edges' : ''}`;
}

/**
 * Runs chains and replays their gathers. Every piece of a chain is kept by what it depends on: moving the last
 * operation leaves those before it alone, and a change of field, component or step costs one gather.
 */
export class GeometryMaker {
  private readonly pieces = new LRUCache<string, Workpiece>({ max: KEPT_PIECES });
  private readonly shapes = new LRUCache<string, Made>({ max: KEPT_SHAPES });
  private readonly computed = new LRUCache<string, MeshField>({ max: KEPT_QUANTITIES });

  constructor(private readonly arrays: ArraySource) {}

  async make(request: GeometryRequest): Promise<GeometryAnswer> {
    const key = geometryKey(request);
    if (request.ahead) {
      // Nobody waits for these; a failure is met when the step is asked for.
      for (const origin of Object.values(request.fields))
        for (const ref of arraysOfOrigin(origin)) this.arrays.get(ref).catch(() => undefined);
      return { key, shape: null, values: [] };
    }
    const made = this.shapes.get(key) ?? (await this.run(request, key));
    const values = await this.gather(request, made);
    return { key, shape: request.have === key ? null : made.shape, values };
  }

  private async run(request: GeometryRequest, key: string): Promise<Made> {
    const mesh = await this.mesh(request.mesh);
    const context = await this.context(request);
    const keys = prefixKeys(request);
    let piece = (this.pieces.get(keys[0]) ?? this.source(request, mesh, context, keys[0])).withContext(
      context,
    );
    for (const [i, step] of request.chain.entries()) {
      if (step.off) continue;
      const made = this.pieces.get(keys[i + 1]) ?? apply(piece, step);
      this.pieces.set(keys[i + 1], made);
      piece = made.withContext(context);
    }
    const end = drawn(piece);
    const colour = request.colour && context.fields.get(request.colour.field);
    const perCell = colour ? end.route(colour.location).at === 'cell' : false;
    const made = shapeOf(end, perCell, request.edges);
    this.shapes.set(key, made);
    return made;
  }

  private source(
    { mesh: stored, set, names }: GeometryRequest,
    mesh: Mesh,
    context: ChainContext,
    key: string,
  ): Workpiece {
    const whole = this.pieces.get(meshKey(stored)) ?? Workpiece.source(mesh, context);
    this.pieces.set(meshKey(stored), whole);
    if (!set) return whole;
    const all = whole.withContext(context);
    const inside = cellsOfRule(set, all, names.fields, names.sets);
    const cells: number[] = [];
    for (let c = 0; c < inside.length; c++) if (inside[c]) cells.push(c);
    const part = all.derive({
      ...subsetCells(mesh, Uint32Array.from(cells)),
      report: { kept: cells.length, of: inside.length, what: 'cells' },
    });
    this.pieces.set(key, part);
    return part;
  }

  private async mesh(stored: StoredMesh): Promise<Mesh> {
    const known = this.pieces.get(meshKey(stored));
    if (known) return known.mesh;
    return readStoredMesh(stored, this.arrays);
  }

  private async context(request: GeometryRequest): Promise<ChainContext> {
    const { origin, part, fields } = request;
    const read = await Promise.all(
      Object.entries(fields).map(
        async ([name, o]): Promise<[string, MeshField]> => [name, await this.values(o, request)],
      ),
    );
    return { origin, part, fields: new Map(read) };
  }

  /** What is only read is kept by those who read it; what is computed is kept here. */
  private async values(origin: FieldOrigin, request: GeometryRequest): Promise<MeshField> {
    const { part, origin: place, mesh } = request;
    const read = (): Promise<MeshField> =>
      quantityValues(origin, { part, origin: place, mesh: () => this.mesh(mesh) }, this.arrays);
    if (!needsMesh(origin) && origin.of.length === 0) return read();
    const key = `${meshKey(mesh)}/${origin.id}`;
    const known = this.computed.get(key);
    if (known) return known;
    const made = await read();
    this.computed.set(key, made);
    return made;
  }

  private async gather(request: GeometryRequest, { marks }: Made): Promise<GeometryAnswer['values']> {
    const { colour, fields } = request;
    const origin = colour && fields[colour.field];
    if (!colour || !origin) return marks.map(() => null);
    const { data, components, axial, location } = await this.values(origin, request);
    return marks.map(({ toVertices }) =>
      toVertices ? replay(toVertices[location], data, components, colour.component, axial) : null,
    );
  }
}

function shapeOf(end: Workpiece, perCell: boolean, edges: boolean): Made {
  const marks = marksOf(end, perCell, edges);
  const inFiles = (b: Bounds): Bounds => b.map((v, i) => v + end.origin[i >> 1]) as Bounds;
  return {
    shape: {
      marks: marks.map((m) => m.mark),
      bounds: inFiles(marks.map((m) => boundsOfMark(m.mark)).reduce(joinBounds, emptyBounds())),
      report: joinReports([...end.reports()]),
    },
    marks,
  };
}

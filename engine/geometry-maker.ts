import { LRUCache } from 'lru-cache';
import { meshMeasure } from '#core/fields/mesh-quality.ts';
import { cellsOfRule } from '#core/fields/part-set.ts';
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

const originKey = (origin: FieldOrigin | undefined): string => {
  if (!origin) return '';
  if (origin.kind === 'array')
    return `${origin.array.hash}/${origin.location}${origin.components}${origin.axial}`;
  return origin.kind === 'cells'
    ? `in ${typeof origin.cells === 'string' ? origin.cells : origin.cells.hash}`
    : origin.measure;
};

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
  const perCell = colour && (colour.kind !== 'array' || colour.location === 'cell');
  return `${prefixKeys(request).at(-1)}|${perCell ? 'cell' : 'point'}${request.edges ? '|edges' : ''}`;
}

/**
 * Runs chains and replays their gathers. Every piece of a chain is kept by what it depends on: moving the last
 * operation leaves those before it alone, and a change of field, component or step costs one gather.
 */
export class GeometryMaker {
  private readonly pieces = new LRUCache<string, Workpiece>({ max: KEPT_PIECES });
  private readonly shapes = new LRUCache<string, Made>({ max: KEPT_SHAPES });

  constructor(private readonly arrays: ArraySource) {}

  async make(request: GeometryRequest): Promise<GeometryAnswer> {
    const key = geometryKey(request);
    if (request.ahead) {
      // Nobody waits for these; a failure is met when the step is asked for.
      for (const origin of Object.values(request.fields))
        if (origin.kind === 'array') this.arrays.get(origin.array).catch(() => undefined);
      return { key, shape: null, values: [] };
    }
    const made = this.shapes.get(key) ?? (await this.run(request, key));
    const values = await this.gather(request, made);
    return { key, shape: request.have === key ? null : made.shape, values };
  }

  private async run(request: GeometryRequest, key: string): Promise<Made> {
    const mesh = await this.mesh(request.mesh);
    const context = await this.context(request, mesh);
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

  private async context({ origin, part, fields }: GeometryRequest, mesh: Mesh): Promise<ChainContext> {
    const read = await Promise.all(
      Object.entries(fields).map(
        async ([name, o]): Promise<[string, MeshField]> => [name, await this.field(o, mesh)],
      ),
    );
    return { origin, part, fields: new Map(read) };
  }

  private async field(origin: FieldOrigin, mesh: Mesh): Promise<MeshField> {
    const id = originKey(origin);
    const onCells = { location: 'cell', components: 1, axial: false, id } as const;
    if (origin.kind === 'measure') return { ...onCells, data: meshMeasure(mesh, origin.measure) };
    if (origin.kind === 'array') {
      const { array, location, components, axial } = origin;
      return { location, components, axial, id, data: await this.arrays.get(array) };
    }
    const data = new Uint8Array(mesh.types.length);
    if (origin.cells === 'all') data.fill(1);
    else if (origin.cells !== 'none') {
      const cells = await this.arrays.get(origin.cells);
      for (let i = 0; i < cells.length; i++) data[cells[i]] = 1;
    }
    return { ...onCells, data };
  }

  private async gather(
    { colour, fields, mesh }: GeometryRequest,
    { marks }: Made,
  ): Promise<GeometryAnswer['values']> {
    const origin = colour && fields[colour.field];
    if (!colour || !origin) return marks.map(() => null);
    const field = await this.field(origin, origin.kind === 'array' ? (null as never) : await this.mesh(mesh));
    const { data, components, axial, location } = field;
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

import { buildDrawable, type Drawable } from '#core/model/drawable.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { compose, composeVertices, type Recipe, replay, type VertexRecipe } from '#core/model/recipe.ts';
import type { ArrayRef, StoredMesh } from '#core/model/run.ts';
import { ChainSource, type ChainStep, runChain } from '#core/ops/chain.ts';
import { subsetCells } from '#core/ops/subset-cells.ts';
import type { ArraySource } from './array-source.ts';
import { meshKey } from './run-builder.ts';

/** What one part of one layer needs at one step. */
export interface GeometryRequest {
  mesh: StoredMesh;
  origin: [number, number, number];
  /** The cells it is limited to; null for all. */
  cells: ArrayRef | null;
  chain: ChainStep[];
  /** The field it is coloured by; null for a plain colour or where the part does not have it. */
  field: {
    array: ArrayRef;
    location: 'point' | 'cell';
    components: number;
    component: number | 'magnitude';
  } | null;
  /** Key of the geometry the asker holds already; it is not sent again. */
  have: string | null;
  /** Only begins to load what it needs; the answer is empty. */
  ahead: boolean;
}

export interface GeometryAnswer {
  key: string;
  /** Null when the asker holds it. */
  drawable: Drawable | null;
  /** One value for each vertex, or null for a plain colour. */
  values: Float32Array | null;
}

interface Made {
  drawable: Drawable;
  points: VertexRecipe;
  cells: Uint32Array;
}

/** How many results and meshes are kept at most. */
const KEPT_RESULTS = 24;
const KEPT_SOURCES = 6;

/** What the chain starts from: a mesh, or some cells of it. */
const sourceKey = ({ mesh, cells }: Pick<GeometryRequest, 'mesh' | 'cells'>): string =>
  `${meshKey(mesh)}/${cells?.hash ?? ''}`;

/** The key of a geometry: same key, same triangles. */
export function geometryKey(request: Pick<GeometryRequest, 'mesh' | 'cells' | 'chain' | 'field'>): string {
  const perCell = request.field?.location === 'cell' ? 'cell' : 'point';
  return `${sourceKey(request)}|${JSON.stringify(request.chain)}|${perCell}`;
}

/**
 * Runs chains and replays their recipes. Results are kept by what they depend on, so that a change of field,
 * component or step costs one gather over the vertices.
 */
export class GeometryMaker {
  private readonly sources = new Map<string, { source: ChainSource; from: Recipe | null }>();
  private readonly results = new Map<string, Made>();

  constructor(private readonly arrays: ArraySource) {}

  async make(request: GeometryRequest): Promise<GeometryAnswer> {
    const key = geometryKey(request);
    if (request.ahead) {
      // Nobody waits for these; a failure is met when the step is asked for.
      if (request.field) this.arrays.get(request.field.array).catch(() => undefined);
      return { key, drawable: null, values: null };
    }
    const made = kept(this.results, key) ?? (await this.run(request, key));
    const values = await this.gather(request, made);
    return { key, drawable: request.have === key ? null : made.drawable, values };
  }

  private async run(request: GeometryRequest, key: string): Promise<Made> {
    const { source, from } = await this.source(request);
    const { mesh, recipe: own } = runChain(source, request.chain);
    const recipe = from ? compose(from, own) : own;
    const drawable = buildDrawable(mesh, request.field?.location === 'cell');
    const points = composeVertices(recipe.points, { width: 1, index: drawable.vertexPoint, weight: null });
    const cells = new Uint32Array(drawable.vertexCell.length);
    for (let v = 0; v < cells.length; v++) cells[v] = recipe.cells[drawable.vertexCell[v]];
    const made = { drawable, points, cells };
    keep(this.results, key, made, KEPT_RESULTS);
    return made;
  }

  private async source({ mesh: stored, cells, origin }: GeometryRequest) {
    const key = sourceKey({ mesh: stored, cells });
    const known = kept(this.sources, key);
    if (known) return known;
    const [points, types, offsets, connectivity] = await Promise.all(
      [stored.points, stored.types, stored.offsets, stored.connectivity].map((ref) => this.arrays.get(ref)),
    );
    const polyhedra =
      stored.faces && stored.faceStarts
        ? { faces: await this.arrays.get(stored.faces), starts: await this.arrays.get(stored.faceStarts) }
        : null;
    const mesh = { points, types, offsets, connectivity, polyhedra } as Mesh;
    const part = cells ? subsetCells(mesh, (await this.arrays.get(cells)) as Uint32Array) : null;
    const made = { source: new ChainSource(part?.mesh ?? mesh, origin), from: part?.recipe ?? null };
    keep(this.sources, key, made, KEPT_SOURCES);
    return made;
  }

  private async gather({ field }: GeometryRequest, made: Made): Promise<Float32Array | null> {
    if (!field) return null;
    const data = await this.arrays.get(field.array);
    const recipe = field.location === 'cell' ? { width: 1, index: made.cells, weight: null } : made.points;
    return replay(recipe, data, field.components, field.component);
  }
}

/** Reads an entry and makes it the youngest. */
function kept<T>(map: Map<string, T>, key: string): T | undefined {
  const value = map.get(key);
  if (value !== undefined) {
    map.delete(key);
    map.set(key, value);
  }
  return value;
}

function keep<T>(map: Map<string, T>, key: string, value: T, limit: number): void {
  map.set(key, value);
  while (map.size > limit) map.delete(map.keys().next().value!);
}

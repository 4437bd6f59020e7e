import { LRUCache } from 'lru-cache';
import { cellsToPoints } from '../../fields/averages.ts';
import { comesWithShapes } from '../../fields/quantity-sources.ts';
import type { FieldNeed } from '../../fields/sources/quantity-source.ts';
import { outerFaces } from '../../fields/surfaces/outer-faces.ts';
import { concatenated } from '../../model/arrays.ts';
import { buildBlocks, type CellBlocks, rangesOfBlocks } from '../../model/blocks.ts';
import type { FieldLocation, MeshField } from '../../model/field.ts';
import type { ArrowsDrawn, SpheresDrawn } from '../../model/mark.ts';
import { cellCount, type Mesh, meshDimension, pointCount } from '../../model/mesh.ts';
import { type Component, quantityKey } from '../../model/quantity.ts';
import { compose, type Gather, identityGather, leadsNowhere, replay, replayAll } from '../../model/recipe.ts';
import { joinGathers, joinMeshes } from '../kernels/join-meshes.ts';
import type { Beside, OperationInput, OperationReport, OperationResult } from './operation.ts';
import { followReport, joinReports } from './report.ts';

/** Where the fields of one kind of the source lie now, and how they get there; no gather: as they were. */
export interface Route {
  at: FieldLocation;
  gather: Gather | null;
}

/** What every piece of one chain shares. */
export interface ChainContext {
  /** Added to mesh coordinates to get those of the files. */
  origin: readonly [number, number, number];
  part: string;
  /** Fields of the source that operations read, by `needName`. */
  fields: ReadonlyMap<string, MeshField>;
  /** What else of the run operations look at, by `besideName`. */
  beside?: ReadonlyMap<string, Mesh>;
}

export const needName = ({ field, step }: FieldNeed): string =>
  step === undefined || step === null ? field : `${field}@${step}`;

export const besideName = ({ kind, name }: Beside): string => `${kind} ${name}`;

export const plainContext = (origin: readonly [number, number, number] = [0, 0, 0]): ChainContext => ({
  origin,
  part: '',
  fields: new Map(),
});

interface Made {
  mesh: Mesh;
  result: OperationResult | null;
  route(location: FieldLocation): Route;
}

/** How many fields are kept ready on one mesh. */
const KEPT_FIELDS = 8;

function cached<K extends object | string, V extends object>(
  cache: LRUCache<K, V>,
  key: K,
  make: () => V,
): V {
  const known = cache.get(key);
  if (known) return known;
  const made = make();
  cache.set(key, made);
  return made;
}

/** What a mesh on its way has made so far; shared by its views with other fields. */
class Workshop {
  made: Made | null = null;
  blocks: CellBlocks | null = null;
  outer: Workpiece | null = null;
  readonly routes: Partial<Record<FieldLocation, Route>> = {};
  readonly fields = new LRUCache<string, MeshField>({ max: KEPT_FIELDS });
  readonly scalars = new LRUCache<string, ArrayLike<number>>({ max: KEPT_FIELDS });
  readonly ranges = new LRUCache<ArrayLike<number>, Float32Array>({ max: KEPT_FIELDS });

  constructor(
    readonly make: () => Made,
    readonly makeOuter: ((piece: Workpiece) => Workpiece | null) | null,
    readonly parents: readonly Workpiece[],
    private readonly knownDimension: number | null,
    /** Whether surfaces stay where they were. */
    readonly keepsShape: boolean,
  ) {}

  private foundDimension: number | null = null;

  get dimension(): number {
    return this.knownDimension ?? (this.foundDimension ??= meshDimension(this.get().mesh.types));
  }

  get(): Made {
    return (this.made ??= this.make());
  }
}

/**
 * A mesh on its way through a chain. Meshes, blocks, outer faces and routes are made when first asked for and then
 * kept: a section that moves, or a clip whose result is only drawn, never makes what it does not need.
 */
export class Workpiece implements OperationInput {
  private constructor(
    readonly context: ChainContext,
    private readonly shop: Workshop,
  ) {}

  static source(mesh: Mesh, context: ChainContext = plainContext()): Workpiece {
    const route = (at: FieldLocation): Route => ({ at, gather: null });
    return new Workpiece(context, new Workshop(() => ({ mesh, result: null, route }), null, [], null, true));
  }

  /** The same mesh with other fields to read; everything made is shared. */
  withContext(context: ChainContext): Workpiece {
    return context === this.context ? this : new Workpiece(context, this.shop);
  }

  /**
   * @param dimension of the result, when it is known before the result is made
   * @param outer makes the outer faces with less work than from the result
   * @param keepsShape whether surfaces stay where they were, with the directions they look in
   */
  followedBy(
    run: () => OperationResult,
    dimension: number | null,
    outer: (() => Workpiece | null) | null,
    keepsShape = true,
  ): Workpiece {
    const make = (): Made => {
      const result = run();
      return { mesh: result.mesh, result, route: (at) => this.routeThrough(result, at) };
    };
    return new Workpiece(this.context, new Workshop(make, outer, [this], dimension, keepsShape));
  }

  derive = (result: OperationResult): Workpiece => this.followedBy(() => result, null, null);

  /** Several pieces of one chain as one mesh. */
  static together(pieces: Workpiece[]): Workpiece {
    if (pieces.length === 1) return pieces[0];
    const make = (): Made => ({
      mesh: joinMeshes(pieces.map((p) => p.mesh)),
      result: null,
      route: (location) => {
        const all = pieces.map((p) => p.route(location));
        const { at } = all[0];
        const count = at === 'point' ? pointCount : cellCount;
        return {
          at,
          gather: joinGathers(all.map((r, i) => r.gather ?? identityGather(count(pieces[i].mesh)))),
        };
      },
    });
    return new Workpiece(pieces[0].context, new Workshop(make, null, pieces, null, true));
  }

  get mesh(): Mesh {
    return this.shop.get().mesh;
  }

  get isSource(): boolean {
    return this.shop.parents.length === 0;
  }

  get result(): OperationResult | null {
    return this.shop.get().result;
  }

  get origin(): readonly [number, number, number] {
    return this.context.origin;
  }

  get part(): string {
    return this.context.part;
  }

  beside = (what: Beside): Mesh | null => this.context.beside?.get(besideName(what)) ?? null;

  get dimension(): number {
    return this.shop.dimension;
  }

  blocks = (): CellBlocks => (this.shop.blocks ??= buildBlocks(this.mesh));

  blockRanges = (values: ArrayLike<number>): Float32Array =>
    cached(this.shop.ranges, values, () => rangesOfBlocks(this.mesh, this.blocks(), values));

  outer = (): Workpiece => {
    if (this.dimension < 3) return this;
    this.shop.outer ??= this.shop.makeOuter?.(this) ?? this.followedBy(() => outerFaces(this.mesh), 2, null);
    return this.shop.outer.withContext(this.context);
  };

  /** A quantity that came with what an operation made, one number for each point as they are now; else null. */
  made = (key: string): Float32Array | null => {
    const own = this.result?.made;
    return own && Object.hasOwn(own, key) ? own[key] : this.brought((piece) => piece.made(key));
  };

  field = (need: FieldNeed): MeshField | null => {
    const name = needName(need);
    const made = comesWithShapes(need.field) ? this.made(need.field) : null;
    if (made) return { location: 'point', components: 1, axial: false, data: made };
    const raw = this.context.fields.get(name);
    if (!raw) return null;
    const { at, gather } = this.route(raw.location);
    if (!gather) return { ...raw, location: at };
    if (leadsNowhere(gather)) return this.metOnTheWay(need.field, raw);
    const id = raw.id ?? name;
    return cached(this.shop.fields, id, () => ({
      ...raw,
      location: at,
      data: replayAll(gather, raw.data, raw.components, raw.axial),
    }));
  };

  /** A number that lines met on their way through the steps, where it was asked for; of vectors they know one component alone. */
  private metOnTheWay(field: string, { components }: MeshField): MeshField | null {
    const ways: Component[] = components === 1 ? [0, 'magnitude'] : [];
    const data = ways.map((c) => this.made(quantityKey(field, c))).find((met) => met !== null);
    return data ? { location: 'point', components: 1, axial: false, data } : null;
  }

  scalar = (need: FieldNeed, component: number | 'magnitude'): ArrayLike<number> | null => {
    const name = needName(need);
    const id = `${this.context.fields.get(name)?.id ?? name}#${component}`;
    const known = this.shop.scalars.get(id);
    if (known) return known;
    const field = this.field(need);
    if (!field) return null;
    const values = componentOf(field, component);
    const onPoints = field.location === 'cell' ? replay(cellsToPoints(this.mesh), values, 1, 0) : values;
    this.shop.scalars.set(id, onPoints);
    return onPoints;
  };

  sourcePoints = (): ArrayLike<number> | null => {
    const { at, gather } = this.route('point');
    if (at !== 'point') return null;
    if (!gather) return identityGather(pointCount(this.mesh)).index;
    const { width, index, weight } = gather;
    return width === 1 && !weight ? index : null;
  };

  /** How fields of the source get here. */
  route(location: FieldLocation): Route {
    return (this.shop.routes[location] ??= this.shop.get().route(location));
  }

  /** Where its faces look, at each point, when an operation knows it better than they; else null. */
  get normals(): Float32Array | null {
    const { result, shop } = this;
    if (result?.normals) return result.normals();
    const { parents, keepsShape } = shop;
    if (!keepsShape || parents.length === 0) return null;
    const before = parents.map((p) => p.normals);
    if (before.some((n) => n === null)) return null;
    if (!result) return concatenated(before as Float32Array[]);
    return result.recipe ? replayAll(result.recipe.points, before[0]!, 3) : before[0];
  }

  /** How dark its faces are at each point, where an operation shaded them; else null. */
  get shades(): Float32Array | null {
    return this.result?.shades ?? this.brought((piece) => piece.shades);
  }

  /** One number for each point that the pieces it was made of have, as it is now; null where one of them has none. */
  private brought(of: (piece: Workpiece) => Float32Array | null): Float32Array | null {
    const before = this.shop.parents.map(of);
    if (before.length === 0 || before.some((b) => b === null)) return null;
    const all = before.length === 1 ? before[0]! : concatenated(before as Float32Array[]);
    const { result } = this;
    return result?.recipe ? replayAll(result.recipe.points, all, 1) : all;
  }

  /** Of the spheres its lone points are, where an operation made them such, each as it is now; else null. */
  get spheres(): SpheresDrawn | null {
    const { result, shop } = this;
    if (result?.spheres) return result.spheres;
    const before = shop.parents.map((p) => p.spheres);
    const [first] = before;
    if (!first || before.some((b) => b === null)) return null;
    const radii = first.radii && this.brought((piece) => piece.spheres?.radii ?? null);
    return { ...first, radius: Math.max(...before.map((b) => b!.radius)), radii };
  }

  /** Of the arrows its lone points are, where an operation made them such, as they point now; else null. */
  get arrows(): ArrowsDrawn | null {
    const { result, shop } = this;
    if (result?.arrows) return result.arrows;
    const before = shop.parents.map((p) => p.arrows);
    if (before.length === 0 || before.some((b) => b === null)) return null;
    const vectors = concatenated(before.map((b) => b!.vectors));
    return {
      ...before[0]!,
      vectors: result?.recipe ? replayAll(result.recipe.points, vectors, 3) : vectors,
    };
  }

  /** What the operations up to here had to say, each once. */
  report(): OperationReport {
    const stages: Set<OperationReport>[] = [];
    this.reportInto(stages);
    return stages.map((stage) => joinReports([...stage])).reduce(followReport, {});
  }

  /** Adds its report to those that came as late in the chain; returns how many stages there are up to here. */
  private reportInto(stages: Set<OperationReport>[]): number {
    const before = Math.max(0, ...this.shop.parents.map((parent) => parent.reportInto(stages)));
    const report = this.shop.made?.result?.report;
    if (!report) return before;
    stages[before] ??= new Set();
    stages[before].add(report);
    return before + 1;
  }

  private routeThrough({ recipe, moved }: OperationResult, location: FieldLocation): Route {
    const before = this.route(location);
    const join = (gather: Gather): Gather => (before.gather ? compose(before.gather, gather) : gather);
    if (moved && moved.from === before.at)
      return { at: moved.from === 'point' ? 'cell' : 'point', gather: join(moved.gather) };
    if (!recipe) return before;
    return { at: before.at, gather: join(before.at === 'point' ? recipe.points : recipe.cells) };
  }
}

/** One number a place: a component, or the length of a vector. */
export function componentOf(
  { data, components }: MeshField,
  component: number | 'magnitude',
): ArrayLike<number> {
  // In single precision throughout, so that a body and its faces agree on every value to the last bit.
  if (components === 1) return data instanceof Float32Array ? data : Float32Array.from(data);
  const n = data.length / components;
  const out = new Float32Array(n);
  for (let v = 0; v < n; v++) {
    if (component !== 'magnitude') out[v] = data[v * components + component];
    else {
      let squares = 0;
      for (let c = 0; c < components; c++) squares += Math.fround(data[v * components + c]) ** 2;
      out[v] = Math.sqrt(squares);
    }
  }
  return out;
}

import { LRUCache } from 'lru-cache';
import { unmeasured, withOfferedQuantities, withRange } from '#core/fields/quantity-sources.ts';
import { isEmptyMark } from '#core/model/mark.ts';
import { type Bounds, joinBounds } from '#core/model/mesh.ts';
import { type ArrayRef, type MeasuredRange, type RunDescription, runBounds } from '#core/model/run.ts';
import type { OperationReport } from '#core/ops/chain/operation.ts';
import { joinReports } from '#core/ops/chain/report.ts';
import type { Scene } from '#core/scene/document.ts';
import { type GeometryAnswer, type GeometryRequest, geometryKey, type Shape } from './geometry-maker.ts';
import { type LayerRequests, quantitiesOfLayer, requestsOfLayer } from './layer-requests.ts';

/** One part of one layer, ready to be drawn. */
export interface FramePart {
  layer: string;
  part: string;
  key: string;
  shape: Shape;
  /** For each mark of the shape; see `GeometryAnswer`. */
  values: (Float32Array | null)[];
  /** Of a picture part: what is shown on it. */
  picture: ImageBitmap | null;
}

/** What a layer has to say of itself beside its picture. */
export interface LayerNews {
  /** Nothing of it is to be seen. */
  empty: boolean;
  report: OperationReport;
  /** Why it cannot be shown, or null. */
  trouble: string | null;
}

/** Everything to draw of a scene at one step: shapes and values that belong together. */
export interface Frame {
  /** The run with the ranges its scales are settled by. */
  run: RunDescription;
  step: number;
  parts: FramePart[];
  /** Of everything that is shown, and of the run itself, in the coordinates of the files. */
  bounds: Bounds;
  /** By layer. */
  news: Record<string, LayerNews>;
}

/** Where geometry is made: a worker pool in the browser, or directly in tests. */
export type DecodePicture = (picture: { type: string; bytes: ArrayRef }) => Promise<ImageBitmap>;

/** Computes the range of a quantity that no file states, over the whole run. */
export type AskRange = (key: string) => Promise<MeasuredRange>;

export type MakeGeometry = (request: GeometryRequest, slot: string) => Promise<GeometryAnswer>;

/**
 * Brings the frame of a scene at a step. Shapes are kept here by key, so that only values travel while nothing but
 * the field or the step changes.
 */
export class SceneSource {
  /** Shapes on show, and the youngest others. */
  private readonly shapes = new Map<string, Shape>();
  private readonly idle = new LRUCache<string, Shape>({ max: 16 });
  /** Shapes that a frame under way counts on, by key. */
  private readonly pinned = new Map<string, number>();
  private readonly pictures = new Map<string, Promise<ImageBitmap>>();

  private readonly ranges = new Map<string, Promise<void>>();
  private current: RunDescription;

  constructor(
    run: RunDescription,
    private readonly make: MakeGeometry,
    private readonly decode: DecodePicture | null = null,
    private readonly askRange: AskRange | null = null,
  ) {
    this.current = withOfferedQuantities(run);
  }

  /** The run with the ranges that are known by now. */
  get run(): RunDescription {
    return this.current;
  }

  /** @param slot frames asked for under the same slot replace each other while they wait */
  async frame(scene: Scene, step: number, slot: string): Promise<Frame> {
    const run = await this.withRanges(scene);
    const layers = scene.layers
      .filter((l) => l.visible && l.opacity > 0)
      .map((l) => requestsOfLayer(l, scene, run, step));
    const wanted = layers.flatMap(({ layer, requests }) =>
      requests.map(({ part, request }) => {
        const key = geometryKey(request);
        return { layer, part, request: { ...request, have: this.holds(key) ? key : null } };
      }),
    );
    const held = wanted.flatMap(({ request }) => (request.have ? [request.have] : []));
    for (const key of held) this.pinned.set(key, (this.pinned.get(key) ?? 0) + 1);
    try {
      const parts = await Promise.all(
        wanted.map(async ({ layer, part, request }) => {
          const answer = await this.make(request, `${slot}/${layer}/${part}`);
          if (answer.shape) this.shapes.set(answer.key, answer.shape);
          return {
            layer,
            part,
            key: answer.key,
            shape: this.shapes.get(answer.key)!,
            values: answer.values,
            picture: await this.picture(part),
          };
        }),
      );
      this.rest(new Set(parts.map((p) => p.key)));
      const bounds = parts.map((p) => p.shape.bounds).reduce(joinBounds, runBounds(run));
      return { run, step, parts, bounds, news: newsOf(layers, parts) };
    } finally {
      for (const key of held) this.pinned.set(key, this.pinned.get(key)! - 1);
    }
  }

  /**
   * Gets what the coming steps of play need before they are due, so that showing them waits for nothing. Failures are
   * met when the step is shown.
   */
  readAhead(scene: Scene, steps: number[]): void {
    for (const step of steps) {
      for (const layer of scene.layers.filter((l) => l.visible && l.opacity > 0)) {
        for (const { part, request } of requestsOfLayer(layer, scene, this.run, step).requests)
          void this.make({ ...request, ahead: true }, `ahead/${step}/${layer.id}/${part}`).catch(
            () => undefined,
          );
      }
    }
  }

  /** The run with the ranges a scene needs, each computed whole and once: pictures never depend on what was seen. */
  private async withRanges(scene: Scene): Promise<RunDescription> {
    if (!this.askRange) return this.run;
    const shown = scene.layers.filter((l) => l.visible && l.opacity > 0);
    const keys = shown.flatMap((l) => quantitiesOfLayer(l, scene, this.run));
    await Promise.all(unmeasured(keys, this.run).map((key) => this.measured(key)));
    return this.run;
  }

  private measured(key: string): Promise<void> {
    let coming = this.ranges.get(key);
    if (!coming) {
      coming = this.askRange!(key).then((range) => {
        this.current = withRange(this.current, key, range);
      });
      this.ranges.set(key, coming);
      // What failed is asked for again the next time.
      coming.catch(() => this.ranges.delete(key));
    }
    return coming;
  }

  private picture(name: string): Promise<ImageBitmap> | null {
    const picture = this.run.parts.find((p) => p.name === name)?.picture;
    if (!picture || !this.decode) return null;
    let decoded = this.pictures.get(picture.bytes.hash);
    if (!decoded) this.pictures.set(picture.bytes.hash, (decoded = this.decode(picture)));
    return decoded;
  }

  /** Whether a shape is held; it then stays until the frame that asked is there. */
  private holds(key: string): boolean {
    const shape = this.idle.get(key);
    if (shape) {
      this.idle.delete(key);
      this.shapes.set(key, shape);
    }
    return this.shapes.has(key);
  }

  /** Lays aside what is no longer in use. */
  private rest(inUse: Set<string>): void {
    for (const [key, shape] of this.shapes) {
      if (inUse.has(key) || this.pinned.get(key)) continue;
      this.shapes.delete(key);
      this.idle.set(key, shape);
    }
  }
}

const isEmpty = ({ marks }: Shape): boolean => marks.every(isEmptyMark);

function newsOf(layers: LayerRequests[], parts: FramePart[]): Record<string, LayerNews> {
  return Object.fromEntries(
    layers.map(({ layer, trouble }) => {
      const shapes = parts.filter((p) => p.layer === layer).map((p) => p.shape);
      const report = joinReports(shapes.map((s) => s.report));
      return [layer, { empty: shapes.every(isEmpty), report, trouble }];
    }),
  );
}

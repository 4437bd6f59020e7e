import { LRUCache } from 'lru-cache';
import type { Spread } from '#core/colour/spread.ts';
import { isEmptyMark, pointsShown } from '#core/model/mark.ts';
import { type Bounds, boundsCentre, joinBounds } from '#core/model/mesh.ts';
import { type ArrayRef, type RunDescription, runBounds } from '#core/model/run.ts';
import type { Vector } from '#core/model/vectors.ts';
import type { OperationReport } from '#core/ops/chain/operation.ts';
import { joinReports } from '#core/ops/chain/report.ts';
import { type Attachment, attachmentKey, type Found } from '#core/scene/annotations/attachment.ts';
import { needsOfAnnotations } from '#core/scene/annotations/needs.ts';
import type { Curves } from '#core/scene/charts/chart-drawn.ts';
import type { Scene } from '#core/scene/document.ts';
import { keysOfScene, withSceneQuantities } from '#core/scene/named-quantities.ts';
import type { Readings } from '#core/scene/reading.ts';
import { betterFound, type FoundInPart, type Nearest } from './attached.ts';
import { ChartCurves } from './chart-curves.ts';
import { GaugeAnswers, type MeasureParts } from './gauge-answers.ts';
import { type GeometryAnswer, type GeometryRequest, geometryKey, type Shape } from './geometry-maker.ts';
import { type LayerRequests, rangesOfLayer, requestsOfLayer } from './layer-requests.ts';
import { type AskRun, Ranges } from './ranges.ts';

/** One part of one layer, ready to be drawn. */
export interface FramePart {
  layer: string;
  part: string;
  key: string;
  shape: Shape;
  /** For each mark of the shape; see `GeometryAnswer`. */
  values: (Float32Array | null)[];
  edgeValues: (Float32Array | null)[];
  /** How its values are spread over what is shown; null where nobody asked. */
  spread: Spread | null;
  /** Of a picture part: what is shown on it. */
  picture: ImageBitmap | null;
}

/** What a layer has to say of itself beside its picture. */
export interface LayerNews {
  /** Nothing of it is to be seen. */
  empty: boolean;
  /** How many lone points it shows. */
  points: number;
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
  /** What words hang on, by `attachmentKey`. */
  attached: Record<string, Found | null>;
  /** What gauges read that its words tell of, by their ids. */
  readings: Readings;
  /** What the curves of its charts are, by their ids. */
  curves: Curves;
}

type MadePart = FramePart & { attached: ReadonlyMap<string, FoundInPart | null> };

/** How a frame that takes long is shown before all of it is there. */
export interface EarlyFrames {
  /** Milliseconds from when on what is ready is given. */
  after: number;
  /** The layers of which every part is there. */
  show(frame: Frame): void;
}

/** Where geometry is made: a worker pool in the browser, or directly in tests. */
export type DecodePicture = (picture: { type: string; bytes: ArrayRef }) => Promise<ImageBitmap>;

export type MakeGeometry = (request: GeometryRequest, slot: string) => Promise<GeometryAnswer>;

/** What a source is given beside geometry; what is not given is not to be had. */
export interface SceneSourceBeside {
  decode?: DecodePicture;
  askRange?: AskRun;
  /** Of what is under way; cancelling it gives up ranges that are being computed. */
  signal?: () => AbortSignal | undefined;
  measure?: MeasureParts;
  /** Brings a column of an imported history. */
  column?: (values: ArrayRef) => Promise<ArrayLike<number>>;
}

const nowhere = (why: string) => (): Promise<never> => Promise.reject(new Error(why));

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

  readonly ranges: Ranges;
  readonly gauges: GaugeAnswers;
  readonly curves: ChartCurves;

  constructor(
    run: RunDescription,
    private readonly make: MakeGeometry,
    private readonly beside: SceneSourceBeside = {},
  ) {
    const { askRange = null, measure, column } = beside;
    this.ranges = new Ranges(run, askRange);
    this.gauges = new GaugeAnswers(this.ranges, measure ?? nowhere('Nothing is measured here.'));
    this.curves = new ChartCurves(this.gauges, column ?? nowhere('No histories are kept here.'), (name) =>
      this.ranges.otherRun(name),
    );
  }

  /** The run with the ranges that are known by now. */
  get run(): RunDescription {
    return this.ranges.run;
  }

  /**
   * @param slot frames asked for under the same slot replace each other while they wait
   * @param waitForCurves measures the curves of its charts over all steps; else they stay out
   * @param early while some layers keep the frame waiting, is given those that are there
   */
  async frame(
    scene: Scene,
    step: number,
    slot: string,
    early?: EarlyFrames,
    waitForCurves = true,
  ): Promise<Frame> {
    const run = await this.withRanges(scene);
    const layers = scene.layers
      .filter((l) => l.visible && l.opacity > 0)
      .map((l) => requestsOfLayer(l, scene, run, step));
    const { attachments, gauges, charts } = needsOfAnnotations(scene, run);
    const drawn = scene.charts.filter((c) => charts.includes(c.id));
    const curves = waitForCurves && drawn.length > 0 ? await this.curves.of(drawn, scene, run, step) : {};
    const told = this.gauges.readings(
      scene.gauges.filter((g) => gauges.includes(g.id)),
      scene,
      step,
      slot,
    );
    let readings: Readings = {};
    const wanted = layers.flatMap(({ layer, requests }) =>
      requests.map(({ part, request }) => {
        const key = geometryKey(request);
        return { layer, part, request: { ...request, have: this.holds(key) ? key : null } };
      }),
    );
    const held = wanted.flatMap(({ request }) => (request.have ? [request.have] : []));
    for (const key of held) this.pinned.set(key, (this.pinned.get(key) ?? 0) + 1);
    const whole = (made: MadePart[]): Frame => ({
      run,
      step,
      parts: made,
      bounds: made.map((p) => p.shape.bounds).reduce(joinBounds, runBounds(run)),
      news: newsOf(layers, made),
      attached: attachedIn(attachments, made),
      readings,
      curves,
    });
    const showReady = early && readyLayers(wanted, early, whole);
    try {
      const parts = await Promise.all(
        wanted.map(async ({ layer, part, request }) => {
          const answer = await this.make(request, `${slot}/${layer}/${part}`);
          if (answer.shape) this.shapes.set(answer.key, answer.shape);
          const ready = {
            layer,
            part,
            key: answer.key,
            shape: this.shapes.get(answer.key)!,
            values: answer.values,
            edgeValues: answer.edgeValues,
            spread: answer.spread,
            picture: await this.picture(part),
            attached: new Map(request.attached.map((a, i) => [attachmentKey(a), answer.attached[i]])),
          };
          showReady?.add(ready);
          return ready;
        }),
      );
      this.rest(new Set(parts.map((p) => p.key)));
      readings = await told;
      return whole(parts);
    } finally {
      showReady?.end();
      for (const key of held) this.pinned.set(key, this.pinned.get(key)! - 1);
    }
  }

  /**
   * Gets what the coming states of play need before they are due, so that showing them waits for nothing. Failures are
   * met when the state is shown.
   */
  readAhead(coming: readonly Scene[]): void {
    for (const scene of coming) {
      const { step, cycle } = scene;
      for (const layer of scene.layers.filter((l) => l.visible && l.opacity > 0)) {
        for (const { part, request } of requestsOfLayer(layer, scene, this.run, step).requests)
          void this.make(
            { ...request, ahead: true },
            `ahead/${step}/${cycle.phase}/${layer.id}/${part}`,
          ).catch(() => undefined);
      }
    }
  }

  /**
   * The point and cell of what is drawn of a part that are nearest to a place; null where nothing is drawn.
   *
   * @param place in the coordinates of the files
   */
  async nearest(
    scene: Scene,
    step: number,
    shown: { layer: string; part: string; place: Vector },
  ): Promise<Nearest | null> {
    const layer = scene.layers.find((l) => l.id === shown.layer);
    const { requests } = layer ? requestsOfLayer(layer, scene, this.run, step) : { requests: [] };
    const found = requests.find((r) => r.part === shown.part);
    if (!found) return null;
    const { origin } = this.run;
    const near = shown.place.map((v, k) => v - origin[k]) as Vector;
    const request = { ...found.request, near, have: geometryKey(found.request) };
    return (await this.make(request, `near/${shown.layer}/${shown.part}`)).near;
  }

  /** What something leads to on what a scene shows at a step. */
  async find(scene: Scene, step: number, attachment: Attachment): Promise<Found | null> {
    const layers = scene.layers.filter((l) => l.visible && l.opacity > 0);
    const each = await Promise.all(
      layers.flatMap((layer) =>
        requestsOfLayer(layer, scene, this.run, step, [attachment]).requests.map(
          async ({ part, request }): Promise<FoundInPart | null> => {
            const asked = { ...request, attached: [attachment], have: geometryKey(request) };
            return (await this.make(asked, `find/${layer.id}/${part}`)).attached[0];
          },
        ),
      ),
    );
    return each.reduce((a, b) => betterFound(attachment, a, b), null);
  }

  /** The run with the ranges a scene needs: pictures never depend on what was seen. */
  async withRanges(scene: Scene): Promise<RunDescription> {
    const signal = this.beside.signal?.();
    await this.ranges.knowIngredients(keysOfScene(scene), signal);
    const shown = scene.layers.filter((l) => l.visible && l.opacity > 0);
    const needed = shown.map((l) => rangesOfLayer(l, scene, this.run));
    const whole = {
      ranges: [...needed.flatMap((n) => n.ranges), ...needsOfAnnotations(scene, this.run).ranges],
      shares: needed.flatMap((n) => n.shares),
    };
    await this.ranges.know(whole, signal);
    return withSceneQuantities(this.run, scene);
  }

  private picture(name: string): Promise<ImageBitmap> | null {
    const picture = this.run.parts.find((p) => p.name === name)?.picture;
    if (!picture || !this.beside.decode) return null;
    let decoded = this.pictures.get(picture.bytes.hash);
    if (!decoded) this.pictures.set(picture.bytes.hash, (decoded = this.beside.decode(picture)));
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

/** Gives out the layers that are whole, from a while after the beginning until all are there. */
function readyLayers(
  wanted: readonly { layer: string }[],
  { after, show }: EarlyFrames,
  frameOf: (parts: MadePart[]) => Frame,
): { add(part: MadePart): void; end(): void } {
  const parts: MadePart[] = [];
  const due = new Map<string, number>();
  for (const { layer } of wanted) due.set(layer, (due.get(layer) ?? 0) + 1);
  let waited = false;
  const give = (): void => {
    const ready = parts.filter(({ layer }) => due.get(layer) === 0);
    if (waited && ready.length > 0 && parts.length < wanted.length) show(frameOf(ready));
  };
  const timer = setTimeout(() => {
    waited = true;
    give();
  }, after);
  return {
    add(part) {
      parts.push(part);
      due.set(part.layer, due.get(part.layer)! - 1);
      if (due.get(part.layer) === 0) give();
    },
    end() {
      clearTimeout(timer);
      waited = false;
    },
  };
}

/** What attachments lead to in all parts together; of a part, the middle of what is shown of it. */
function attachedIn(attachments: readonly Attachment[], parts: readonly MadePart[]): Frame['attached'] {
  return Object.fromEntries(
    attachments.map((attachment) => {
      const key = attachmentKey(attachment);
      if (attachment.kind === 'part') {
        const bounds = parts
          .filter((p) => p.part === attachment.part && !isEmpty(p.shape))
          .map((p) => p.shape.bounds);
        const place = bounds.length > 0 ? boundsCentre(bounds.reduce(joinBounds)) : null;
        return [key, place && { place, part: attachment.part, index: null, values: [] }];
      }
      const each = parts.map((p) => p.attached.get(key) ?? null);
      return [key, each.reduce((a, b) => betterFound(attachment, a, b), null)];
    }),
  );
}

const isEmpty = ({ marks }: Shape): boolean => marks.every(isEmptyMark);

function newsOf(layers: LayerRequests[], parts: FramePart[]): Record<string, LayerNews> {
  return Object.fromEntries(
    layers.map(({ layer, trouble, absent }) => {
      const shapes = parts.filter((p) => p.layer === layer).map((p) => p.shape);
      const report = joinReports(shapes.map((s) => s.report));
      const points = pointsShown(shapes.flatMap((s) => s.marks));
      return [layer, { empty: shapes.every(isEmpty), points, report, trouble: trouble ?? absent }];
    }),
  );
}

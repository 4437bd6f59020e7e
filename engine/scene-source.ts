import type { Drawable } from '#core/model/drawable.ts';
import { type ArrayRef, fieldByKey, type RunDescription, type RunPart } from '#core/model/run.ts';
import type { Layer, Scene } from '#core/scene/document.ts';
import { type GeometryAnswer, type GeometryRequest, geometryKey } from './geometry-maker.ts';

/** One part of one layer, ready to be drawn. */
export interface FramePart {
  layer: string;
  part: string;
  key: string;
  drawable: Drawable;
  values: Float32Array | null;
  /** Of a picture part: what is shown on it. */
  picture: ImageBitmap | null;
}

/** Everything to draw of a scene at one step: shapes and values that belong together. */
export interface Frame {
  step: number;
  parts: FramePart[];
}

/** Where geometry is made: a worker pool in the browser, or directly in tests. */
export type DecodePicture = (picture: { type: string; bytes: ArrayRef }) => Promise<ImageBitmap>;

export type MakeGeometry = (request: GeometryRequest, slot: string) => Promise<GeometryAnswer>;

/**
 * Brings the frame of a scene at a step. Shapes are kept here by key, so that only values travel while nothing but
 * the field or the step changes.
 */
export class SceneSource {
  private readonly shapes = new Map<string, Drawable>();
  /** Shapes that a frame under way counts on, by key. */
  private readonly pinned = new Map<string, number>();
  private readonly pictures = new Map<string, Promise<ImageBitmap>>();

  constructor(
    readonly run: RunDescription,
    private readonly make: MakeGeometry,
    private readonly decode: DecodePicture | null = null,
  ) {}

  /** @param slot frames asked for under the same slot replace each other while they wait */
  async frame(scene: Scene, step: number, slot: string): Promise<Frame> {
    const wanted = scene.layers
      .filter((l) => l.visible && l.opacity > 0)
      .flatMap((l) => this.requestsOf(l, step, scene));
    const held = wanted.flatMap(({ request }) => (request.have ? [request.have] : []));
    for (const key of held) this.pinned.set(key, (this.pinned.get(key) ?? 0) + 1);
    try {
      const parts = await Promise.all(
        wanted.map(async ({ layer, part, request }) => {
          const answer = await this.make(request, `${slot}/${layer}/${part}`);
          if (answer.drawable) this.remember(answer.key, answer.drawable);
          return {
            layer,
            part,
            key: answer.key,
            drawable: this.shapes.get(answer.key)!,
            values: answer.values,
            picture: await this.picture(part),
          };
        }),
      );
      this.forget(new Set(parts.map((p) => p.key)));
      return { step, parts };
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
        for (const { part, request } of this.requestsOf(layer, step, scene))
          void this.make({ ...request, ahead: true }, `ahead/${step}/${layer.id}/${part}`).catch(
            () => undefined,
          );
      }
    }
  }

  private picture(name: string): Promise<ImageBitmap> | null {
    const picture = this.run.parts.find((p) => p.name === name)?.picture;
    if (!picture || !this.decode) return null;
    let decoded = this.pictures.get(picture.bytes.hash);
    if (!decoded) this.pictures.set(picture.bytes.hash, (decoded = this.decode(picture)));
    return decoded;
  }

  /** The cells of a part that a layer is limited to; undefined when the part is not in its set at all. */
  private cellsOf(layer: Layer, part: RunPart): ArrayRef | null | undefined {
    if (!layer.set) return null;
    const set = this.run.sets.find((s) => s.name === layer.set);
    return set?.parts.find((p) => p.part === part.name)?.cells;
  }

  private requestsOf(
    layer: Layer,
    step: number,
    scene: Scene,
  ): { layer: string; part: string; request: GeometryRequest }[] {
    const { run } = this;
    return run.parts
      .filter((p) => layer.parts === null || layer.parts.includes(p.name))
      .filter((p) => !scene.parts[p.name]?.hidden)
      .flatMap((part) => {
        const state = part.steps[Math.min(step, run.steps.length - 1)];
        const cells = this.cellsOf(layer, part);
        if (!state || cells === undefined) return [];
        const colour = layer.colour;
        const field = colour.kind === 'field' ? fieldByKey(run, colour.field) : null;
        const array = field ? state.fields[field.key] : undefined;
        const request: GeometryRequest = {
          mesh: part.meshes[state.mesh],
          origin: run.origin,
          cells,
          chain: layer.chain,
          field:
            field && array && colour.kind === 'field'
              ? { array, location: field.location, components: field.components, component: colour.component }
              : null,
          have: null,
          ahead: false,
        };
        const key = geometryKey(request);
        return [
          {
            layer: layer.id,
            part: part.name,
            request: { ...request, have: this.shapes.has(key) ? key : null },
          },
        ];
      });
  }

  private remember(key: string, drawable: Drawable): void {
    this.shapes.delete(key);
    this.shapes.set(key, drawable);
  }

  /** Keeps the shapes in use and the sixteen youngest others. */
  private forget(inUse: Set<string>): void {
    const idle = [...this.shapes.keys()].filter((k) => !inUse.has(k) && !this.pinned.get(k));
    for (const key of idle.slice(0, Math.max(0, idle.length - 16))) this.shapes.delete(key);
  }
}

import type { Levels } from '#core/model/levels.ts';
import { marksOfKind } from '#core/model/mark.ts';
import { type Bounds, isFlat } from '#core/model/mesh.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { ValueGrid } from '#core/model/value-grid.ts';
import { understood } from '#core/ops/chain/understood.ts';
import { needsOfAnnotations } from '#core/scene/annotations/needs.ts';
import type { ChainStep, Scene } from '#core/scene/document.ts';
import { scaleNeedsShares } from '#core/scene/settle-scale.ts';
import { scalesOfLayer } from '#core/scene/shown-scales.ts';
import { needsSpread, type ShownSpread } from '#core/scene/spread-of-scale.ts';
import { eachThing, type SceneThings } from '#core/scene/things/registry.ts';
import type { EarlyFrames, Frame, LayerNews, SceneSource } from '#engine/scene-source.ts';
import { Superseded } from '#engine/worker-pool.ts';
import type { Viewport } from '#stage/viewport.ts';

/** Whether an operation takes its levels from the colour scale of its layer. */
const followsScale = (step: ChainStep): boolean =>
  understood(step)?.operation.controls.some(
    ({ kind, key }) => kind === 'levels' && (step.options as Record<string, Levels>)[key]?.kind === 'scale',
  ) ?? false;

/**
 * What decides about shapes and values; everything else only restyles.
 *
 * @param known the run with what scenes made of it
 */
function geometrySignature(scene: Scene, run: RunDescription, known: RunDescription): string {
  // Scales that must know how what is shown is spread.
  const spreadOf = new Set(scene.scales.flatMap((s) => (needsSpread(s, run) ? [s.id] : [])));
  const layers = scene.layers.map((l) => [
    l.id,
    l.visible && l.opacity > 0,
    l.parts,
    l.set,
    l.from,
    l.chain,
    l.time,
    l.edges.shown && [l.edges.by?.field, l.edges.by?.component],
    l.colour.kind === 'field' ? [l.colour.field, l.colour.component] : null,
    scalesOfLayer(l).filter((id) => spreadOf.has(id)),
  ]);
  const follow = scene.layers.some((l) => l.chain.some(followsScale));
  // Bands of equal shares and middles of ranges wait for what is known of all values.
  const shares = scene.scales.flatMap((s) => (scaleNeedsShares(s) ? [s.quantity] : []));
  const scales = follow
    ? scene.scales.map((s) => [s.id, s.range, s.bands, s.spacing, s.symmetric, s.tidy, s.unit])
    : null;
  const hidden = Object.entries(scene.parts).flatMap(([name, look]) =>
    look.hidden || look.edges !== null ? [[name, look.hidden, look.edges]] : [],
  );
  // What words hang on or tell is found with the shapes.
  const words = needsOfAnnotations(scene, known);
  const { phase, convention } = scene.cycle;
  const told = scene.gauges.filter((g) => words.gauges.includes(g.id));
  return JSON.stringify([
    scene.step,
    scene.onward,
    phase,
    convention,
    layers,
    hidden,
    scene.sets,
    scene.quantities,
    scales,
    shares,
    words,
    told,
  ]);
}

/** Whether two scenes hold the very same things, though they are two records. */
const sameContent = (a: Scene, b: Scene): boolean =>
  (Object.keys(a) as (keyof Scene)[]).every((key) => a[key] === b[key]);

/** Work that takes longer than this, in milliseconds, is said and can be cancelled. */
const PATIENCE = 600;

/** What is known of what is on show, for the lines and settings beside it. */
export interface OnShow {
  /** What each line has to say of itself, by layer. */
  news: Record<string, LayerNews>;
  /** How often values occur in the clouds of a line. */
  grids: Record<string, ValueGrid[]>;
  /** How values are spread over what is shown, as far as somebody must know. */
  spreads: readonly ShownSpread[];
  /** Of everything on show, in the coordinates of the files. */
  shown: Bounds;
  /** What is shown has no thickness. */
  flat: boolean;
}

export function onShowOf({ parts, news, bounds }: Frame): OnShow {
  const grids: Record<string, ValueGrid[]> = {};
  for (const { layer, shape } of parts)
    for (const { grid } of marksOfKind(shape.marks, 'volume')) (grids[layer] ??= []).push(grid);
  const spreads = parts.map(({ layer, part, spread }) => ({ layer, part, spread }));
  return { news, grids, spreads, shown: bounds, flat: isFlat(bounds) };
}

interface FeedHost {
  /** Told that shapes take a while, and when they are there. */
  busy(on: boolean): void;
  /** Told why a picture could not be made, and null when one is there. */
  trouble(text: string | null): void;
  /** Told of a frame before it is shown. */
  frame(frame: Frame, scene: Scene): void;
}

/**
 * Keeps a viewport in step with a scene: asks for geometry when it must, restyles when it can. Shapes, colours and step
 * always change together on the stage.
 */
export class SceneFeed {
  private viewport: Viewport | null = null;
  private shown: { scene: Scene; signature: string } | null = null;
  private asked = '';
  private latest: Scene | null = null;
  /** The run as the last frame had it, with the quantities of the scene. */
  private known: RunDescription;

  /** @param slot frames for the same slot of a source replace each other while they wait */
  constructor(
    private readonly source: SceneSource,
    private readonly run: RunDescription,
    private readonly slot: string,
    private readonly host: FeedHost,
  ) {
    this.known = run;
  }

  /** From now on it is shown there, once there is a scene. */
  attach(viewport: Viewport): void {
    this.viewport = viewport;
    this.shown = null;
    this.asked = '';
  }

  show(scene: Scene): void {
    this.latest = scene;
    const signature = this.signatureOf(scene);
    if (this.shown?.signature === signature) {
      // Other shapes may have been on their way: they are wanted no more.
      if (this.asked !== signature) this.host.busy(false);
      this.asked = signature;
      if (sameContent(this.shown.scene, scene)) return;
      this.shown.scene = scene;
      this.viewport?.restyle(scene);
      return;
    }
    if (this.shown) {
      // New shapes are on their way: what does not depend on them follows at once, all but the phase they are of.
      const { cycle } = this.shown.scene;
      this.shown.scene = { ...this.shown.scene, ...(eachThing(({ id }) => scene[id]) as SceneThings), cycle };
      this.viewport?.restyle(this.shown.scene);
    }
    if (signature !== this.asked) void this.fetch(scene, signature);
  }

  /** Whether shapes are on their way that are not on show yet. */
  get isWaiting(): boolean {
    return this.asked !== '' && this.asked !== this.shown?.signature;
  }

  /** From now on the shapes of this scene are wanted, and no others; whoever says so brings them. */
  expect(scene: Scene): string {
    this.asked = this.signatureOf(scene);
    return this.asked;
  }

  /** Shows a frame, unless a scene that has other shapes is given with it. */
  present(frame: Frame, scene: Scene, signature: string): boolean {
    if (this.signatureOf(scene) !== signature) return false;
    this.shown = { scene, signature };
    this.known = frame.run;
    this.host.frame(frame, scene);
    this.viewport?.show(frame, scene);
    return true;
  }

  private signatureOf(scene: Scene): string {
    return geometrySignature(scene, this.run, this.known);
  }

  private async fetch(scene: Scene, signature: string): Promise<void> {
    this.asked = signature;
    // What is wanted no more keeps nobody waiting.
    const slow = window.setTimeout(() => this.asked === signature && this.host.busy(true), PATIENCE);
    try {
      const early: EarlyFrames = {
        after: PATIENCE,
        // An empty stage fills line by line; a picture changes as a whole.
        show: (part) => {
          if (this.asked === signature && !this.shown) this.viewport?.show(part, scene);
        },
      };
      // Charts fill while the picture is there already.
      const frame = await this.source.frame(scene, scene.step, this.slot, early, false);
      if (this.asked !== signature) return;
      if (!this.present(frame, this.latest ?? scene, signature)) this.present(frame, scene, signature);
      this.host.trouble(null);
    } catch (error) {
      if (error instanceof Superseded) return;
      if (this.asked === signature) this.asked = '';
      this.host.trouble((error as Error).message);
    } finally {
      clearTimeout(slow);
      if (this.asked === signature || this.asked === '') this.host.busy(false);
    }
  }
}

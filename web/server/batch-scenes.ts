import type { BatchDrawing } from '#core/batch/batch-plan.ts';
import type { ScalesWish } from '#core/batch/batch-settings.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { PictureAt } from '#core/motion/picture-at.ts';
import type { Scene } from '#core/scene/document.ts';
import { lookSettingOf, withLook } from '#core/scene/looks/wear-look.ts';
import { rulesFor } from '#core/scene/on-other-run.ts';
import { renameInScene } from '#core/scene/rename-in-scene.ts';
import { repairScene } from '#core/scene/repair-scene.ts';
import { joinEnds, type ScaleEnds, withEnds, withoutEnds } from '#core/scene/scale-ends.ts';
import type { BatchOrder, OrderedShot } from './batch-order.ts';
import { type OpenedRun, openedRun } from './opened-run.ts';
import { isOfBrowser } from './render-pictures.ts';

/** Where the scales of shots begin and end in all pictures of a batch, by the ids of the shots. */
export type EndsOfShots = ReadonlyMap<string, ScaleEnds>;

/** Tells where the scales of a scene begin and end. */
export interface EndsTeller {
  ends(order: { run: string; scene: Scene; step: number }): Promise<ScaleEnds>;
}

/** What is drawn for each drawing of a batch: its shot, as it is on its run. */
export class BatchScenes {
  private readonly shots: Map<string, { shot: OrderedShot; scene: Scene }>;
  /** The run looked at last. */
  private opened: { id: string; run: Promise<OpenedRun> } | null = null;

  constructor(private readonly order: BatchOrder) {
    this.shots = new Map(
      order.shots.map((shot) => [shot.id, { shot, scene: repairScene(shot.document).scene }]),
    );
  }

  nameOfShot(id: string): string {
    return this.shots.get(id)!.shot.name;
  }

  /** @throws ReadError where it is gone */
  openRun(id: string): Promise<OpenedRun> {
    if (this.opened?.id !== id) this.opened = { id, run: openedRun(id) };
    return this.opened.run;
  }

  /**
   * The scene of a shot on a run, in a look, with its scales where they are to be.
   *
   * @returns also what of the look found nothing it fits, in words
   */
  sceneFor(
    { shot: id, look, run: runId }: BatchDrawing,
    run: RunDescription,
    ends: EndsOfShots,
  ): { scene: Scene; notes: string[] } {
    const { shot, scene: kept } = this.shots.get(id)!;
    const meant = shot.run === runId ? kept : this.meant(kept, run);
    const worn = look === null ? null : withLook(meant, this.order.looks[look], lookSettingOf(run));
    const dressed = worn?.scene ?? meant;
    const scene = withEnds(withoutEnds(dressed, this.scalesWith(dressed, 'each')), ends.get(id) ?? {});
    return { scene, notes: (worn?.unmatched ?? []).map((what) => `of the look, ${what}`) };
  }

  pictureAt({ step }: BatchDrawing, scene: Scene): PictureAt {
    const isKept = this.order.keptSteps && step === scene.step;
    return { step, onward: isKept ? scene.onward : 0, phase: null };
  }

  /**
   * Where the scales of each shot begin and end in all of its pictures; of scales that follow each run nothing is said.
   *
   * @param progress told of every drawing that was looked at
   */
  async ends(teller: EndsTeller, progress: (done: number) => void): Promise<EndsOfShots> {
    const ends = new Map<string, ScaleEnds>();
    for (const [id, { shot, scene }] of this.shots)
      ends.set(id, await this.endsOf(teller, shot.run, scene, scene.step, 'kept'));
    const looked = new Set<string>();
    const { drawings } = this.order;
    for (const [i, { shot: id, run, step, film }] of drawings.entries()) {
      // A film may show any of them.
      const steps = film === undefined ? [step] : await this.stepsOf(run);
      for (const one of steps) {
        const place = `${id} ${run} ${one}`;
        if (looked.has(place)) continue;
        looked.add(place);
        const found = await this.endsOf(teller, run, this.shots.get(id)!.scene, one, 'shared');
        ends.set(id, joinEnds(ends.get(id)!, found));
      }
      progress((i + 1) / drawings.length);
    }
    return ends;
  }

  /** Indices of the steps of a run; none of one that is gone. */
  private async stepsOf(id: string): Promise<number[]> {
    const opened = await this.openRun(id).catch(() => null);
    return opened?.run.steps.map((_, i) => i) ?? [];
  }

  /** Of the scales of which this is wished. A run that is gone says nothing: that is told of its picture. */
  private async endsOf(
    teller: EndsTeller,
    id: string,
    kept: Scene,
    step: number,
    wish: ScalesWish,
  ): Promise<ScaleEnds> {
    const wished = this.scalesWith(kept, wish);
    const opened = wished.size === 0 ? null : await this.openRun(id).catch(() => null);
    if (!opened) return {};
    const { run } = opened;
    const order = { run: id, scene: this.meant(kept, run), step: Math.min(step, run.steps.length - 1) };
    const found = await teller.ends(order).catch((error: unknown) => {
      if (isOfBrowser(error)) throw error;
      // What is wrong with it is told of its picture.
      return {} as ScaleEnds;
    });
    return Object.fromEntries(Object.entries(found).filter(([scale]) => wished.has(scale)));
  }

  private scalesWith(scene: Scene, wish: ScalesWish): ReadonlySet<string> {
    const { scales, scaleOf } = this.order.settings;
    const wishFor = (quantity: string): ScalesWish =>
      Object.hasOwn(scaleOf, quantity) ? scaleOf[quantity] : scales;
    return new Set(scene.scales.flatMap((s) => (wishFor(s.quantity) === wish ? [s.id] : [])));
  }

  private meant(scene: Scene, run: RunDescription): Scene {
    return renameInScene(scene, rulesFor(run, this.order.rules));
  }
}

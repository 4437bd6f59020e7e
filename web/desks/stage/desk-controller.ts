import { quantityField } from '#core/fields/quantity-sources.ts';
import type { Levels } from '#core/model/levels.ts';
import { marksOfKind } from '#core/model/mark.ts';
import { isFlat } from '#core/model/mesh.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { ValueGrid } from '#core/model/value-grid.ts';
import { understood } from '#core/ops/chain/understood.ts';
import { needsOfAnnotations } from '#core/scene/annotations/needs.ts';
import type { ChainStep, Scene } from '#core/scene/document.ts';
import { freshLayer } from '#core/scene/read-layer.ts';
import { sceneForm } from '#core/scene/scene-changes.ts';
import { scaleNeedsShares } from '#core/scene/settle-scale.ts';
import { scalesOfLayer } from '#core/scene/shown-scales.ts';
import { needsSpread } from '#core/scene/spread-of-scale.ts';
import { eachThing, type SceneThings } from '#core/scene/things/registry.ts';
import type { EarlyFrames, Frame, SceneSource } from '#engine/scene-source.ts';
import { ask } from '#engine/server-requests.ts';
import { Superseded, type WorkerPool } from '#engine/worker-pool.ts';
import type { Viewport } from '#stage/viewport.ts';
import { GaugeWatcher } from '#web/desks/gauges/gauge-watcher.ts';
import { withMeasured } from '#web/desks/gauges/lit-up.ts';
import { FilmPreview, type PreviewOf } from '#web/desks/reel/film-preview.ts';
import { DocumentSaver } from '#web/desks/shared/document-saver.ts';
import { keptSceneNow, sceneNow, shownScene, useDesk } from './desk-store.ts';
import type { Finding } from './finding-context.ts';
import { geometryPool, pooledSource } from './geometry-pool.ts';
import { dueOn, type PlayTrack, playTracks, statesAhead, trackNow } from './play-track.ts';
import { valuesOfFormula } from './quantities/formula-values.ts';
import { showAsBody } from './show-as-body.ts';

/** Whether an operation takes its levels from the colour scale of its layer. */
const followsScale = (step: ChainStep): boolean =>
  understood(step)?.operation.controls.some(
    ({ kind, key }) => kind === 'levels' && (step.options as Record<string, Levels>)[key]?.kind === 'scale',
  ) ?? false;

/** What decides about shapes and values; everything else only restyles. */
function geometrySignature(scene: Scene, run: RunDescription): string {
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
  const words = needsOfAnnotations(scene, useDesk.getState().run);
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

/** Work that takes longer than this, in milliseconds, is said and can be cancelled. */
const PATIENCE = 600;

/** The scene with the part set that is being made, and what an opened gauge is measured on, lit up. */
function withDraft(plain: Scene): Scene {
  const { draft, run, openGauge } = useDesk.getState();
  const scene = withMeasured(plain, openGauge);
  if (!draft) return scene;
  const layer = {
    ...freshLayer(run, 'draft-set'),
    set: draft.name,
    colour: { kind: 'plain' as const, colour: '#e8590c' },
    edges: { shown: true, colour: '#7a2c00', opacity: 0.6, by: null },
  };
  return { ...scene, layers: [...scene.layers, layer], sets: [...scene.sets, draft] };
}

/** Whether two scenes hold the very same things, though they are two records. */
const sameContent = (a: Scene, b: Scene): boolean =>
  (Object.keys(a) as (keyof Scene)[]).every((key) => a[key] === b[key]);

/**
 * Keeps the stage in step with the scene: asks for geometry when it must, restyles when it can, plays, and saves.
 * Shapes, colours and step always change together on the stage.
 */
export class DeskController {
  readonly source: SceneSource;
  private readonly pool: WorkerPool;
  private viewport: Viewport | null = null;
  private shown: { scene: Scene; signature: string } | null = null;
  private asked = '';
  readonly saver: DocumentSaver<Scene>;
  private readonly gauges: GaugeWatcher;
  private readonly leave: () => void;
  private playStart = { at: 0, index: 0 };
  private readonly preview = new FilmPreview();
  /** A picture that was kept lies over what is drawn. */
  private isCovered = false;
  private cancelling = new AbortController();

  constructor(
    readonly run: RunDescription,
    revision: number,
  ) {
    this.pool = geometryPool();
    this.source = pooledSource(run, this.pool, useDesk.getState().runId, () => this.cancelling.signal);
    this.gauges = new GaugeWatcher(this.source);
    this.saver = new DocumentSaver(
      {
        address: `/api/scenes/${useDesk.getState().id}`,
        form: sceneForm,
        now: keptSceneNow,
        adopt: (changes) =>
          useDesk.setState((s) => ({ history: s.history.withChangesFromElsewhere(changes) })),
        told: (save) => useDesk.setState({ save }),
      },
      keptSceneNow(),
      revision,
    );
    this.leave = useDesk.subscribe((s, before) => {
      if (
        s.history.scene !== before.history?.scene ||
        s.desk !== before.desk ||
        (s.desk === 'reel' && (s.filmTime !== before.filmTime || s.outside !== before.outside)) ||
        s.tried !== before.tried ||
        s.draft !== before.draft ||
        s.openGauge !== before.openGauge ||
        // The arrow of an opened gauge waits for what it reads.
        (s.openGauge !== null && s.readings !== before.readings)
      )
        this.sceneChanged(s.tried ?? shownScene(s));
      if (s.history.scene !== before.history?.scene || s.outside !== before.outside) this.tellPreview();
      if (s.curves !== before.curves && needsOfAnnotations(sceneNow(), this.run).charts.length > 0)
        this.viewport?.tell(s.curves);
      if (s.playing && (!before.playing || s.rate !== before.rate || s.plays !== before.plays))
        void this.play();
    });
    addEventListener('pagehide', this.leavePage);
    addEventListener('focus', this.lookAround);
  }

  attach(viewport: Viewport): void {
    this.viewport = viewport;
    this.shown = null;
    this.asked = '';
    this.sceneChanged(sceneNow());
  }

  close(): void {
    this.gauges.close();
    this.saver.leave();
    this.leave();
    this.pool.close();
    removeEventListener('pagehide', this.leavePage);
    removeEventListener('focus', this.lookAround);
  }

  readonly finding: Finding = {
    nearest: ({ layer, part, place }) => {
      const scene = sceneNow();
      return this.source.nearest(scene, scene.step, { layer, part, place });
    },
    extreme: (kind, of, step) => this.source.find(sceneNow(), step, { kind, among: 'all', values: [of] }),
    range: async (key) => {
      const field = quantityField(key, this.source.run);
      const component = field && field.components > 1 ? 'magnitude' : 0;
      return this.source.ranges.rangeOf(key, component, 'all', this.cancelling.signal).catch(() => null);
    },
    numbers: async (keys) => {
      await this.source.ranges.knowIngredients(keys, this.cancelling.signal);
      const { numbers, others } = this.source.run;
      useDesk.setState(({ run }) => ({ run: { ...run, numbers, others } }));
    },
    formula: (formula, own) => valuesOfFormula(this.source, sceneNow(), formula, own),
  };

  /** Stops what is being computed; the picture stays as it was. */
  cancel = (): void => {
    this.cancelling.abort(new Error('Cancelled. The picture is as it was before; undo or change the line.'));
    this.cancelling = new AbortController();
  };

  private sceneChanged(plain: Scene): void {
    this.saver.notice();
    if (this.isCovered) return;
    const scene = withDraft(plain);
    const signature = geometrySignature(scene, this.run);
    if (this.shown?.signature === signature) {
      // Other shapes may have been on their way: they are wanted no more.
      if (this.asked !== signature) useDesk.setState({ busy: false });
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

  private async fetch(scene: Scene, signature: string): Promise<void> {
    this.asked = signature;
    // What is wanted no more keeps nobody waiting.
    const slow = window.setTimeout(
      () => this.asked === signature && useDesk.setState({ busy: true }),
      PATIENCE,
    );
    try {
      const early: EarlyFrames = {
        after: PATIENCE,
        // An empty stage fills line by line; a picture changes as a whole.
        show: (part) => {
          if (this.asked === signature && !this.shown) this.viewport?.show(part, scene);
        },
      };
      // Charts fill while the picture is there already.
      const frame = await this.source.frame(scene, scene.step, 'view', early, false);
      if (this.asked !== signature) return;
      const latest = withDraft(sceneNow());
      this.present(frame, geometrySignature(latest, this.run) === signature ? latest : scene, signature);
      useDesk.setState({ trouble: null });
    } catch (error) {
      if (error instanceof Superseded) return;
      if (this.asked === signature) this.asked = '';
      useDesk.setState({ trouble: (error as Error).message });
    } finally {
      clearTimeout(slow);
      if (this.asked === signature || this.asked === '') useDesk.setState({ busy: false });
    }
  }

  private present(frame: Frame, scene: Scene, signature: string): void {
    this.shown = { scene, signature };
    frame.curves = useDesk.getState().curves;
    this.viewport?.show(frame, scene);
    const grids: Record<string, ValueGrid[]> = {};
    for (const { layer, shape } of frame.parts)
      for (const { grid } of marksOfKind(shape.marks, 'volume')) (grids[layer] ??= []).push(grid);
    // Ranges that were computed for this frame are shown by legends and sliders as well.
    const { run } = frame;
    const flat = isFlat(frame.bounds);
    const { becomesBody } = useDesk.getState();
    const spreads = frame.parts.map(({ layer, part, spread }) => ({ layer, part, spread }));
    const { news, bounds: shown } = frame;
    useDesk.setState({ run, news, grids, spreads, shown, flat, becomesBody: null });
    if (becomesBody && !flat) showAsBody(becomesBody);
  }

  /** Shows the state that is due by the clock; when work or drawing takes longer than one, states are skipped. */
  private async play(): Promise<void> {
    const track = trackNow();
    const begin = { at: performance.now(), index: track.now(sceneNow()) };
    this.playStart = begin;
    const preview = track === playTracks.film ? this.preview : null;
    this.viewport?.setMoving(true);
    while (useDesk.getState().playing && this.playStart === begin) {
      const now = sceneNow();
      const due = dueOn(track, now, (performance.now() - begin.at) / 1000, begin.index);
      if (due === track.now(now)) {
        await new Promise((r) => setTimeout(r, 8));
        continue;
      }
      if (!(preview && (await this.showKept(preview, track, due)))) {
        await this.showState(track, due);
        // Playing does not wait for it.
        if (preview) void this.keep(track, due);
      }
      await new Promise((r) => requestAnimationFrame(r));
    }
    if (useDesk.getState().playing) return;
    // What lies below the pictures that were kept is brought to where they ended.
    if (this.isCovered) await this.showState(trackNow(), trackNow().now(sceneNow()));
    this.viewport?.setMoving(false);
  }

  /** Draws one of the states that play. */
  private async showState(track: PlayTrack, index: number): Promise<void> {
    const scene = track.at(sceneNow(), index);
    const signature = geometrySignature(scene, this.run);
    this.asked = signature;
    this.isCovered = false;
    try {
      const frame = await this.source.frame(scene, scene.step, 'view', undefined, false);
      this.source.readAhead(statesAhead(index, track.count()).map((next) => track.at(scene, next)));
      const latest = track.at(sceneNow(), index);
      if (geometrySignature(latest, this.run) !== signature || track !== trackNow()) return;
      this.present(frame, latest, signature);
      track.go(index);
      // Without a graphics card the steps that cannot be drawn would only take time from the one that can.
      await this.viewport?.idle();
    } catch (error) {
      if (error instanceof Superseded) return;
      useDesk.setState({ playing: false, trouble: (error as Error).message });
    }
  }

  /** Shows a picture of the film that was kept; whether there is one. */
  private async showKept(preview: FilmPreview, track: PlayTrack, index: number): Promise<boolean> {
    preview.fit(this.previewNow());
    const picture = await preview.picture(index);
    if (!picture) return false;
    this.isCovered = true;
    this.viewport?.cover(picture);
    picture.close();
    track.go(index);
    return true;
  }

  /** Keeps a picture of the film where it is on the screen, in all its pixels. */
  private async keep(track: PlayTrack, index: number): Promise<void> {
    const { preview, viewport } = this;
    preview.fit(this.previewNow());
    const isShown = track === trackNow() && track.now(sceneNow()) === index && !this.isCovered;
    if (!isShown || !viewport || viewport.isCoarse || preview.has(index)) return;
    await preview.keep(index, viewport.snapshot());
    this.tellPreview();
  }

  /** Pictures of what was changed since are forgotten; how many are left is told. */
  private tellPreview(): void {
    const { preview } = this;
    preview.fit(this.previewNow());
    if (preview.kept !== useDesk.getState().preview.kept)
      useDesk.setState((s) => ({ preview: { ...s.preview, kept: preview.kept } }));
  }

  private previewNow(): PreviewOf {
    const { outside } = useDesk.getState();
    const { pixelWidth = 0, pixelHeight = 0 } = this.viewport ?? {};
    return { scene: keptSceneNow(), outside, width: pixelWidth, height: pixelHeight };
  }

  /** Draws the pictures of the film that were not kept yet, so that it plays at its own speed; until it is stopped. */
  async makePreview(): Promise<void> {
    const track = playTracks.film;
    const begin = track.now(sceneNow());
    const goesOn = (): boolean => {
      const { preview, desk, playing } = useDesk.getState();
      return preview.making && desk === 'reel' && !playing;
    };
    const of = this.previewNow();
    this.preview.fit(of);
    useDesk.setState({ preview: { kept: this.preview.kept, making: true }, playing: false });
    this.viewport?.setMoving(true, true);
    // Another scene is another film.
    for (let index = 0; goesOn() && of.scene === keptSceneNow() && index < track.count(); index++)
      if (!this.preview.has(index)) {
        await this.showState(track, index);
        await this.keep(track, index);
      }
    if (goesOn() && of.scene === keptSceneNow()) await this.showState(track, begin);
    useDesk.setState((s) => ({ preview: { ...s.preview, making: false } }));
    if (!useDesk.getState().playing) this.viewport?.setMoving(false);
  }

  private leavePage = (): void => this.saver.leave();
  private lookAround = (): void => void this.saver.lookAround();

  /** Stores a small picture of the scene for the list of scenes. */
  async saveThumbnail(thumbnail: string): Promise<void> {
    await ask(`/api/scenes/${useDesk.getState().id}/thumbnail`, { method: 'PUT', json: { thumbnail } }).catch(
      () => undefined,
    );
  }
}

import { isFlat } from '#core/model/mesh.ts';
import type { RunDescription } from '#core/model/run.ts';
import { needsOfAnnotations } from '#core/scene/annotations/needs.ts';
import type { Scene } from '#core/scene/document.ts';
import { freshLayer } from '#core/scene/read-layer.ts';
import { sceneForm } from '#core/scene/scene-changes.ts';
import type { Frame, SceneSource } from '#engine/scene-source.ts';
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
import { onShowOf, SceneFeed } from './scene-feed.ts';
import { sceneFinding } from './scene-finding.ts';
import { showAsBody } from './show-as-body.ts';

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

/** Keeps the stage in step with the scene, plays, and saves. */
export class DeskController {
  readonly source: SceneSource;
  private readonly pool: WorkerPool;
  private viewport: Viewport | null = null;
  private readonly feed: SceneFeed;
  readonly finding: Finding;
  readonly saver: DocumentSaver<Scene>;
  private readonly gauges: GaugeWatcher;
  private readonly leave: () => void;
  private readonly leaveSaver: () => void;
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
    this.finding = sceneFinding(this.source, () => this.cancelling.signal);
    this.feed = new SceneFeed(this.source, run, 'view', {
      busy: (busy) => useDesk.setState({ busy }),
      trouble: (trouble) => useDesk.setState({ trouble }),
      frame: (frame) => this.presented(frame),
    });
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
    this.leaveSaver = this.saver.savesAlong(useDesk, (s) => s.history.scene);
  }

  attach(viewport: Viewport): void {
    this.viewport = viewport;
    this.feed.attach(viewport);
    this.sceneChanged(sceneNow());
  }

  close(): void {
    this.gauges.close();
    this.leaveSaver();
    this.leave();
    this.pool.close();
  }

  /** Stops what is being computed; the picture stays as it was. */
  cancel = (): void => {
    this.cancelling.abort(new Error('Cancelled. The picture is as it was before; undo or change the line.'));
    this.cancelling = new AbortController();
  };

  private sceneChanged(plain: Scene): void {
    if (!this.isCovered) this.feed.show(withDraft(plain));
  }

  private presented(frame: Frame): void {
    frame.curves = useDesk.getState().curves;
    // Ranges that were computed for this frame are shown by legends and sliders as well.
    const { run } = frame;
    const { becomesBody } = useDesk.getState();
    useDesk.setState({ run, ...onShowOf(frame), becomesBody: null });
    if (becomesBody && !isFlat(frame.bounds)) showAsBody(becomesBody);
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
    const signature = this.feed.expect(scene);
    this.isCovered = false;
    try {
      const frame = await this.source.frame(scene, scene.step, 'view', undefined, false);
      this.source.readAhead(statesAhead(index, track.count()).map((next) => track.at(scene, next)));
      const latest = track.at(sceneNow(), index);
      if (track !== trackNow() || !this.feed.present(frame, latest, signature)) return;
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

  /** Stores a small picture of the scene for the list of scenes. */
  async saveThumbnail(thumbnail: string): Promise<void> {
    await ask(`/api/scenes/${useDesk.getState().id}/thumbnail`, { method: 'PUT', json: { thumbnail } }).catch(
      () => undefined,
    );
  }
}

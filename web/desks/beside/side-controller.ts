import { type Difference, knowingOther } from '#core/beside/difference.ts';
import { type DrawnScenes, drawnScenes } from '#core/beside/drawn-scenes.ts';
import { pairOf, scenePanes } from '#core/beside/side-by-side.ts';
import { DIFFERENCE } from '#core/beside/side-layout.ts';
import { sameJson } from '#core/model/same-json.ts';
import type { Scene } from '#core/scene/document.ts';
import type { SceneSource } from '#engine/scene-source.ts';
import type { WorkerPool } from '#engine/worker-pool.ts';
import { Card } from '#stage/card.ts';
import { Stage } from '#stage/stage.ts';
import { Viewport } from '#stage/viewport.ts';
import { openDesk, type SceneKeeper, showKept, useDesk } from '#web/desks/stage/desk-store.ts';
import type { Finding } from '#web/desks/stage/finding-context.ts';
import { geometryPool, pooledSource } from '#web/desks/stage/geometry-pool.ts';
import { onShowOf, SceneFeed } from '#web/desks/stage/scene-feed.ts';
import { sceneFinding } from '#web/desks/stage/scene-finding.ts';
import {
  chosenPane,
  differenceIn,
  editSide,
  redoSide,
  scaledPanes,
  sideNow,
  undoSide,
  useBeside,
} from './beside-store.ts';

interface PaneAtWork {
  viewport: Viewport;
  feed: SceneFeed;
}

/** How long a state is on show at least while the steps play, in milliseconds. */
const STATE = 250;

/** Keeps the panes in step with what is looked at side by side: one pool of workers, one graphics card, and one source a run for all. */
export class SideController {
  private readonly pool: WorkerPool = geometryPool();
  private readonly card = new Card(document.createElement('canvas'));
  private readonly sources = new Map<string, SceneSource>();
  private readonly panes = new Map<string, PaneAtWork>();
  private cancelling = new AbortController();
  private readonly leave: (() => void)[];
  /** As they were drawn last. */
  private last: DrawnScenes = { scenes: new Map(), legends: [], notes: [] };

  constructor() {
    this.chooseOne();
    this.leave = [
      useBeside.subscribe((s, before) => {
        if (s.history !== before.history || s.chosen !== before.chosen || s.runs !== before.runs)
          this.chooseOne();
        if (s.history !== before.history || s.onShow !== before.onShow || s.runs !== before.runs)
          this.update();
        if (s.playing && !before.playing) void this.play();
      }),
      useDesk.subscribe((s, before) => {
        if (s.tried !== before.tried) this.update();
      }),
    ];
  }

  close(): void {
    for (const leave of this.leave) leave();
    for (const { viewport } of this.panes.values()) viewport.dispose();
    this.card.dispose();
    this.pool.close();
  }

  /** What stands in the panes, with the scales they share. */
  get drawn(): DrawnScenes {
    return this.last;
  }

  /** Of a run that is there. */
  sourceOf(id: string): SceneSource {
    let source = this.sources.get(id);
    if (!source) {
      const run = useBeside.getState().runs.get(id)!;
      source = pooledSource(run, this.pool, id, () => this.cancelling.signal);
      this.sources.set(id, source);
    }
    return source;
  }

  /** Finds things in the pane that is edited, which is of this run. */
  findingOf(run: string): Finding {
    return sceneFinding(this.sourceOf(run), () => this.cancelling.signal);
  }

  /** Shows a pane on canvases of the page, until the function it gives is called. */
  attach(
    id: string,
    canvas: HTMLCanvasElement,
    words: HTMLCanvasElement,
  ): { viewport: Viewport; detach(): void } {
    const viewport = new Viewport(canvas, words, this.card);
    viewport.mostPasses = Number(localStorage.getItem('passes-at-rest')) || Number.POSITIVE_INFINITY;
    const trouble = (text: string | null): void =>
      useBeside.setState(({ troubles: { [id]: _, ...others } }) => ({
        troubles: text === null ? others : { ...others, [id]: text },
      }));
    viewport.onTrouble = (error) =>
      trouble(`The picture could not be drawn: ${error.message}. Reload the page.`);
    viewport.onMissing = trouble;
    const source = this.sourceFor(id);
    const feed = new SceneFeed(source, source.run, `pane ${id}`, {
      busy: (busy) => useBeside.setState((s) => ({ busy: { ...s.busy, [id]: busy } })),
      trouble,
      frame: (frame) => {
        const shown = { ...onShowOf(frame), run: frame.run };
        useBeside.setState((s) => ({ onShow: { ...s.onShow, [id]: shown } }));
        if (chosenPane(useBeside.getState())?.id === id) useDesk.setState(shown);
      },
    });
    feed.attach(viewport);
    this.panes.set(id, { viewport, feed });
    this.update();
    return {
      viewport,
      detach: () => {
        this.panes.delete(id);
        viewport.dispose();
        trouble(null);
        useBeside.setState(({ onShow: { [id]: _, ...onShow } }) => ({ onShow }));
      },
    };
  }

  /** A stage away from the screen, on the card of all. */
  newStage(): Stage {
    return new Stage(document.createElement('canvas'), this.card);
  }

  /** Stops what is being computed. */
  cancel = (): void => {
    this.cancelling.abort(new Error('Cancelled. The pictures are as they were before.'));
    this.cancelling = new AbortController();
  };

  /** How much the two that are compared differ; null unless it is asked. */
  difference(): Difference | string | null {
    const side = sideNow();
    if (side.show.as !== 'difference') return null;
    return differenceIn(side, useBeside.getState().runs, this.last.scenes);
  }

  private sourceFor(id: string): SceneSource {
    const pane = scenePanes(sideNow()).find((p) => p.id === id);
    return pane ? this.sourceOf(pane.run) : this.differenceSource;
  }

  /** Of the first of the two that are compared, which knows the second by its name. */
  get differenceSource(): SceneSource {
    const { runs } = useBeside.getState();
    const [first, second] = pairOf(sideNow())!;
    if (first.run === second.run) return this.sourceOf(first.run);
    const key = `${first.run} ${second.run}`;
    let source = this.sources.get(key);
    if (!source) {
      // The run that is meant, should others have its name.
      const run = knowingOther(runs.get(first.run)!, runs.get(second.run)!);
      source = pooledSource(run, this.pool, first.run, () => this.cancelling.signal);
      this.sources.set(key, source);
    }
    return source;
  }

  /** Brings what is chosen to the lines beside the panes. */
  private chooseOne(): void {
    const state = useBeside.getState();
    const pane = chosenPane(state);
    const run = pane && state.runs.get(pane.run);
    if (!pane || !run) return;
    const desk = useDesk.getState();
    if (desk.id === pane.id && desk.runId === pane.run) {
      if (desk.history.scene !== pane.scene) showKept(pane.scene);
      return;
    }
    const shown = state.onShow[pane.id];
    openDesk(
      { id: pane.id, runId: pane.run, run: shown?.run ?? run, shots: [], repairs: [], document: pane.scene },
      keeperOf(pane.id),
    );
    if (shown) useDesk.setState(shown);
  }

  private update(): void {
    const state = useBeside.getState();
    const side = state.history.now;
    const drawn = drawnScenes(scaledPanes(side, state.runs, state.onShow), side.show.legend);
    const scenes = new Map<string, Scene>();
    for (const [id, scene] of drawn.scenes) {
      const before = this.last.scenes.get(id)?.scales;
      // Scales that say the same are the same: else everything would be drawn anew.
      scenes.set(id, before && sameJson(before, scene.scales) ? { ...scene, scales: before } : scene);
    }
    this.last = { ...drawn, scenes };
    const { tried } = useDesk.getState();
    const chosen = chosenPane(state)?.id;
    for (const pane of scenePanes(side)) {
      const scene = scenes.get(pane.id) ?? pane.scene;
      this.panes.get(pane.id)?.feed.show(pane.id === chosen && tried ? tried : scene);
    }
    const difference = this.panes.get(DIFFERENCE);
    const found = difference && this.difference();
    if (difference && found && typeof found !== 'string') difference.feed.show(found.scene);
  }

  /** Shows one state after the other in all panes; each waits until all panes show it. */
  private async play(): Promise<void> {
    const goesOn = (): boolean => useBeside.getState().playing;
    const each = [...this.panes.values()];
    for (const { viewport } of each) viewport.setMoving(true);
    while (goesOn()) {
      const pane = chosenPane(useBeside.getState());
      const run = pane && useBeside.getState().runs.get(pane.run);
      if (!pane || !run || run.steps.length < 2) break;
      const until = performance.now() + STATE;
      editSide({ type: 'side.step', id: pane.id, step: (pane.scene.step + 1) % run.steps.length });
      await this.settled(goesOn);
      const left = until - performance.now();
      if (left > 0) await new Promise((resolve) => setTimeout(resolve, left));
    }
    useBeside.setState({ playing: false });
    for (const { viewport } of each) viewport.setMoving(false);
  }

  /** Until every pane shows what it is to show. */
  private async settled(goesOn: () => boolean): Promise<void> {
    const each = [...this.panes.values()];
    while (goesOn() && each.some(({ feed }) => feed.isWaiting))
      await new Promise((resolve) => setTimeout(resolve, 15));
    for (const { viewport } of each) await viewport.idle();
  }
}

/** Edits of the pane that is chosen go to all that are linked with it. */
const keeperOf = (id: string): SceneKeeper => ({
  edit: (edit, key) => editSide({ type: 'side.scene', id, edit }, key),
  showAt: ({ step, phase }) => {
    if (step !== undefined) editSide({ type: 'side.step', id, step });
    if (phase !== undefined)
      editSide(
        { type: 'side.scene', id, edit: { type: 'setting.change', thing: 'cycle', change: { phase } } },
        'phase',
      );
  },
  undo: undoSide,
  redo: redoSide,
});

import type { RunDescription } from '#core/model/run.ts';
import { needsOfAnnotations } from '#core/scene/annotations/needs.ts';
import type { Curves } from '#core/scene/charts/chart-drawn.ts';
import type { Chart, Scene } from '#core/scene/document.ts';
import type { SceneSource } from '#engine/scene-source.ts';
import { Superseded } from '#engine/worker-pool.ts';
import { sceneNow, useDesk } from '#web/desks/stage/desk-store.ts';

/** What decides about the numbers of a scene; everything else is only looks. */
const decides = ['gauges', 'layers', 'sets', 'step', 'cycle'] as const;

/** How often curves that are being measured are drawn as far as they are known, in milliseconds. */
const OFTEN = 400;

/** Keeps what gauges read and the curves of charts in step with the scene, while the desk shows them. */
export class GaugeWatcher {
  private readonly leave: () => void;
  private seen: Pick<Scene, (typeof decides)[number]> | null = null;
  private drawn: readonly Chart[] = [];
  private onDesk = false;
  private measuring: AbortController | null = null;

  constructor(private readonly source: SceneSource) {
    this.leave = useDesk.subscribe((s, before) => {
      if (s.history?.scene !== before.history?.scene || s.desk !== before.desk) this.notice();
    });
    this.notice();
  }

  close(): void {
    this.leave();
    const { measuring } = this;
    this.measuring = null;
    measuring?.abort(new DOMException('closed', 'AbortError'));
  }

  private notice(): void {
    const { desk, history, run } = useDesk.getState();
    if (!history) return;
    const { scene } = history;
    const onDesk = desk === 'gauges';
    const wanted = onDesk ? scene.charts : chartsOnPicture(scene, run);
    if (!onDesk && wanted.length === 0) return;
    const { seen } = this;
    const changed = !seen || decides.some((key) => seen[key] !== scene[key]);
    if (changed || onDesk !== this.onDesk) {
      this.seen = scene;
      this.onDesk = onDesk;
      if (onDesk) void this.read(scene);
    }
    if (changed || !sameList(wanted, this.drawn)) {
      this.drawn = wanted;
      void this.draw(scene, wanted);
    }
  }

  private async read(scene: Scene): Promise<void> {
    try {
      const readings = await this.source.gauges.readings(scene.gauges, scene, scene.step, 'panel');
      if (this.seen === scene) useDesk.setState({ readings });
    } catch (error) {
      // What a newer step took the place of, or was cancelled, is measured when it is next asked for.
      if (!(error instanceof Superseded)) useDesk.setState({ trouble: (error as Error).message });
    }
  }

  /** Measures the curves anew; answers that are known already are kept by the source. */
  private async draw(scene: Scene, charts: readonly Chart[]): Promise<void> {
    this.measuring?.abort(new DOMException('superseded', 'AbortError'));
    const own = new AbortController();
    this.measuring = own;
    let reached = 0;
    const cancel = (): void => own.abort(new DOMException('cancelled', 'AbortError'));
    let told = performance.now();
    const progress = (done: number, curves: () => Curves): void => {
      reached = done;
      if (this.measuring !== own || performance.now() - told < OFTEN) return;
      told = performance.now();
      useDesk.setState({ measuring: { done, cancel }, curves: curves() });
    };
    try {
      const { run } = this.source;
      const curves = await this.source.curves.of(charts, scene, run, scene.step, progress, own.signal);
      if (this.measuring === own) useDesk.setState({ curves });
    } catch (error) {
      if (error instanceof Superseded || (error as Error).name === 'AbortError') return;
      useDesk.setState({ trouble: (error as Error).message });
    } finally {
      if (this.measuring === own) {
        this.measuring = null;
        const goOn = (): void => void this.draw(sceneNow(), this.drawn);
        useDesk.setState({ measuring: own.signal.aborted ? { done: reached, goOn } : null });
      }
    }
  }
}

/** The charts that stand on the picture. */
function chartsOnPicture(scene: Scene, run: RunDescription): readonly Chart[] {
  if (scene.charts.length === 0) return [];
  const { charts } = needsOfAnnotations(scene, run);
  return scene.charts.filter((c) => charts.includes(c.id));
}

const sameList = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((v, i) => v === b[i]);

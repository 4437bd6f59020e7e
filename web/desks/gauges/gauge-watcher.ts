import type { Scene } from '#core/scene/document.ts';
import type { Curves } from '#engine/chart-curves.ts';
import type { SceneSource } from '#engine/scene-source.ts';
import { Superseded } from '#engine/worker-pool.ts';
import { useDesk } from '#web/desks/stage/desk-store.ts';

/** What decides about the numbers of a scene; everything else is only looks. */
const decides = ['gauges', 'layers', 'sets', 'step', 'cycle'] as const;

/** How often curves that are being measured are drawn as far as they are known, in milliseconds. */
const OFTEN = 400;

/** Keeps what gauges read and the curves of charts in step with the scene, while the desk shows them. */
export class GaugeWatcher {
  private readonly leave: () => void;
  private seen: Pick<Scene, (typeof decides)[number]> | null = null;
  private drawn: Scene['charts'] | null = null;
  private measuring: AbortController | null = null;

  constructor(private readonly source: SceneSource) {
    this.leave = useDesk.subscribe((s, before) => {
      if (s.history?.scene !== before.history?.scene || s.desk !== before.desk) this.notice();
    });
    this.notice();
  }

  close(): void {
    this.leave();
    this.measuring?.abort(new DOMException('closed', 'AbortError'));
  }

  private notice(): void {
    const { desk, history } = useDesk.getState();
    if (desk !== 'gauges' || !history) return;
    const { scene } = history;
    const { seen } = this;
    const changed = !seen || decides.some((key) => seen[key] !== scene[key]);
    if (changed) {
      this.seen = scene;
      void this.read(scene);
    }
    if (changed || this.drawn !== scene.charts) {
      this.drawn = scene.charts;
      void this.draw(scene);
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
  private async draw(scene: Scene): Promise<void> {
    this.measuring?.abort(new DOMException('superseded', 'AbortError'));
    const own = new AbortController();
    this.measuring = own;
    const cancel = (): void => own.abort(new DOMException('cancelled', 'AbortError'));
    let told = performance.now();
    const progress = (done: number, curves: () => Curves): void => {
      if (this.measuring !== own || performance.now() - told < OFTEN) return;
      told = performance.now();
      useDesk.setState({ measuring: { done, cancel }, curves: curves() });
    };
    try {
      const { run } = this.source;
      const curves = await this.source.curves.of(scene.charts, scene, run, scene.step, progress, own.signal);
      if (this.measuring === own) useDesk.setState({ curves });
    } catch (error) {
      if (error instanceof Superseded || (error as Error).name === 'AbortError') return;
      useDesk.setState({ trouble: (error as Error).message });
    } finally {
      if (this.measuring === own) {
        this.measuring = null;
        useDesk.setState({ measuring: null });
      }
    }
  }
}

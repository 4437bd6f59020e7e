import { HalfFloatType, WebGLRenderTarget } from 'three';
import type { Scene } from '#core/scene/document.ts';
import type { Frame } from '#engine/scene-source.ts';
import { FINAL_PASSES, PROOF_PASSES, usefulPasses } from './picture.ts';
import { PassSum } from './render-targets.ts';
import { type Picked, type PictureSize, Stage } from './stage.ts';
import { paintWords, type WordsBox } from './words.ts';

/** Rest before the fine picture begins, in milliseconds. */
const REST = 140;
/** Passes before the mean of them looks better than the draft. */
const SHOWN_FROM = 6;
const BUDGET = 14;

/**
 * A stage on the screen: a quick draft while anything moves, passes that add up to the final picture at rest, and
 * the words painted on a canvas above.
 */
export class Viewport {
  readonly stage: Stage;
  boxes: WordsBox[] = [];
  /** Told when the picture at rest is finished, and when it is not any more. */
  onSettled: (settled: boolean) => void = () => undefined;
  private frame: Frame | null = null;
  private scene: Scene | null = null;
  private sum: PassSum | null = null;
  private draft: WebGLRenderTarget | null = null;
  private size: PictureSize = { width: 0, height: 0 };
  private dirty = true;
  private changed = 0;
  private request = 0;
  private held = 0;
  private moving = false;

  constructor(
    canvas: HTMLCanvasElement,
    private readonly wordsCanvas: HTMLCanvasElement,
  ) {
    this.stage = new Stage(canvas);
  }

  get step(): number {
    return this.frame?.step ?? 0;
  }

  /** Size in device pixels. */
  resize(width: number, height: number): void {
    if (width === this.size.width && height === this.size.height) return;
    this.size = { width, height };
    this.stage.renderer.setSize(width, height, false);
    this.wordsCanvas.width = width;
    this.wordsCanvas.height = height;
    this.sum?.dispose();
    this.draft?.dispose();
    this.sum = null;
    this.draft = null;
    this.touch();
  }

  /** Shapes, values and step change together, or not at all. */
  show(frame: Frame, scene: Scene): void {
    this.frame = frame;
    this.scene = scene;
    this.stage.show(frame, scene);
    this.touch();
  }

  restyle(scene: Scene): void {
    if (!this.frame) return;
    this.scene = scene;
    this.stage.restyle(scene, this.frame.step);
    this.touch();
  }

  pick(x: number, y: number): Picked | null {
    return this.frame ? this.stage.pick(x, y, this.size) : null;
  }

  /** While steps play, only drafts are drawn. */
  setMoving(moving: boolean): void {
    this.moving = moving;
    if (!moving) this.touch();
  }

  /** Leaves the graphics card to someone else until the returned function is called. */
  hold(): () => void {
    this.held++;
    let open = true;
    return () => {
      if (!open) return;
      open = false;
      this.held--;
      if (this.frame && this.scene) this.stage.show(this.frame, this.scene);
      this.touch();
    };
  }

  dispose(): void {
    cancelAnimationFrame(this.request);
    this.request = -1;
    this.sum?.dispose();
    this.draft?.dispose();
    this.stage.dispose();
  }

  private touch(): void {
    this.dirty = true;
    this.changed = performance.now();
    this.sum?.restart();
    this.onSettled(false);
    this.schedule();
  }

  private schedule(): void {
    if (this.request === 0) this.request = requestAnimationFrame(() => this.tick());
  }

  private tick(): void {
    if (this.request === -1) return;
    this.request = 0;
    const { scene, frame, size } = this;
    if (!scene || !frame || size.width < 2 || size.height < 2 || this.held > 0) return;
    if (this.dirty) {
      this.dirty = false;
      this.draft ??= new WebGLRenderTarget(size.width, size.height, {
        type: HalfFloatType,
        samples: this.stage.software ? 0 : 4,
      });
      this.stage.drawDraft(size, this.draft);
      this.paintWords(scene, frame);
      this.schedule();
      return;
    }
    if (this.moving) return;
    const wait = REST - (performance.now() - this.changed);
    if (wait > 0) {
      setTimeout(() => this.schedule(), wait);
      return;
    }
    this.addPasses(scene);
  }

  private addPasses(scene: Scene): void {
    const { size } = this;
    this.sum ??= new PassSum(size.width, size.height);
    const goal = usefulPasses(scene, this.stage.software ? PROOF_PASSES : FINAL_PASSES);
    const until = performance.now() + BUDGET;
    do this.stage.addPass(this.sum, size, { x: 0, y: 0, ...size }, false);
    while (this.sum.count < goal && performance.now() < until);
    if (this.sum.count >= Math.min(SHOWN_FROM, goal)) this.stage.present(this.sum.mean);
    if (this.sum.count < goal) this.schedule();
    else this.onSettled(true);
  }

  private paintWords(scene: Scene, { run, step }: Frame): void {
    const painter = this.wordsCanvas.getContext('2d')!;
    painter.clearRect(0, 0, this.size.width, this.size.height);
    this.boxes = paintWords(painter, scene, run, step, this.size.width, this.size.height);
  }
}

import { FloatType, WebGLRenderTarget } from 'three';
import type { PictureSeen } from '#core/preflight/picture-seen.ts';
import type { Curves } from '#core/scene/charts/chart-drawn.ts';
import type { Scene } from '#core/scene/document.ts';
import { isOnSide } from '#core/scene/things/wipe.ts';
import type { Frame } from '#engine/scene-source.ts';
import type { Card } from './card.ts';
import { partsInFront } from './look-inside.ts';
import { type Pickable, type Picked, pick, pickablesOf } from './picking.ts';
import { screenPixels } from './pictures/develop.ts';
import { FINAL_PASSES, PROOF_PASSES, usefulPasses } from './pictures/render-picture.ts';
import { draftTarget, PassSum } from './render-targets.ts';
import { pieceOfLayer, sceneryPickables } from './scenery/scenery-parts.ts';
import type { Drawing } from './slices.ts';
import { lineWidth, type PictureSize, Stage } from './stage.ts';
import { BEHIND_WIDTH, type Behind } from './words/ground.ts';
import { paintWords, type WordsBox } from './words/paint-words.ts';
import { pictureSeen } from './words/picture-seen.ts';

/** Name of the mark on the time line of the page whenever a change has been drawn. */
export const SHOWN_MARK = 'picture shown';
/** Rest before the fine picture begins, in milliseconds. */
const REST = 140;
/** Passes before the mean of them looks better than the draft. */
const SHOWN_FROM = 6;
/** How often the picture that becomes finer is shown, in milliseconds: without a card that costs as much as a pass. */
const SHOWN_EVERY = { software: 400, card: 30 };
/** Time for drawing within one frame of the screen, in milliseconds. */
const FRAME = 13;
/** Drafts that take longer, in milliseconds, are drawn with a quarter of the pixels while something moves. */
const SLOW_DRAFT = 200;
/** Fewest passes that show soft light without much grain: a card that has time for them draws them in motion too. */
const MOTION_PASSES = 8;

/**
 * A stage on the screen: a quick draft while anything moves, passes that add up to the final picture at rest, and
 * the words painted on a canvas above. Drawing goes to the card in slices; what the person does comes between them.
 */
export class Viewport {
  readonly stage: Stage;
  boxes: WordsBox[] = [];
  /** Most passes at rest; fewer than usual where somebody would rather have it soon than fine. */
  mostPasses = Number.POSITIVE_INFINITY;
  /** Told when the picture at rest is finished, and when it is not any more. */
  onSettled: (settled: boolean) => void = () => undefined;
  /** Told when what was asked for is on the screen, as a draft at least. */
  onDrawn: () => void = () => undefined;
  /** Told when legends or the time stand elsewhere than before. */
  onWords: () => void = () => undefined;
  /** Told of files that go with the scene and could not be had; the rest is shown. */
  onMissing: (what: string) => void = () => undefined;
  /** Told when drawing failed; the picture stays as it was. */
  onTrouble: (error: Error) => void = () => undefined;
  /** What is to be shown next, and what the stage shows now. */
  private wanted: { frame: Frame; scene: Scene } | null = null;
  private shown: { frame: Frame; scene: Scene } | null = null;
  private sum: PassSum | null = null;
  private draft: WebGLRenderTarget | null = null;
  private size: PictureSize = { width: 0, height: 0 };
  private resized = false;
  private dirty = false;
  private changed = 0;
  private held = 0;
  private moving = false;
  /** Drafts keep all their pixels, however long they take. */
  private patient = false;
  /** Whether drafts are drawn with fewer pixels. */
  private coarse = false;
  private disposed = false;
  private atWork: Promise<void> | null = null;
  private readonly asides: (() => Promise<void>)[] = [];
  /** What lies behind the words, as it was last looked at. */
  private behind: Behind | null = null;
  private interrupt: () => void = () => undefined;
  /** What a pass takes the card, in milliseconds; unknown at first. */
  private passTime = Number.POSITIVE_INFINITY;

  /** @param sharedCard draws several viewports of a page; without it this one has its own */
  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly words: HTMLCanvasElement,
    sharedCard: Card | null = null,
  ) {
    this.stage = new Stage(canvas, sharedCard);
  }

  get step(): number {
    return this.shown?.frame.step ?? 0;
  }

  /** Width of the picture in device pixels. */
  get pixelWidth(): number {
    return this.size.width;
  }

  get pixelHeight(): number {
    return this.size.height;
  }

  /** Size in device pixels. */
  resize(width: number, height: number): void {
    if (width === this.size.width && height === this.size.height) return;
    this.size = { width, height };
    this.resized = true;
    this.touch();
  }

  /** Shapes, values and step change together, or not at all. */
  show(frame: Frame, scene: Scene): void {
    this.wanted = { frame, scene };
    this.touch();
  }

  restyle(scene: Scene): void {
    const frame = this.latest?.frame;
    if (frame) this.show(frame, scene);
  }

  /** Curves of charts on the picture became known, all or more of them. */
  tell(curves: Curves): void {
    const now = this.latest;
    if (!now) return;
    now.frame.curves = curves;
    this.touch();
  }

  /**
   * What is under a place of the picture: its layer, place and value; null for the backdrop.
   *
   * @param x fraction from the left
   * @param y fraction from the top
   * @param skip parts to look through
   * @returns null also where scenery stands before it
   */
  async pick(x: number, y: number, skip?: (part: string) => boolean): Promise<Picked | null> {
    const found = await this.under(x, y, skip);
    return found && pieceOfLayer(found.layer) === null ? found : null;
  }

  /**
   * The piece of scenery that is seen at a place of the picture; null where the model is nearer, or nothing is there.
   * What one sees through more than not is passed over.
   */
  async pickScenery(x: number, y: number): Promise<string | null> {
    if (!this.latest?.scene.scenery.length) return null;
    const found = await this.under(x, y);
    return found && pieceOfLayer(found.layer);
  }

  /** What is nearest under a place of the picture, of the model or of the scenery. */
  private async under(
    x: number,
    y: number,
    skip: (part: string) => boolean = () => false,
  ): Promise<Picked | null> {
    const now = this.latest;
    if (!now) return null;
    const { frame, scene } = now;
    const front = partsInFront(scene, frame.run, frame.bounds);
    const there = this.pickables().filter((p) => !skip(p.part) && isOnSide(p.side, scene.wipe, x, y));
    const through = (p: Pickable): boolean => front.has(p.part);
    const among = (some: Pickable[]) =>
      pick(some, scene.camera, frame.run.origin, { x, y, ...this.size }, lineWidth(this.size));
    // What one looks through is pointed at where there is nothing behind it.
    const solid = [...there.filter((p) => !through(p)), ...sceneryPickables(scene, frame.run)];
    return (await among(solid)) ?? among(there.filter(through));
  }

  /** What is on show, with the layers and parts it belongs to. */
  pickables(): Pickable[] {
    return this.latest ? pickablesOf(this.latest.frame, this.latest.scene) : [];
  }

  /** What was asked for last, drawn or not yet. */
  private get latest(): { frame: Frame; scene: Scene } | null {
    return this.wanted ?? this.shown;
  }

  /**
   * While steps play, only what a frame has time for is drawn.
   *
   * @param patient drafts are to be kept: they have all their pixels
   */
  setMoving(moving: boolean, patient = false): void {
    this.moving = moving;
    this.patient = moving && patient;
    if (!moving) this.touch();
  }

  /** The picture on the screen, with its words. */
  snapshot(): OffscreenCanvas {
    const { width, height } = this.size;
    const made = new OffscreenCanvas(Math.max(1, width), Math.max(1, height));
    const painter = made.getContext('2d')!;
    painter.drawImage(this.canvas, 0, 0);
    painter.drawImage(this.words, 0, 0);
    return made;
  }

  /** What is known of the picture on the screen for its preflight; null while there is none. */
  seen(): PictureSeen | null {
    if (!this.shown) return null;
    return pictureSeen(this.shown.frame, this.shown.scene, this.behind, this.size);
  }

  /** Puts a picture that was kept over the one that is drawn, until words are painted again. */
  cover(picture: ImageBitmap): void {
    this.words.getContext('2d')!.drawImage(picture, 0, 0, this.size.width, this.size.height);
  }

  /** Until the card has nothing left to do: while steps play, until the last one asked for is drawn. */
  async idle(): Promise<void> {
    await this.atWork;
  }

  /** Leaves the card to someone else, from when it is free until the returned function is called. */
  async hold(): Promise<() => void> {
    this.held++;
    await this.atWork;
    let open = true;
    return () => {
      if (!open) return;
      open = false;
      this.held--;
      this.wanted ??= this.shown;
      this.shown = null;
      this.touch();
    };
  }

  dispose(): void {
    this.disposed = true;
    this.interrupt();
    const end = (): void => {
      this.sum?.dispose();
      this.draft?.dispose();
      this.stage.dispose();
    };
    if (this.atWork) void this.atWork.then(end);
    else end();
  }

  /**
   * A small copy of what is on the screen, its words left out.
   *
   * @param width in pixels; the height follows
   */
  async smallPicture(width: number): Promise<HTMLCanvasElement> {
    const { pixels, height } = await this.shrunk(width, (drawing) => this.aside(drawing));
    await nextFrame();
    const canvas = document.createElement('canvas');
    canvas.width = width;
    canvas.height = height;
    // Drawn by the processor: waiting for the card would keep the page waiting.
    const painter = canvas.getContext('2d', { willReadFrequently: true })!;
    painter.putImageData(new ImageData(pixels, width, height), 0, 0);
    return canvas;
  }

  /** The picture without its words in few pixels. */
  private async shrunk(width: number, run: (drawing: () => Drawing) => Promise<unknown>): Promise<Behind> {
    const height = Math.max(1, Math.round((width * this.size.height) / Math.max(1, this.size.width)));
    const target = new WebGLRenderTarget(width, height, { type: FloatType, depthBuffer: false });
    try {
      await run(() => {
        const { sum, draft } = this;
        const source = sum && sum.cleaned > 0 ? sum.clean : (draft ?? sum?.mean);
        return source ? this.stage.shrink(source, target) : nothing();
      });
      return { width, height, pixels: screenPixels(this.stage.linearPixels(target)) };
    } finally {
      target.dispose();
    }
  }

  /** Looks at what lies behind the words, and paints them again where that asks for another ground. */
  private async lookBehind(): Promise<void> {
    const { scene, frame } = this.shown!;
    this.behind = await this.shrunk(Math.min(BEHIND_WIDTH, this.size.width), (drawing) =>
      this.stage.slices.run(drawing()),
    );
    this.paintWords(scene, frame);
  }

  /** Draws something else between the slices of the picture. */
  private aside(drawing: () => Drawing): Promise<void> {
    return new Promise((resolve, reject) => {
      // A failure belongs to whoever asked; the picture goes on.
      this.asides.push(() => this.stage.slices.run(drawing()).then(() => resolve(), reject));
      this.interrupt();
      this.start();
    });
  }

  private touch(): void {
    this.dirty = true;
    this.changed = performance.now();
    this.onSettled(false);
    this.interrupt();
    this.start();
  }

  private start(): void {
    this.atWork ??= this.work()
      .catch((error: Error) => {
        this.dirty = false;
        this.onTrouble(error);
      })
      .finally(() => {
        this.atWork = null;
        // Something may have come in while the last turn ended.
        if ((this.dirty || this.asides.length > 0) && this.ready()) this.start();
      });
  }

  private ready(): boolean {
    const { width, height } = this.size;
    return !this.disposed && this.held === 0 && width > 1 && height > 1 && this.latest !== null;
  }

  /** Draws until nothing is left to do. */
  private async work(): Promise<void> {
    await nextFrame();
    while (this.ready()) {
      const aside = this.asides.shift();
      if (aside) await aside();
      else if (this.dirty) await this.drawChange();
      else if (this.moving) return;
      else {
        const wait = REST - (performance.now() - this.changed);
        if (wait > 0) await this.pause(wait);
        else if (!(await this.refine())) return;
      }
    }
  }

  /** Takes over what is wanted and shows it as well as one frame of the screen allows. */
  private async drawChange(): Promise<void> {
    this.dirty = false;
    if (this.resized) this.fitSize();
    const before = this.shown;
    const now = this.wanted ?? before!;
    this.wanted = null;
    this.shown = now;
    if (now.frame === before?.frame) this.stage.restyle(now.scene, now.frame.step);
    else this.stage.show(now.frame, now.scene);
    for (const file of await this.stage.prepare()) this.onMissing(file);
    // Words of another step or view come with its picture, also where that takes a while; others at once.
    const withPicture = now.frame !== before?.frame || now.scene.camera !== before.scene.camera;
    if (!withPicture) this.paintWords(now.scene, now.frame);
    const passes = Math.min(FINAL_PASSES, Math.floor(FRAME / this.passTime));
    const { slices } = this.stage;
    const began = performance.now();
    this.sum?.restart(passes);
    if (passes >= MOTION_PASSES) await slices.run(this.passes(passes, now.scene, true));
    else await slices.run(this.plain());
    if (withPicture) this.paintWords(now.scene, now.frame);
    const took = performance.now() - began;
    if (took > SLOW_DRAFT || took < SLOW_DRAFT / 5) this.coarse = took > SLOW_DRAFT && this.stage.software;
    // For those who measure how often the picture follows.
    performance.clearMarks(SHOWN_MARK);
    performance.mark(SHOWN_MARK);
    this.onDrawn();
    await nextFrame();
  }

  /** @returns whether something was left to do */
  private async refine(): Promise<boolean> {
    const { scene } = this.shown!;
    const usual = usefulPasses(scene, this.stage.software ? PROOF_PASSES : FINAL_PASSES);
    const goal = Math.min(usual, this.mostPasses);
    // What was drawn in motion stood for other shares of the light.
    if (this.sum && this.sum.goal !== goal) this.sum.restart(goal);
    const before = this.sum?.count ?? 0;
    if (before >= goal) {
      // A fast card draws every pass as the change is drawn.
      this.onSettled(true);
      return false;
    }
    if (before === 0 && (this.isCoarse || this.stage.isThinned) && !(await this.sharpen())) return true;
    await this.lookBehind();
    const began = performance.now();
    const whole = await this.stage.slices.run(this.passes(goal, scene, false), () => this.isWanted());
    const made = (this.sum?.count ?? 0) - before;
    if (made > 3) this.passTime = (performance.now() - began) / made;
    if (whole) {
      await this.lookBehind();
      this.onSettled(true);
    }
    return !whole;
  }

  /** Before passes add up, which takes a while, what moved in few pixels is shown in all of them, with more of very many. */
  private sharpen(): Promise<boolean> {
    this.coarse = false;
    return this.stage.slices.run(this.plain(true), () => this.isWanted());
  }

  /** Whether something else comes before the picture that becomes finer. */
  private isWanted(): boolean {
    return this.dirty || this.asides.length > 0 || !this.ready();
  }

  /** Whether what is drawn has fewer pixels than the picture, because drawing takes long. */
  get isCoarse(): boolean {
    return this.draft !== null && this.draft.width < this.size.width;
  }

  private *plain(patient = false): Drawing {
    const share = this.coarse && !this.patient ? 0.5 : 1;
    const size = { width: Math.ceil(this.size.width * share), height: Math.ceil(this.size.height * share) };
    if (this.draft?.width !== size.width || this.draft.height !== size.height) {
      this.draft?.dispose();
      this.draft = draftTarget(size.width, size.height, this.stage.software);
    }
    yield* this.stage.drawDraft(size, this.draft, patient);
    yield* this.stage.present(this.draft);
  }

  /** Passes up to a number; their mean is shown when it looks better than a draft. */
  private *passes(goal: number, scene: Scene, onlyEnd: boolean): Drawing {
    const { size, stage } = this;
    this.sum ??= new PassSum(size.width, size.height, goal);
    const { sum } = this;
    if (sum.count === 0) sum.goal = goal;
    const shownFrom = Math.min(SHOWN_FROM, usefulPasses(scene, goal));
    const every = stage.software ? SHOWN_EVERY.software : SHOWN_EVERY.card;
    let shown = 0;
    while (sum.count < goal) {
      yield* stage.addPass(sum, size, { x: 0, y: 0, ...size }, false);
      const due = !onlyEnd && sum.count >= shownFrom && performance.now() - shown > every;
      if (!due && sum.count < goal) continue;
      yield* stage.clean(sum);
      yield* stage.present(sum.clean);
      shown = performance.now();
    }
  }

  private fitSize(): void {
    const { width, height } = this.size;
    this.resized = false;
    this.stage.resize(width, height);
    this.passTime = Number.POSITIVE_INFINITY;
    this.words.width = width;
    this.words.height = height;
    this.sum?.dispose();
    this.draft?.dispose();
    this.sum = null;
    this.draft = null;
  }

  /** Waits, unless something changes meanwhile. */
  private pause(time: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, time);
      this.interrupt = () => {
        clearTimeout(timer);
        this.interrupt = () => undefined;
        resolve();
      };
    });
  }

  private paintWords(scene: Scene, { run, step, parts, bounds, attached, readings, curves }: Frame): void {
    const painter = this.words.getContext('2d')!;
    painter.clearRect(0, 0, this.size.width, this.size.height);
    const before = this.boxes;
    const { behind } = this;
    const worded = { scene, run, step, spreads: parts, behind, bounds, attached, readings, curves };
    this.boxes = paintWords(painter, worded, this.size);
    if (!sameBoxes(this.boxes, before)) this.onWords();
  }
}

/** Whether words stand as before and are painted from the same things. */
const sameBoxes = (a: readonly WordsBox[], b: readonly WordsBox[]): boolean => {
  const places = (boxes: readonly WordsBox[]): string =>
    JSON.stringify(boxes.map(({ of: _, ...box }) => box));
  return a.every((box, i) => box.of === b[i]?.of) && places(a) === places(b);
};

const nextFrame = (): Promise<void> => new Promise((resolve) => requestAnimationFrame(() => resolve()));

function* nothing(): Drawing {}

import { type FinishOf, nameOfFinish } from '#core/light/own-finish.ts';
import { sampleFrame, sampleScene } from '#stage/finish-samples.ts';
import { developed } from '#stage/pictures/develop.ts';
import { renderPicture } from '#stage/pictures/render-picture.ts';
import { Stage } from '#stage/stage.ts';

/** Width and height in pixels. */
const SIZE = 88;
const PASSES = { software: 4, card: 16 };
/** Rest after the last one is made before the card is given back, in milliseconds. */
const REST = 4000;

const keyOf = (finish: Exclude<FinishOf, null>): string =>
  typeof finish === 'string' ? finish : JSON.stringify(finish);

/** Small pictures of finishes, made one after the other with a stage of their own while nobody waits for the large one. */
class FinishPictures {
  private readonly made = new Map<string, Promise<string>>();
  private stage: Stage | null = null;
  private turn: Promise<unknown> = Promise.resolve();
  private waiting = 0;

  /** The picture of a body in a finish, as an address; made once. */
  of(finish: Exclude<FinishOf, null>): Promise<string> {
    const key = keyOf(finish);
    let known = this.made.get(key);
    if (!known) {
      this.waiting++;
      known = this.turn.then(() => this.draw(finish));
      this.turn = known.then(
        () => this.done(),
        () => this.done(),
      );
      known.catch(() => this.made.delete(key));
      this.made.set(key, known);
    }
    return known;
  }

  private async draw(finish: Exclude<FinishOf, null>): Promise<string> {
    this.stage ??= new Stage(document.createElement('canvas'));
    const { stage } = this;
    const frame = sampleFrame();
    const scene = sampleScene(finish);
    stage.show(frame, scene);
    const passes = stage.software ? PASSES.software : PASSES.card;
    const picture = await renderPicture(stage, frame, scene, {
      width: SIZE,
      height: SIZE,
      transparent: true,
      passes,
    });
    const canvas = await developed({ ...picture, words: null });
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
    if (!blob) throw new Error(`No picture of ${nameOfFinish(finish)} could be made.`);
    return URL.createObjectURL(blob);
  }

  private done(): void {
    this.waiting--;
    setTimeout(() => {
      if (this.waiting > 0) return;
      this.stage?.dispose();
      this.stage = null;
    }, REST);
  }
}

export const finishPictures = new FinishPictures();

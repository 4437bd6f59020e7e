import { OPENING_ASPECT } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { developed } from '#stage/pictures/develop.ts';
import { PROOF_PASSES } from '#stage/pictures/render-picture.ts';
import type { Viewport } from '#stage/viewport.ts';
import { developScene } from '#web/desks/give-out/darkroom.ts';
import type { DeskController } from '../desk-controller.ts';
import type { Shot } from '../shot-edits.ts';
import { numbersPicture } from './numbers-picture.ts';

/** Pictures are kept for so many shots around the one that is looked at. */
const KEPT = 3;

/** The pictures of shots as large as the screen, drawn one after the other and kept while they are near. */
export class PresentedPictures {
  private readonly made = new Map<number, Promise<ImageBitmap | null>>();
  private readonly cancelling = new AbortController();
  private last: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly controller: DeskController,
    private readonly viewport: Viewport,
    private readonly shots: readonly Shot[],
  ) {}

  /** @returns null where it cannot be drawn */
  of(at: number): Promise<ImageBitmap | null> {
    for (const [n, picture] of this.made)
      if (Math.abs(n - at) > KEPT) {
        this.made.delete(n);
        void picture.then((p) => p?.close());
      }
    let found = this.made.get(at);
    if (!found) {
      // One after the other: all go through the stage of the screen.
      found = this.last.then(() => this.draw(this.shots[at])).catch(() => null);
      this.last = found;
      this.made.set(at, found);
    }
    return found;
  }

  /** Draws some before they are asked for. */
  async ready(places: readonly number[]): Promise<void> {
    for (const at of places) if (this.shots[at]) await this.of(at);
  }

  close(): void {
    this.cancelling.abort();
    for (const picture of this.made.values()) void picture.then((p) => p?.close());
  }

  private async draw({ document: scene, kind }: Shot): Promise<ImageBitmap | null> {
    const { signal } = this.cancelling;
    if (!scene || signal.aborted) return null;
    const size = screenSize(scene);
    if (kind === 'charts')
      return createImageBitmap(await numbersPicture(this.controller.source, scene, size));
    const release = await this.viewport.hold();
    try {
      const picture = await developScene(this.viewport.stage, this.controller.source, scene, scene.step, {
        ...size,
        transparent: false,
        passes: PROOF_PASSES,
        signal,
      });
      return await createImageBitmap(await developed(picture));
    } finally {
      release();
    }
  }
}

/** The largest size in the shape of a scene that the screen has room for, in its pixels. */
function screenSize({ picture: { aspect } }: Scene): { width: number; height: number } {
  const scale = Math.min(2, devicePixelRatio || 1);
  const [width, height] = [innerWidth * scale, (innerHeight - 68) * scale];
  const shape = aspect ?? Math.max(OPENING_ASPECT, width / height);
  const w = Math.round(Math.min(width, height * shape));
  return { width: Math.max(8, w), height: Math.max(8, Math.round(w / shape)) };
}

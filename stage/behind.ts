import { type DataTexture, Vector2 } from 'three';
import type { Panorama } from '#core/light/panorama.ts';
import { subtract } from '#core/model/vectors.ts';
import { pictureAxes } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import { blurred, enclosedPicture } from './enclosed-light.ts';
import { flatTexture } from './panorama-texture.ts';
import type { StageUniforms } from './stage-uniforms.ts';

/** What a backdrop shows: nothing of its own, a picture over all of it, or what shines around. */
const SHOWS = { colours: 0, picture: 1, surroundings: 2 } as const;

/** What is shown behind the model where that is no colour: a picture, or the surroundings. */
export class Behind {
  private texture: DataTexture | null = null;
  private made = '';

  constructor(private readonly shared: StageUniforms) {}

  /**
   * Readies what a scene shows behind the model.
   *
   * @param surroundings what shines around it, and what tells one from another
   * @throws Error when a file of it cannot be read
   */
  async ready(
    { backdrop }: Pick<Scene, 'backdrop'>,
    surroundings: { panorama: Panorama; key: string } | null,
  ): Promise<void> {
    const { kind, picture, blur } = backdrop;
    const around = kind === 'surroundings';
    const source = around ? surroundings?.key : kind === 'picture' ? picture?.bytes.hash : undefined;
    const key = source === undefined ? '' : `${source} ${blur}`;
    if (key === this.made) return;
    const given = around
      ? surroundings!.panorama
      : picture && key !== ''
        ? await enclosedPicture(picture)
        : null;
    this.texture?.dispose();
    this.texture = given && flatTexture(blurred(given, blur, around), around);
    this.made = key;
  }

  /** Tells the shaders what they show behind the model, as far as it is ready. */
  show({ backdrop, light, camera }: Scene, aspect: number): void {
    const { uShows, uBehind, uBehindLight, uCover, uLookRight, uLookUp, uLookAhead } = this.shared;
    const { texture } = this;
    const around = backdrop.kind === 'surroundings';
    uShows.value = SHOWS.colours;
    if (!texture || (!around && backdrop.kind !== 'picture')) return;
    uShows.value = around ? SHOWS.surroundings : SHOWS.picture;
    uBehind.value = texture;
    uBehindLight.value = backdrop.brightness * (around ? light.fill : 1);
    uCover.value.copy(covering(texture.image.width / texture.image.height, aspect));
    // A parallel view, which has no width, looks around as its lens in perspective would.
    const half = Math.tan((camera.fieldOfView * Math.PI) / 360);
    const { middle, right, up, back } = pictureAxes(camera, aspect, half);
    uLookRight.value.set(...right);
    uLookUp.value.set(...up);
    uLookAhead.value.set(...subtract(middle, back));
  }

  dispose(): void {
    this.texture?.dispose();
  }
}

/** How much of a picture covers another shape from edge to edge without being stretched. */
export function covering(shape: number, aspect: number): Vector2 {
  return shape > aspect ? new Vector2(aspect / shape, 1) : new Vector2(1, shape / aspect);
}

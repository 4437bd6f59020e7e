import type { Camera, Scene } from '#core/scene/document.ts';

/** What pictures of a preview are of: those of another film, or of another size, are of no use. */
export interface PreviewOf {
  scene: Scene;
  outside: Camera | null;
  width: number;
  height: number;
}

/** No more is kept than this, in bytes: some thousands of pictures. */
const MOST_KEPT = 300e6;
const QUALITY = 0.92;

/** Pictures of a film as they were drawn for the screen, kept so that it plays at its own speed however long drawing takes. */
export class FilmPreview {
  private readonly pictures = new Map<number, Blob>();
  private bytes = 0;
  private of: PreviewOf | null = null;

  /** Forgets what is not of this. */
  fit(of: PreviewOf): void {
    const before = this.of;
    if (before && (Object.keys(of) as (keyof PreviewOf)[]).every((key) => before[key] === of[key])) return;
    this.of = of;
    this.pictures.clear();
    this.bytes = 0;
  }

  get kept(): number {
    return this.pictures.size;
  }

  has(index: number): boolean {
    return this.pictures.has(index);
  }

  /** Keeps a picture, as long as there is room. */
  async keep(index: number, picture: OffscreenCanvas): Promise<void> {
    const of = this.of;
    const blob = await picture.convertToBlob({ type: 'image/jpeg', quality: QUALITY });
    if (this.of !== of || this.has(index) || this.bytes + blob.size > MOST_KEPT) return;
    this.bytes += blob.size;
    this.pictures.set(index, blob);
  }

  /** @returns null where it was not kept */
  async picture(index: number): Promise<ImageBitmap | null> {
    const blob = this.pictures.get(index);
    return blob ? createImageBitmap(blob) : null;
  }
}

import { LRUCache } from 'lru-cache';

/** A picture that goes with a document, ready to be painted on others and to be shown in the scene. */
interface Loaded {
  element: HTMLImageElement;
  bitmap: ImageBitmap;
  /** Width over height. */
  shape: number;
}

const KEPT = 64;
/** A vector picture in the scene is drawn with so many pixels along its longer side. */
const VECTOR_PIXELS = 2048;

const loaded = new LRUCache<string, Loaded>({ max: KEPT });
const coming = new Map<string, Promise<void>>();

/** What is known of a picture by its data address; null until it was loaded, and where it cannot be. */
export const imageOf = (source: string): Loaded | null => loaded.get(source) ?? null;

/** Loads pictures by their data addresses. One that is damaged stays out; whoever chose it was told. */
export async function loadImages(sources: readonly string[]): Promise<void> {
  await Promise.all(
    sources
      .filter((source) => source !== '' && !loaded.has(source))
      .map((source) => {
        let one = coming.get(source);
        if (!one) {
          one = load(source)
            .then(
              (image) => void loaded.set(source, image),
              () => undefined,
            )
            .finally(() => coming.delete(source));
          coming.set(source, one);
        }
        return one;
      }),
  );
}

async function load(source: string): Promise<Loaded> {
  const element = new Image();
  element.src = source;
  await element.decode();
  const { naturalWidth: w, naturalHeight: h } = element;
  const shape = w > 0 && h > 0 ? w / h : 1;
  const isVector = source.startsWith('data:image/svg');
  const longest = isVector ? VECTOR_PIXELS : Math.max(w, h);
  const canvas = new OffscreenCanvas(
    Math.max(1, Math.round(shape >= 1 ? longest : longest * shape)),
    Math.max(1, Math.round(shape >= 1 ? longest / shape : longest)),
  );
  canvas.getContext('2d')!.drawImage(element, 0, 0, canvas.width, canvas.height);
  return { element, bitmap: await createImageBitmap(canvas, { premultiplyAlpha: 'none' }), shape };
}

import { LARGEST_IMAGE } from '#core/scene/annotations/image-source.ts';

/** Pixels along the longer side that are tried until a picture is small enough to go with a document. */
const SIDES = [4096, 2896, 2048, 1448, 1024];

/**
 * A picture file as a data address that goes with a document, and how many pixels it has. Vector pictures stay as they
 * are; others are made smaller where they are larger than a document should carry.
 *
 * @throws Error saying what is wrong and what to do
 */
export async function readPictureFile(file: File): Promise<{ source: string; pixels: [number, number] }> {
  const source = await dataAddress(file);
  const image = new Image();
  image.src = source;
  await image.decode().catch(() => {
    throw new Error(
      `${file.name} cannot be read as a picture: it is damaged or of another kind. Choose another.`,
    );
  });
  const pixels: [number, number] = [image.naturalWidth || 1, image.naturalHeight || 1];
  if (source.length <= LARGEST_IMAGE && Math.max(...pixels) <= SIDES[0]) return { source, pixels };
  if (file.type === 'image/svg+xml')
    throw new Error(`${file.name} is larger than 3 MB. Choose a simpler vector picture.`);
  for (const side of SIDES) {
    const smaller = drawnSmaller(image, Math.min(1, side / Math.max(...pixels)));
    if (smaller.length <= LARGEST_IMAGE) return { source: smaller, pixels };
  }
  throw new Error(`${file.name} is too large to go with a scene. Make it smaller than 3 MB.`);
}

function drawnSmaller(image: HTMLImageElement, share: number): string {
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(image.naturalWidth * share));
  canvas.height = Math.max(1, Math.round(image.naturalHeight * share));
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  return canvas.toDataURL('image/webp', 0.9);
}

const dataAddress = (file: File): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(new Error(`${file.name} cannot be read. Choose it again.`));
    reader.readAsDataURL(file);
  });

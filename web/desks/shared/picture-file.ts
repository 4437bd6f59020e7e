import { LARGEST_IMAGE } from '#core/scene/annotations/image-source.ts';

/** Pictures of more pixels along a side are made smaller: they go with the document. */
const LARGEST_SIDE = 4096;

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
  const [w, h] = [image.naturalWidth || 1, image.naturalHeight || 1];
  const pixels: [number, number] = [w, h];
  if (source.length <= LARGEST_IMAGE && Math.max(w, h) <= LARGEST_SIDE) return { source, pixels };
  if (file.type === 'image/svg+xml')
    throw new Error(`${file.name} is larger than 6 MB. Choose a simpler vector picture.`);
  const share = Math.min(1, LARGEST_SIDE / Math.max(w, h));
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(w * share));
  canvas.height = Math.max(1, Math.round(h * share));
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  const smaller = canvas.toDataURL('image/webp', 0.9);
  if (smaller.length > LARGEST_IMAGE)
    throw new Error(`${file.name} is too large to go with a scene. Make it smaller than 6 MB.`);
  return { source: smaller, pixels };
}

const dataAddress = (file: File): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(new Error(`${file.name} cannot be read. Choose it again.`));
    reader.readAsDataURL(file);
  });

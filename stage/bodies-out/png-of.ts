import type { BodyPicture } from '#core/model/body.ts';

/** What is painted on a canvas as a PNG file. */
export async function pngOfCanvas(canvas: OffscreenCanvas): Promise<BodyPicture> {
  const blob = await canvas.convertToBlob({ type: 'image/png' });
  return { type: 'image/png', bytes: new Uint8Array(await blob.arrayBuffer()) };
}

export function pngOfBitmap(picture: ImageBitmap): Promise<BodyPicture> {
  const canvas = new OffscreenCanvas(picture.width, picture.height);
  canvas.getContext('2d')!.drawImage(picture, 0, 0);
  return pngOfCanvas(canvas);
}

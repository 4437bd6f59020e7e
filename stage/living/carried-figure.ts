import { unpackArrays } from '#core/formats/bytes/packed-arrays.ts';
import type { LivingFigure } from '#core/report/living-figure.ts';

/** A living figure as a page carries it, and its pictures ready to be drawn. */
export interface CarriedFigure {
  figure: LivingFigure;
  pictures: ImageBitmap[];
}

/**
 * Unpacks a figure that lies in a page.
 *
 * @param text its bytes as base64, packed with DEFLATE (RFC 1950)
 * @throws Error where they are damaged
 */
export async function carriedFigure(text: string): Promise<CarriedFigure> {
  const packed = Uint8Array.from(atob(text.trim()), (c) => c.charCodeAt(0));
  const stream = new Blob([packed]).stream().pipeThrough(new DecompressionStream('deflate'));
  const bytes = new Uint8Array(await new Response(stream).arrayBuffer());
  const figure = unpackArrays<LivingFigure>(bytes);
  const pictures = figure.scene.pictures.map((p) => createImageBitmap(new Blob([p.bytes], { type: p.type })));
  return { figure, pictures: await Promise.all(pictures) };
}

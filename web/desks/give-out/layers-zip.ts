import { fileName } from '#core/language/file-name.ts';
import { csvTable } from '#core/model/csv-text.ts';
import type { PictureAbout } from '#stage/pictures/about.ts';
import type { LayersApart } from '#stage/pictures/layers-apart.ts';
import type { PictureWriter } from '#stage/pictures/writer.ts';
import { PictureZip } from './picture-zip.ts';

/** All layers of a picture in a zip, with what their numbers stand for. */
export async function zipOfLayers(
  { layers, bodies }: LayersApart,
  writer: PictureWriter,
  about: PictureAbout,
): Promise<Blob> {
  const zip = new PictureZip(writer);
  for (const { id, picture, writer: only } of layers)
    await zip.add(`${fileName(about.scene.name)}-${id}`, picture, about, only ?? writer);
  zip.addText(
    'bodies.csv',
    csvTable(
      ['number', 'body'],
      bodies.map((body, n) => [n + 1, body]),
    ),
  );
  zip.addText(
    'layers.csv',
    csvTable(
      ['layer', 'holds'],
      layers.map(({ id, holds }) => [id, holds]),
    ),
  );
  return zip.finish();
}

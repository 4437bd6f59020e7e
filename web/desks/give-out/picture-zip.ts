import { Zip, ZipPassThrough } from 'fflate';
import type { Picture } from '#stage/pictures/picture.ts';
import { png } from '#stage/pictures/png.ts';

/** Pictures in one zip file, each written as it comes. */
export class PictureZip {
  private readonly chunks: Uint8Array<ArrayBuffer>[] = [];
  private readonly zip = new Zip((error, chunk) => {
    if (error) throw error;
    this.chunks.push(chunk as Uint8Array<ArrayBuffer>);
  });
  private readonly taken = new Set<string>();

  /** @param name without its ending; a second of the same name gets a number */
  async add(name: string, picture: Picture): Promise<void> {
    let own = name;
    for (let n = 2; this.taken.has(own.toLowerCase()); n++) own = `${name}-${n}`;
    this.taken.add(own.toLowerCase());
    const file = new ZipPassThrough(`${own}.${png.ending}`);
    this.zip.add(file);
    file.push(new Uint8Array(await (await png.write(picture)).arrayBuffer()), true);
  }

  finish(): Blob {
    this.zip.end();
    return new Blob(this.chunks, { type: 'application/zip' });
  }
}

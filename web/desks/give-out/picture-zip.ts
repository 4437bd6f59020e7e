import { Zip, ZipPassThrough } from 'fflate';
import { unusedName } from '#core/model/unused-name.ts';
import type { PictureAbout } from '#stage/pictures/about.ts';
import type { Picture } from '#stage/pictures/picture.ts';
import { png } from '#stage/pictures/png.ts';
import type { PictureWriter } from '#stage/pictures/writer.ts';

/** Pictures in one zip file, each written as it comes. */
export class PictureZip {
  private readonly chunks: Uint8Array<ArrayBuffer>[] = [];
  private readonly zip = new Zip((error, chunk) => {
    if (error) throw error;
    this.chunks.push(chunk as Uint8Array<ArrayBuffer>);
  });
  private readonly taken = new Set<string>();

  constructor(private readonly writer: PictureWriter = png) {}

  /** @param name without its ending; a second of the same name gets a number */
  async add(name: string, picture: Picture, about?: PictureAbout, writer = this.writer): Promise<void> {
    const isTaken = (one: string): boolean => this.taken.has(one.toLowerCase());
    const own = unusedName(name, isTaken, (n) => `${name}-${n}`);
    this.taken.add(own.toLowerCase());
    const written = await writer.write(picture, about);
    this.put(`${own}.${writer.ending}`, new Uint8Array(await written.arrayBuffer()));
  }

  /** A file of text beside them. */
  addText(name: string, text: string): void {
    this.put(name, new TextEncoder().encode(text));
  }

  private put(name: string, bytes: Uint8Array): void {
    const file = new ZipPassThrough(name);
    this.zip.add(file);
    file.push(bytes, true);
  }

  finish(): Blob {
    this.zip.end();
    return new Blob(this.chunks, { type: 'application/zip' });
  }
}

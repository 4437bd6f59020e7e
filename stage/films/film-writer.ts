import type { FilmQuality } from '#core/motion/film-quality.ts';
import type { PictureSize } from '../stage.ts';

/** A picture of a film as a screen shows it: red, green, blue, opacity of each pixel, from the top left. */
export interface FilmFrame extends PictureSize {
  data: Uint8ClampedArray;
}

/** What is to be made. */
export interface FilmMaking {
  size: PictureSize;
  /** Pictures a second. */
  rate: number;
  /** How many pictures there will be. */
  count: number;
  quality: FilmQuality;
  /** Whether it goes round for ever, where the format can say so. */
  loop: boolean;
}

/** Where the bytes of a film go. Most come in order; some formats go back to their beginning. */
export type FilmSink = (bytes: Uint8Array<ArrayBuffer>, at: number) => Promise<void>;

/** Takes pictures one after the other. */
export interface FilmEncoder {
  add(frame: FilmFrame): Promise<void>;
  /** Writes what is left; nothing may come behind it. */
  finish(): Promise<void>;
  /** Lets go of everything without finishing. */
  cancel(): Promise<void>;
}

/** Turns pictures into films of one format. */
export interface FilmWriter {
  id: string;
  name: string;
  /** What it is good for, in a few words. */
  purpose: string;
  /** Ending of its files, without the dot. */
  ending: string;
  /** Media type of its files. */
  type: string;
  /** How it is looked at before it is saved. */
  preview: 'video' | 'image';
  /** Width and height are multiples of this. */
  grain: number;
  /** Whether this browser can write it at a size. */
  supported(size: PictureSize): Promise<boolean>;
  begin(making: FilmMaking, sink: FilmSink): Promise<FilmEncoder>;
}

/** The nearest size a format can hold. */
export const sizeInGrain = ({ grain }: FilmWriter, { width, height }: PictureSize): PictureSize => ({
  width: Math.max(grain, Math.round(width / grain) * grain),
  height: Math.max(grain, Math.round(height / grain) * grain),
});

/** Gathers the bytes of a film in memory. */
export class FilmInMemory {
  private readonly parts: { at: number; bytes: Uint8Array<ArrayBuffer> }[] = [];

  readonly sink: FilmSink = async (bytes, at) => {
    this.parts.push({ at, bytes: bytes.slice() });
  };

  blob(type: string): Blob {
    const size = this.parts.reduce((most, { at, bytes }) => Math.max(most, at + bytes.length), 0);
    const whole = new Uint8Array(size);
    for (const { at, bytes } of this.parts) whole.set(bytes, at);
    return new Blob([whole], { type });
  }
}

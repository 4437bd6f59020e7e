import { applyPalette, GIFEncoder, quantize } from 'gifenc';
import {
  BufferTarget,
  CanvasSource,
  canEncodeVideo,
  Mp4OutputFormat,
  Output,
  type OutputFormat,
  QUALITY_HIGH,
  type VideoCodec,
  WebMOutputFormat,
} from 'mediabunny';
import { developed } from '#stage/pictures/develop.ts';
import type { Picture } from '#stage/pictures/picture.ts';
import { PictureZip } from './picture-zip.ts';

export interface FilmSize {
  width: number;
  height: number;
}

/** Takes pictures one after the other and gives the finished film. */
export interface FilmEncoder {
  add(picture: Picture): Promise<void>;
  finish(): Promise<Blob>;
}

/** A kind of film. A new one is an entry in the list below. */
export interface FilmFormat {
  id: string;
  name: string;
  ending: string;
  /** How it is looked at before it is saved. */
  preview: 'video' | 'image' | 'none';
  /** Smallest step in width and height that it can hold. */
  grain: number;
  supported(size: FilmSize): Promise<boolean>;
  begin(size: FilmSize, rate: number): Promise<FilmEncoder>;
}

function videoFormat(
  id: string,
  name: string,
  codec: VideoCodec,
  container: () => OutputFormat,
  type: string,
): FilmFormat {
  return {
    id,
    name,
    ending: id,
    preview: 'video',
    grain: 2,
    supported: ({ width, height }) => canEncodeVideo(codec, { width, height, bitrate: QUALITY_HIGH }),
    async begin({ width, height }, rate) {
      const canvas = document.createElement('canvas');
      canvas.width = width;
      canvas.height = height;
      const painter = canvas.getContext('2d')!;
      const target = new BufferTarget();
      const output = new Output({ format: container(), target });
      const source = new CanvasSource(canvas, { codec, bitrate: QUALITY_HIGH, keyFrameInterval: 2 });
      output.addVideoTrack(source, { frameRate: rate });
      await output.start();
      let n = 0;
      return {
        async add(picture) {
          painter.drawImage(await developed(picture), 0, 0);
          await source.add(n++ / rate, 1 / rate);
        },
        async finish() {
          await output.finalize();
          return new Blob([target.buffer!], { type });
        },
      };
    },
  };
}

const gif: FilmFormat = {
  id: 'gif',
  name: 'GIF',
  ending: 'gif',
  preview: 'image',
  grain: 1,
  supported: async () => true,
  async begin({ width, height }, rate) {
    const encoder = GIFEncoder();
    return {
      async add(picture) {
        const shown = await developed(picture);
        const { data } = shown.getContext('2d')!.getImageData(0, 0, width, height);
        const palette = quantize(data, 256);
        encoder.writeFrame(applyPalette(data, palette), width, height, { palette, delay: 1000 / rate });
      },
      async finish() {
        encoder.finish();
        return new Blob([encoder.bytes() as Uint8Array<ArrayBuffer>], { type: 'image/gif' });
      },
    };
  },
};

const pictures: FilmFormat = {
  id: 'png',
  name: 'PNGs in a zip',
  ending: 'zip',
  preview: 'none',
  grain: 1,
  supported: async () => true,
  async begin() {
    const zip = new PictureZip();
    let n = 0;
    return {
      add: (picture) => zip.add(`picture-${String(++n).padStart(4, '0')}`, picture),
      finish: async () => zip.finish(),
    };
  },
};

export const filmFormats: readonly FilmFormat[] = [
  videoFormat('mp4', 'MP4', 'avc', () => new Mp4OutputFormat({ fastStart: 'in-memory' }), 'video/mp4'),
  videoFormat('webm', 'WebM', 'vp9', () => new WebMOutputFormat(), 'video/webm'),
  gif,
  pictures,
];

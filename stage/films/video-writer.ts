import {
  canEncodeVideo,
  Output,
  type OutputFormat,
  Quality,
  StreamTarget,
  type StreamTargetChunk,
  type VideoCodec,
  VideoSample,
  VideoSampleSource,
} from 'mediabunny';
import { asYuv, BT709 } from './bt709.ts';
import type { FilmMaking, FilmWriter } from './film-writer.ts';

interface Video extends Pick<FilmWriter, 'id' | 'name' | 'purpose' | 'ending' | 'type'> {
  codec: VideoCodec;
  container(): OutputFormat;
  /** Bits it takes in comparison with H.264 for a picture as good. Common practice, no source. */
  thrift: number;
}

/** Bits a pixel of each picture, of H.264. Common practice, no source. */
const bitsOfPixel = { small: 0.06, good: 0.15, best: 0.7 };
/** What the least picture takes, a second. */
const LEAST_BITS = 150_000;
/** One can go to so many seconds exactly. */
const KEY_EVERY = 2;

const bitsOf = ({ quality, size, rate }: FilmMaking, thrift: number): number =>
  typeof quality === 'object'
    ? quality.bits
    : Math.round(LEAST_BITS + thrift * bitsOfPixel[quality] * size.width * size.height * rate);

/** A film in the coding of a browser, in a container of its own. */
export function videoWriter({ codec, container, thrift, ...own }: Video): FilmWriter {
  return {
    ...own,
    preview: 'video',
    grain: 2,
    supported: ({ width, height }) =>
      width % 2 === 0 && height % 2 === 0
        ? canEncodeVideo(codec, { width, height, quality: new Quality('medium') })
        : Promise.resolve(false),
    async begin(making, sink) {
      const { size, rate } = making;
      const target = new StreamTarget(
        new WritableStream<StreamTargetChunk>({ write: ({ data, position }) => sink(data, position) }),
      );
      const output = new Output({ format: container(), target });
      const source = new VideoSampleSource({
        codec,
        quality: new Quality({ bitrate: bitsOf(making, thrift), bitrateMode: 'variable' }),
        latencyMode: 'quality',
        keyFrameInterval: KEY_EVERY,
      });
      output.addVideoTrack(source, { frameRate: rate });
      await output.start();
      let n = 0;
      return {
        async add(frame) {
          const sample = new VideoSample(asYuv(frame), {
            format: 'I420',
            codedWidth: size.width,
            codedHeight: size.height,
            timestamp: n / rate,
            duration: 1 / rate,
            colorSpace: BT709,
          });
          n++;
          await source.add(sample);
          sample.close();
        },
        finish: () => output.finalize(),
        cancel: () => output.cancel(),
      };
    },
  };
}

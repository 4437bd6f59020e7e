import { Mp4OutputFormat } from 'mediabunny';
import { videoWriter } from './video-writer.ts';

/** MPEG-4 with HEVC (ITU-T H.265): smaller, for newer players. */
export const hevc = videoWriter({
  id: 'hevc',
  name: 'MP4, HEVC',
  purpose: 'smaller, for newer players',
  ending: 'mp4',
  type: 'video/mp4',
  codec: 'hevc',
  container: () => new Mp4OutputFormat(),
  thrift: 0.7,
});

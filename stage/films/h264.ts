import { Mp4OutputFormat } from 'mediabunny';
import { videoWriter } from './video-writer.ts';

/** MPEG-4 with H.264 (ITU-T H.264): what every player knows. */
export const h264 = videoWriter({
  id: 'mp4',
  name: 'MP4, H.264',
  purpose: 'plays everywhere',
  ending: 'mp4',
  type: 'video/mp4',
  codec: 'avc',
  container: () => new Mp4OutputFormat(),
  thrift: 1,
});

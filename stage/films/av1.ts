import { Mp4OutputFormat } from 'mediabunny';
import { videoWriter } from './video-writer.ts';

/** MPEG-4 with AV1 (AOMedia): smallest, and slow to make. */
export const av1 = videoWriter({
  id: 'av1',
  name: 'MP4, AV1',
  purpose: 'smallest, slow to make',
  ending: 'mp4',
  type: 'video/mp4',
  codec: 'av1',
  container: () => new Mp4OutputFormat(),
  thrift: 0.6,
});

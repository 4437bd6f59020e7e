import { WebMOutputFormat } from 'mediabunny';
import { videoWriter } from './video-writer.ts';

/** WebM with VP9: an open format, for web pages. */
export const webm = videoWriter({
  id: 'webm',
  name: 'WebM',
  purpose: 'open, for web pages',
  ending: 'webm',
  type: 'video/webm',
  codec: 'vp9',
  container: () => new WebMOutputFormat(),
  thrift: 0.7,
});

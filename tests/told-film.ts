import { execFileSync } from 'node:child_process';

export interface ToldFilm {
  codec_name: string;
  width: number;
  height: number;
  /** As a fraction, in pictures a second. */
  r_frame_rate: string;
  color_space?: string;
  /** Pictures that were decoded. */
  nb_read_frames: number;
  /** In seconds. */
  duration: number;
  /** Of every kind, its pictures among them. */
  nb_streams: number;
}

/** What FFmpeg finds in a film, which shares nothing with the writers. */
export function toldOfFilm(path: string): ToldFilm {
  const entries =
    'stream=codec_name,width,height,r_frame_rate,color_space,nb_read_frames:format=duration,nb_streams';
  const { streams, format } = JSON.parse(
    execFileSync('ffprobe', [
      ...['-v', 'error', '-count_frames', '-select_streams', 'v:0'],
      ...['-show_entries', entries, '-of', 'json', path],
    ]).toString(),
  );
  const [stream] = streams;
  return {
    ...stream,
    nb_read_frames: Number(stream.nb_read_frames),
    duration: Number(format.duration),
    nb_streams: format.nb_streams,
  };
}

/**
 * The pictures of a film as FFmpeg decodes them, three bytes a pixel.
 *
 * @param filter what FFmpeg does to each of them first
 */
export function picturesOfFilm(
  path: string,
  { width, height }: { width: number; height: number },
  filter: string[] = [],
): Buffer[] {
  const raw = execFileSync(
    'ffmpeg',
    [
      ...['-v', 'error', '-i', path, ...filter],
      ...['-f', 'rawvideo', '-pix_fmt', 'rgb24', '-fps_mode', 'passthrough', '-'],
    ],
    { maxBuffer: 2 ** 28 },
  );
  const size = 3 * width * height;
  return Array.from({ length: raw.length / size }, (_, i) => raw.subarray(i * size, (i + 1) * size));
}

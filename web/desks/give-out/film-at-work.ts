import type { FileProblem } from '#core/model/read-error.ts';
import type { FilmQuality } from '#core/motion/film-quality.ts';
import type { TrackBeside } from '#core/motion/web-vtt.ts';

/** A film of a format, or the numbered pictures of a format in a zip; both by their ids. */
export type OrderedOutlet = { format: string; quality: FilmQuality } | { pictures: string };

/** A film that the server makes, or has made, as it tells of it. */
export interface FilmAtWork {
  job: string;
  /** Of the scene. */
  name: string;
  width: number;
  height: number;
  /** What it is given out as, in the order of its files. */
  outlets: ({ film: string } | { pictures: string })[];
  /** What goes beside it. */
  tracks: TrackBeside[];
  /** Cancelled is paused: the pictures that are whole stay, and it goes on behind them. */
  state: 'running' | 'done' | 'failed' | 'cancelled';
  /** 0..1 */
  done: number;
  /** Seconds to go, when known. */
  remaining: number | null;
  /** How many others come first. */
  ahead: number;
  /** Once it is done: how many pictures it has, and which of them stands for it where it is not played. */
  pictures: number | null;
  poster: number | null;
  problem: FileProblem | null;
}

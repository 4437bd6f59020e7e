import type { FileProblem } from '#core/model/read-error.ts';

/** A film that the server makes, or has made, as it tells of it. */
export interface FilmAtWork {
  job: string;
  /** Of the scene. */
  name: string;
  width: number;
  height: number;
  /** Of its films, by their ids. */
  formats: string[];
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

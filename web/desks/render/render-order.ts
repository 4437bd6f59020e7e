import type { Finding } from '#core/preflight/rule.ts';
import type { SceneFacts } from '#core/report/facts.ts';
import type { ScaleEnds } from '#core/scene/scale-ends.ts';
import type { FilmMaking } from '#stage/films/film-writer.ts';

/** What the page that draws is asked for. */
export interface RenderOrder {
  run: string;
  /** A scene document, or null for the one the run would open with. */
  scene: unknown;
  /** Which picture of the scene; see `PictureAt`. */
  step: number;
  onward?: number;
  phase?: number | null;
  /** A time of its film in place of a step, in seconds. */
  film?: number;
  width: number;
  height: number;
  transparent: boolean;
  passes: number;
  /** See `PictureOptions`. */
  tile?: number;
  /** Format of the file, by its id: of a picture, or of a scene as bodies; PNG where none is named. */
  format?: string;
  /** Whether the picture comes taken apart, in a zip. */
  layers?: boolean;
  /** Formats of pictures that the same picture is written in as well, by their ids. */
  also?: string[];
}

/** What it made; the file itself is taken piece by piece. */
export interface RenderAnswer {
  bytes: number;
  /** Of the file's name, without the dot. */
  ending: string;
  /** Of the same picture in other formats, in the order in which they were asked for. */
  also: { bytes: number; ending: string }[];
  /** What the scene asks for and the run does not have, or the file cannot hold, in words. */
  mismatches: string[];
  /** What the preflight finds in the picture; nothing of bodies, nor of single pictures of a film. */
  findings: Finding[];
}

/** A film that is asked for, of pictures that lie on the server. */
export interface FilmOrder {
  /** Address of a picture without its number; they are counted from 0. */
  pictures: string;
  making: FilmMaking;
  /** Of the film, by its id. */
  format: string;
}

/** What whoever drives the page has for it. */
export interface DriverWindow {
  /** Writes some bytes of the film, as base64, at a place of its file; then it is told how many of its pictures are in it. */
  dresserPut(at: number, bytes: string): Promise<void>;
  dresserTold(done: number): Promise<void>;
}

/** Where the colour scales of a scene begin and end at a step of a run. */
export interface EndsOrder {
  run: string;
  scene: unknown;
  step: number;
}

/** A scene that is shown in a report. */
export interface LivingOrder {
  run: string;
  scene: unknown;
  /** A time of its film, in seconds; null for its step. */
  film: number | null;
}

/** What a report is to know of a scene. */
export interface FactsOrder extends LivingOrder {
  files: SceneFacts['origin']['files'];
}

/** What the page has for whoever drives it. */
export interface RenderWindow {
  dresserEnds(order: EndsOrder): Promise<ScaleEnds>;
  dresserFacts(order: FactsOrder): Promise<SceneFacts>;
  /** Makes a living figure and tells its bytes: 0 where it is too large for a page. */
  dresserLiving(order: LivingOrder): Promise<{ bytes: number }>;
  dresserRender(order: RenderOrder): Promise<RenderAnswer>;
  /** Some bytes of what was made last, as base64: 0 is the file, and those behind it the same picture in other formats. */
  dresserTake(of: number, from: number, to: number): Promise<string>;
  /** Puts pictures together to a film, and tells the ending of its file. */
  dresserFilm(order: FilmOrder): Promise<{ ending: string }>;
  /** Ids of the formats films can be written in at a size. */
  dresserFilms(size: { width: number; height: number }): Promise<string[]>;
}

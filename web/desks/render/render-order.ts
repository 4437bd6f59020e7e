/** What the page that draws is asked for. */
export interface RenderOrder {
  run: string;
  /** A scene document, or null for the one the run would open with. */
  scene: unknown;
  step: number;
  /** Where in its cycle the scene is; null for where it was. */
  phase?: number | null;
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
}

/** What it made; the file itself is taken piece by piece. */
export interface RenderAnswer {
  bytes: number;
  /** Of the file's name, without the dot. */
  ending: string;
  /** What the scene asks for and the run does not have, or the file cannot hold, in words. */
  mismatches: string[];
}

/** What the page has for whoever drives it. */
export interface RenderWindow {
  dresserRender(order: RenderOrder): Promise<RenderAnswer>;
  /** Some bytes of the file made last, as base64. */
  dresserTake(from: number, to: number): Promise<string>;
}

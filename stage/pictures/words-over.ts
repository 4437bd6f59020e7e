import type { PictureSize } from '../stage.ts';

/** Most pixels of words that are painted at once: a canvas of all of a large picture would not be had. */
const AT_ONCE = 2 ** 24;

/** What of words there is in some rows of a picture. */
export interface WordRows {
  canvas: HTMLCanvasElement;
  /** The row of the picture that the canvas begins with. */
  top: number;
}

/** The words that lie over a picture. */
export interface Words {
  /** A canvas as wide as the picture that holds a row, and those after it as far as it reaches. */
  at(row: number): WordRows;
}

/** Words that are painted when they are asked for, band by band; pictures of the usual sizes are one band. */
export class WordsOver implements Words {
  private painted: WordRows | null = null;
  private readonly rows: number;

  /** @param paint paints all words of the picture, whatever part of it shows on the canvas */
  constructor(
    private readonly size: PictureSize,
    private readonly paint: (painter: CanvasRenderingContext2D) => void,
  ) {
    this.rows = Math.min(size.height, Math.max(1, Math.floor(AT_ONCE / size.width)));
  }

  at(row: number): WordRows {
    const top = row - (row % this.rows);
    if (this.painted?.top === top) return this.painted;
    const canvas = document.createElement('canvas');
    canvas.width = this.size.width;
    canvas.height = Math.min(this.rows, this.size.height - top);
    const painter = canvas.getContext('2d', { willReadFrequently: true })!;
    painter.translate(0, -top);
    this.paint(painter);
    this.painted = { canvas, top };
    return this.painted;
  }
}

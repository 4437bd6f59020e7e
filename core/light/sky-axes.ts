import { times, type Vector } from '../model/vectors.ts';
import { directionAt, luminance, type Panorama, smallerPanorama, solidAngle } from './panorama.ts';

/** Columns of the copy of a panorama from which directions are drawn. */
const COLUMNS = 64;
/** Share of all directions that are looked at however dark they are: what is not looked at throws no shade. */
const EVEN_SHARE = 0.25;

type Rgb = [number, number, number];

/** A line through the model, and what a matte surface gets from either end of it for each unit of its cosine. */
export interface SkyAxis {
  /** Towards its end in the upper half. */
  towards: Vector;
  ahead: Rgb;
  behind: Rgb;
  /** How much of the sky it stands for, as a multiple of what it would if all of it were as bright. */
  spread: number;
}

/**
 * Draws lines through the model as often as their two ends are bright together, since one drawing of the model serves both
 * (sampling in proportion to the light, as of image-based lights: Pharr and Humphreys 2004).
 */
export class SkyAxes {
  private readonly small: Panorama;
  /** Of rows and, row by row, of columns: the share of all light up to their end. */
  private readonly rows: Float64Array;
  private readonly columns: Float64Array;
  private readonly density: Float64Array;

  constructor(panorama: Panorama) {
    this.small = smallerPanorama(panorama, COLUMNS);
    const { width, height } = this.small;
    const half = height / 2;
    const light = new Float64Array(width * half);
    let sum = 0;
    for (let row = 0; row < half; row++)
      for (let column = 0; column < width; column++) {
        const both = this.brightness(row, column) + this.brightness(...this.opposite(row, column));
        light[row * width + column] = both * solidAngle(row, this.small);
        sum += light[row * width + column];
      }
    this.density = light;
    this.rows = new Float64Array(half);
    this.columns = new Float64Array(width * half);
    let before = 0;
    for (let row = 0; row < half; row++) {
      let inRow = 0;
      for (let column = 0; column < width; column++) {
        const i = row * width + column;
        const even = solidAngle(row, this.small) / (2 * Math.PI);
        const share = sum > 0 ? (1 - EVEN_SHARE) * (light[i] / sum) + EVEN_SHARE * even : even;
        // Per steradian of the half sphere.
        this.density[i] = share / solidAngle(row, this.small);
        inRow += share;
        this.columns[i] = inRow;
      }
      for (let column = 0; column < width; column++) this.columns[row * width + column] /= inRow;
      before += inRow;
      this.rows[row] = before;
    }
  }

  /** The line of a place in the unit square; evenly spread places give evenly spread lines. */
  at(u: number, v: number): SkyAxis {
    const { width, height } = this.small;
    const [row, down] = placeIn(this.rows, 0, height / 2, u);
    const [column, across] = placeIn(this.columns, row * width, width, v);
    // Rows hold more the nearer they are to the horizon: even in height, not in angle.
    const [top, foot] = [Math.cos((Math.PI * row) / height), Math.cos((Math.PI * (row + 1)) / height)];
    const z = top + down * (foot - top);
    const towards = directionAt((column + across) / width, Math.acos(z) / Math.PI);
    const density = this.density[row * width + column];
    const per = 1 / (Math.PI * density);
    return {
      towards,
      ahead: times(this.colour(row, column), per),
      behind: times(this.colour(...this.opposite(row, column)), per),
      spread: 1 / (2 * Math.PI * density),
    };
  }

  private opposite(row: number, column: number): [number, number] {
    const { width, height } = this.small;
    return [height - 1 - row, (column + width / 2) % width];
  }

  private colour(row: number, column: number): Vector {
    const from = 3 * (row * this.small.width + column);
    const { pixels } = this.small;
    return [pixels[from], pixels[from + 1], pixels[from + 2]];
  }

  private brightness(row: number, column: number): number {
    return luminance(...this.colour(row, column));
  }
}

/** Which of the shares that end at the given ones holds a place, and how far in it. */
function placeIn(ends: Float64Array, from: number, count: number, place: number): [number, number] {
  const last = ends[from + count - 1];
  const wanted = place * last;
  let [low, high] = [0, count - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ends[from + middle] > wanted) high = middle;
    else low = middle + 1;
  }
  const begin = low === 0 ? 0 : ends[from + low - 1];
  const size = ends[from + low] - begin;
  return [low, size > 0 ? Math.min(1, Math.max(0, (wanted - begin) / size)) : 0.5];
}

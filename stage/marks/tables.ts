import {
  DataTexture,
  FloatType,
  type PixelFormat,
  RedFormat,
  RedIntegerFormat,
  RGBAFormat,
  UnsignedIntType,
} from 'three';
import { ROW } from '../shaders/copies.ts';

/** Entries of a table, in whole rows. */
const roomFor = (count: number): number => ROW * Math.max(1, Math.ceil(count / ROW));

/** A table of numbers for the card, read by the number of an entry; see `copiesShader`. */
function table(data: Float32Array | Uint32Array, format: PixelFormat, width: number): DataTexture {
  const type = data instanceof Uint32Array ? UnsignedIntType : FloatType;
  const made = new DataTexture(data, ROW, data.length / width / ROW, format, type);
  made.needsUpdate = true;
  return made;
}

/** Whole numbers. */
export function numberTable(numbers: Uint32Array): DataTexture {
  const data = new Uint32Array(roomFor(numbers.length));
  data.set(numbers);
  return table(data, RedIntegerFormat, 1);
}

/** Three numbers each, and a fourth. */
export function vectorTable(vectors: Float32Array, fourth: Float32Array | number = 0): DataTexture {
  const count = vectors.length / 3;
  const data = new Float32Array(4 * roomFor(count));
  for (let i = 0; i < count; i++) {
    data[4 * i] = vectors[3 * i];
    data[4 * i + 1] = vectors[3 * i + 1];
    data[4 * i + 2] = vectors[3 * i + 2];
    data[4 * i + 3] = typeof fourth === 'number' ? fourth : fourth[i];
  }
  return table(data, RGBAFormat, 4);
}

/** Of what is not known: larger than all others, for cards need not keep what is not a number. */
const UNKNOWN = 3.4e38;

/** One value each. */
export class ValueTable {
  readonly texture: DataTexture;
  private readonly data: Float32Array;

  constructor(count: number) {
    this.data = new Float32Array(roomFor(count)).fill(UNKNOWN);
    this.texture = table(this.data, RedFormat, 1);
  }

  /** @param values null for none */
  fill(values: Float32Array | null): void {
    if (!values) this.data.fill(UNKNOWN);
    else
      for (let i = 0; i < values.length; i++) this.data[i] = Number.isFinite(values[i]) ? values[i] : UNKNOWN;
    this.texture.needsUpdate = true;
  }
}

import { lineFragment, lineVertex } from '../shaders/line.ts';
import { Copies } from './copies.ts';
import { material, type Uniforms, unlit } from './material.ts';
import type { Drawn } from './painter.ts';
import type { PendingValues } from './pending-values.ts';
import { ScaleUniforms } from './scale-uniforms.ts';
import { vectorTable } from './tables.ts';

/** What of the uniforms is of the colour scale. */
const SCALE_NAMES = ['uHasField', ...Object.keys(new ScaleUniforms().own)];

/** Line segments as quads of a width in pixels. */
export class Segments {
  readonly drawn: Drawn[];
  readonly material;
  readonly bare;
  private readonly copies: Copies;

  /** @param pairs vertex pairs */
  constructor(positions: Float32Array, pairs: Uint32Array, uniforms: Uniforms) {
    this.copies = new Copies(pairs, {
      ends: 2,
      corners: 6,
      vertices: positions.length / 3,
      tables: { uPlaces: () => vectorTable(positions) },
    });
    const all = { ...uniforms, ...this.copies.uniforms };
    this.material = material(lineVertex, lineFragment, all);
    this.bare = unlit(lineVertex, lineFragment, all);
    this.drawn = [this.copies.drawn(this.material, 'line', { unlit: this.bare })];
  }

  get values(): PendingValues {
    return this.copies.values;
  }

  /** Colours by the scale of these uniforms from now on. */
  use(uniforms: Uniforms): void {
    for (const { uniforms: own } of [this.material, this.bare])
      for (const name of SCALE_NAMES) own[name] = uniforms[name];
  }

  dispose(): void {
    this.copies.dispose();
    this.material.dispose();
    this.bare.dispose();
  }
}

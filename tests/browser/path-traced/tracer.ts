import { build } from 'esbuild';
import type { Page } from 'playwright-core';
import type { Vector } from '#core/model/vectors.ts';

/** A matte body: corners of its triangles, three numbers each, and its colour in linear light. */
export interface TracedBody {
  positions: number[];
  colour: Vector;
  roughness: number;
}

export interface TraceOrder {
  bodies: TracedBody[];
  /** More of them, in base 64; null for none. */
  glb: string | null;
  camera: {
    position: Vector;
    target: Vector;
    up: Vector;
    /** Of what is seen, where there is no perspective. */
    height: number;
    /** Upright, in degrees; null without perspective. */
    fieldOfView: number | null;
    near: number;
    far: number;
  };
  /** Light from all around, four numbers a pixel, bottom row first; see `skyPicture`. */
  sky: { width: number; height: number; pixels: number[] };
  width: number;
  height: number;
  samples: number;
  /** Surfaces that a path meets at most, and one more to see the sky from the last. */
  bounces: number;
}

/** A sky as a picture around: the middles of its pixels, in the order in which the tracer looks for them. */
export function skyPicture(
  of: (direction: Vector) => readonly [number, number, number],
  width = 128,
): TraceOrder['sky'] {
  const height = width / 2;
  const pixels: number[] = [];
  for (let row = 0; row < height; row++) {
    const rise = Math.PI * ((row + 0.5) / height - 0.5);
    for (let column = 0; column < width; column++) {
      const turn = 2 * Math.PI * ((column + 0.5) / width - 0.5);
      const level = Math.cos(rise);
      pixels.push(...of([level * Math.cos(turn), Math.sin(rise), level * Math.sin(turn)]), 1);
    }
  }
  return { width, height, pixels };
}

/** A path tracer (the package three-gpu-pathtracer) in a page of its own. */
export class Tracer {
  private constructor(private readonly page: Page) {}

  static async open(page: Page): Promise<Tracer> {
    const { outputFiles } = await build({
      entryPoints: ['tests/browser/path-traced/tracer-page.ts'],
      bundle: true,
      write: false,
      format: 'iife',
      target: 'es2022',
      logLevel: 'error',
    });
    await page.addScriptTag({ content: outputFiles[0].text });
    return new Tracer(page);
  }

  /** @returns light of each pixel, red, green, blue and opacity, top row first */
  trace(order: TraceOrder): Promise<number[]> {
    return this.page.evaluate(
      (o) => (window as never as { traced(o: unknown): Promise<number[]> }).traced(o),
      order,
    );
  }
}

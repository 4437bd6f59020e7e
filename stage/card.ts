import {
  type Camera,
  type Group,
  LinearSRGBColorSpace,
  Mesh,
  OrthographicCamera,
  PlaneGeometry,
  type RawShaderMaterial,
  WebGLRenderer,
  type WebGLRenderTarget,
} from 'three';
import type { Drawn } from './marks/painter.ts';
import { type Drawing, Slices } from './slices.ts';

/** Canvases that have what draws on them: each knows what it told the card last, so that a second one would confuse both. */
const taken = new WeakSet<HTMLCanvasElement>();

/**
 * What draws: objects and pictures made of others, piece by piece into slices of time. Several stages may share one: then each
 * takes its finished picture from the canvas before another comes.
 */
export class Card {
  readonly renderer: WebGLRenderer;
  readonly slices: Slices;
  /** Whether it is really a processor. */
  readonly software: boolean;
  private readonly screen = new Mesh<PlaneGeometry, RawShaderMaterial>(new PlaneGeometry(2, 2));
  private readonly camera = new OrthographicCamera(-1, 1, 1, -1, 0, 1);

  constructor(canvas: HTMLCanvasElement) {
    if (taken.has(canvas)) throw new Error('Something else draws on this canvas already.');
    taken.add(canvas);
    this.renderer = new WebGLRenderer({
      canvas,
      alpha: true,
      antialias: false,
      preserveDrawingBuffer: true,
      powerPreference: 'high-performance',
    });
    this.renderer.autoClear = false;
    this.renderer.outputColorSpace = LinearSRGBColorSpace;
    this.renderer.setClearColor(0, 0);
    this.software = drawnBySoftware(this.renderer);
    this.slices = new Slices(this.renderer.getContext() as WebGL2RenderingContext, this.software);
    this.screen.frustumCulled = false;
  }

  /**
   * Readies the programs of objects, and of what fills pictures, without keeping the page waiting.
   */
  async compile(all: Group, filling: readonly RawShaderMaterial[]): Promise<void> {
    for (const made of filling) all.add(new Mesh(this.screen.geometry, made));
    await this.renderer.compileAsync(all, this.camera);
  }

  /** An object, piece by piece; in another material where one is given. */
  *pieces(
    drawn: Drawn,
    camera: Camera,
    target: WebGLRenderTarget,
    made: RawShaderMaterial | null = null,
  ): Drawing {
    const { renderer } = this;
    const { object } = drawn;
    const own = object.material;
    const kind = made ? `unlit ${drawn.kind}` : drawn.kind;
    const byRow = drawn.by === 'row';
    const all = byRow ? target.height : drawn.count;
    let from = 0;
    while (from < all) {
      const n = this.slices.take(kind, all - from, target.width, drawn.by === 'whole');
      if (n === 0) {
        yield;
        continue;
      }
      if (byRow) {
        drawn.narrow(0, drawn.count);
        target.scissorTest = true;
        target.scissor.set(0, from, target.width, n);
      } else drawn.narrow(from, from + n);
      renderer.setRenderTarget(target);
      object.material = made ?? own;
      renderer.render(object, camera);
      object.material = own;
      target.scissorTest = false;
      from += n;
    }
  }

  /**
   * Carries out a drawing.
   *
   * @returns whether any pixel of it was drawn; null unless that is asked
   */
  *drawsAny(drawing: Drawing, asked: boolean): Generator<void, boolean | null, void> {
    if (!asked) {
      yield* drawing;
      return null;
    }
    const gl = this.renderer.getContext() as WebGL2RenderingContext;
    const query = gl.createQuery();
    if (!query) throw new Error('The graphics card is no longer there.');
    try {
      gl.beginQuery(gl.ANY_SAMPLES_PASSED, query);
      this.slices.alone = true;
      try {
        yield* drawing;
      } finally {
        gl.endQuery(gl.ANY_SAMPLES_PASSED);
        this.slices.alone = false;
      }
      // Answers come between slices.
      do yield;
      while (!gl.isContextLost() && !gl.getQueryParameter(query, gl.QUERY_RESULT_AVAILABLE));
      return Boolean(gl.getQueryParameter(query, gl.QUERY_RESULT));
    } finally {
      gl.deleteQuery(query);
    }
  }

  /** A picture made out of others, row by row; on the canvas where there is no target. */
  *fill(made: RawShaderMaterial, target: WebGLRenderTarget | null, kind: string): Drawing {
    const { renderer } = this;
    const { width, height } = target ?? renderer.domElement;
    let from = 0;
    while (from < height) {
      const n = this.slices.take(kind, height - from, width, target === null);
      if (n === 0) {
        yield;
        continue;
      }
      if (target) {
        target.scissorTest = true;
        target.scissor.set(0, from, target.width, n);
      }
      this.screen.material = made;
      renderer.setRenderTarget(target);
      renderer.render(this.screen, this.camera);
      if (target) target.scissorTest = false;
      from += n;
    }
  }

  /** Makes the canvas so large, in its pixels. */
  fit(width: number, height: number): void {
    const { domElement: canvas } = this.renderer;
    if (canvas.width !== width || canvas.height !== height) this.renderer.setSize(width, height, false);
  }

  dispose(): void {
    this.renderer.dispose();
  }

  /** @param free what the last number of each pixel becomes */
  clear(target: WebGLRenderTarget, free = 0): void {
    this.renderer.setClearColor(0, free);
    this.renderer.setRenderTarget(target);
    this.renderer.clear();
    this.renderer.setClearColor(0, 0);
  }

  /**
   * The pixels of a finished picture as they are: linear light, premultiplied, top row first.
   *
   * @param which of its textures
   */
  linearPixels(source: WebGLRenderTarget, which = 0): Float32Array {
    const { width, height } = source;
    const raw = new Float32Array(width * height * 4);
    this.renderer.readRenderTargetPixels(source, 0, 0, width, height, raw, undefined, which);
    const row = new Float32Array(width * 4);
    for (let y = 0; y < height >> 1; y++) {
      const [top, bottom] = [y * width * 4, (height - 1 - y) * width * 4];
      row.set(raw.subarray(top, top + row.length));
      raw.copyWithin(top, bottom, bottom + row.length);
      raw.set(row, bottom);
    }
    return raw;
  }
}

function drawnBySoftware(renderer: WebGLRenderer): boolean {
  const gl = renderer.getContext();
  const info = gl.getExtension('WEBGL_debug_renderer_info');
  const name = info ? String(gl.getParameter(info.UNMASKED_RENDERER_WEBGL)) : '';
  return /swiftshader|llvmpipe|software/i.test(name);
}

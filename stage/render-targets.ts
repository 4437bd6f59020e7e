import {
  DepthTexture,
  FloatType,
  HalfFloatType,
  NearestFilter,
  UnsignedIntType,
  WebGLRenderTarget,
} from 'three';

/** The running mean of passes over one tile. */
export class PassSum {
  count = 0;
  readonly fresh: WebGLRenderTarget;
  mean: WebGLRenderTarget;
  spare: WebGLRenderTarget;

  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.fresh = new WebGLRenderTarget(width, height, { type: HalfFloatType });
    const exact = {
      type: FloatType,
      depthBuffer: false,
      minFilter: NearestFilter,
      magFilter: NearestFilter,
    } as const;
    this.mean = new WebGLRenderTarget(width, height, exact);
    this.spare = new WebGLRenderTarget(width, height, exact);
  }

  turn(): void {
    [this.mean, this.spare] = [this.spare, this.mean];
    this.count++;
  }

  restart(): void {
    this.count = 0;
  }

  dispose(): void {
    for (const t of [this.fresh, this.mean, this.spare]) t.dispose();
  }
}

/** What a light or the camera sees: depths only. */
export function depthTarget(width: number, height = width): WebGLRenderTarget {
  const depthTexture = new DepthTexture(width, height, UnsignedIntType);
  depthTexture.minFilter = NearestFilter;
  depthTexture.magFilter = NearestFilter;
  return new WebGLRenderTarget(width, height, { depthTexture });
}

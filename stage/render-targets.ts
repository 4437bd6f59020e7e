import {
  DepthTexture,
  FloatType,
  HalfFloatType,
  NearestFilter,
  RGFormat,
  UnsignedIntType,
  Vector4,
  WebGLRenderTarget,
} from 'three';

const EXACT = {
  type: FloatType,
  depthBuffer: false,
  minFilter: NearestFilter,
  magFilter: NearestFilter,
} as const;

/** What lies where in one pass, as `outputs` tells; and the same in its light. */
export class PassPicture {
  readonly surfaces: WebGLRenderTarget;
  readonly lit: WebGLRenderTarget;

  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    const near = { ...EXACT, type: HalfFloatType, count: 2, depthBuffer: true } as const;
    const depths = readableDepths(width, height);
    this.surfaces = new WebGLRenderTarget(width, height, { ...near, depthTexture: depths });
    // Directions and distances.
    this.surfaces.textures[1].type = FloatType;
    this.lit = new WebGLRenderTarget(width, height, { ...near, count: 3, depthTexture: depths });
  }

  dispose(): void {
    this.surfaces.dispose();
    this.lit.dispose();
  }
}

/**
 * The running mean of passes over one tile: colour, light beside it, and what met the camera as light. What `clean` holds is that mean with its light
 * smoothed.
 */
export class PassSum extends PassPicture {
  count = 0;
  /** Depths and slopes of the first pass, drawn through the middles of the pixels. */
  readonly shape: WebGLRenderTarget;
  mean: WebGLRenderTarget;
  spare: WebGLRenderTarget;
  readonly clean: WebGLRenderTarget;
  /** Where its tile begins in the whole picture, from the lower left, and its share. */
  readonly tile = new Vector4(0, 0, 1, 1);
  /** How many passes are in `clean`; none since the last restart. */
  cleaned = 0;
  /** Two to smooth the light back and forth; in the end it is in the first. */
  readonly light: [WebGLRenderTarget, WebGLRenderTarget];
  /** Change of depth that is one pixel wide, as a linear function of the depth of the first pass. */
  depthUnit: [number, number] = [0, 1];

  /** @param goal passes there will be; each stands for its share of lamp and sky */
  constructor(
    width: number,
    height: number,
    public goal: number,
  ) {
    super(width, height);
    this.shape = new WebGLRenderTarget(width, height, EXACT);
    this.mean = new WebGLRenderTarget(width, height, { ...EXACT, count: 3 });
    this.spare = new WebGLRenderTarget(width, height, { ...EXACT, count: 3 });
    this.clean = new WebGLRenderTarget(width, height, EXACT);
    this.light = [new WebGLRenderTarget(width, height, EXACT), new WebGLRenderTarget(width, height, EXACT)];
  }

  /** Share of the light that arrives, as grey; see `CleanLight.shadow`. */
  get shadow(): WebGLRenderTarget {
    return this.light[1];
  }

  turn(): void {
    [this.mean, this.spare] = [this.spare, this.mean];
    this.count++;
  }

  restart(goal: number): void {
    this.count = 0;
    this.cleaned = 0;
    this.goal = goal;
  }

  override dispose(): void {
    super.dispose();
    const { shape, mean, spare, clean, light } = this;
    for (const t of [shape, mean, spare, clean, ...light]) t.dispose();
  }
}

/** Something as large as a picture, which is made anew for one of another size. */
export class Sized<T extends { width: number; height: number; dispose(): void }> {
  private made: T | null = null;

  constructor(private readonly make: (width: number, height: number) => T) {}

  of(width: number, height: number): T {
    if (this.made?.width === width && this.made.height === height) return this.made;
    this.dispose();
    this.made = this.make(width, height);
    return this.made;
  }

  dispose(): void {
    this.made?.dispose();
    this.made = null;
  }
}

/** What a light or the camera sees: depths only. */
export function depthTarget(width: number, height = width): WebGLRenderTarget {
  return new WebGLRenderTarget(width, height, { depthTexture: readableDepths(width, height) });
}

/**
 * What is seen along a direction and from the other end of it, in one drawing: of depths 0.25..0.75 the nearest, as
 * 0.75 less the depth, and the farthest, as the depth less 0.25. Casters write both with the greatest winning; half
 * floats keep them to a part in eight thousand of the reach.
 */
export function throughTarget(pixels: number): WebGLRenderTarget {
  return new WebGLRenderTarget(pixels, pixels, {
    format: RGFormat,
    type: HalfFloatType,
    depthBuffer: false,
    minFilter: NearestFilter,
    magFilter: NearestFilter,
  });
}

/** Depths that can be read. */
export function readableDepths(width: number, height: number): DepthTexture {
  const made = new DepthTexture(width, height, UnsignedIntType);
  made.minFilter = NearestFilter;
  made.magFilter = NearestFilter;
  return made;
}

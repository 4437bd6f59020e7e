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

/** So many times others may be asked for before what has another size is given up. */
const KEPT_FOR = 4;

/**
 * Something as large as a picture, made anew for one of another size. Where pictures of a few sizes are drawn by turns, as on
 * both sides of a wipe, each keeps its own.
 */
export class Sized<T extends { width: number; height: number; dispose(): void }> {
  private made: { it: T; unused: number }[] = [];

  constructor(private readonly make: (width: number, height: number) => T) {}

  of(width: number, height: number): T {
    let found = this.made.find(({ it }) => it.width === width && it.height === height);
    for (const one of this.made) one.unused = one === found ? 0 : one.unused + 1;
    for (const { it } of this.made.filter((one) => one.unused > KEPT_FOR)) it.dispose();
    this.made = this.made.filter((one) => one.unused <= KEPT_FOR);
    if (!found) {
      found = { it: this.make(width, height), unused: 0 };
      this.made.push(found);
    }
    return found.it;
  }

  dispose(): void {
    for (const { it } of this.made) it.dispose();
    this.made = [];
  }
}

/** Where drafts are drawn. What is seen through must know what it lies before. */
export function draftTarget(width: number, height: number, software: boolean): WebGLRenderTarget {
  return new WebGLRenderTarget(width, height, {
    type: HalfFloatType,
    samples: software ? 0 : 4,
    depthTexture: readableDepths(width, height),
  });
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

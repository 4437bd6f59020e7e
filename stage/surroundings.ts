import {
  ClampToEdgeWrapping,
  DataArrayTexture,
  DataTexture,
  DataUtils,
  FloatType,
  HalfFloatType,
  LinearFilter,
  RepeatWrapping,
  RGBAFormat,
} from 'three';
import { BLURRED, filteredPanorama, ROUGHNESS_STEPS } from '#core/light/filtered-panorama.ts';
import { type Panorama, paintedPanorama, seenIn } from '#core/light/panorama.ts';
import { reflectanceTable, TABLE_SIZE } from '#core/light/reflectance-table.ts';
import { SkyAxes } from '#core/light/sky-axes.ts';
import type { Light } from '#core/scene/document.ts';
import type { LightRig } from '#core/scene/light-rigs/light-rig.ts';
import { lampDirection } from './lit-by.ts';

/** Size of what mirrors show. */
const SHARP = 512;
/** How long the page is kept waiting at most, in milliseconds. */
const SLICE = 8;
/** Surroundings kept beside those that are shown. */
const KEPT = 6;

interface Filtered {
  sharp: DataTexture;
  glossy: DataArrayTexture;
  axes: SkyAxes;
}

/** What shines around the model, as the card wants it: worked out once for each rig, in slices of time. */
export class Surroundings {
  readonly reflectance = table();
  private readonly known = new Map<string, Filtered>();
  private now: Filtered | null = null;

  /** What was readied last; nothing before the first. */
  get shown(): Filtered | null {
    return this.now;
  }

  /** Readies those of a rig; without an even one nothing is needed. */
  async ready(rig: LightRig, light: Pick<Light, 'rise'>): Promise<void> {
    if (!rig.surroundings) return;
    const sun = rig.lights[0]
      ? lampDirection(rig.lights[0], light.rise)
      : ([0, 0, 1] as [number, number, number]);
    // Only skies with a sun of their own follow it.
    const key = `${rig.id} ${rig.follows ? '' : sun.map((v) => v.toFixed(3)).join()}`;
    const known = this.known.get(key);
    this.known.delete(key);
    const made = known ?? (await this.made(paintedPanorama((d) => rig.surroundings!(d, sun), SHARP)));
    this.known.set(key, made);
    this.now = made;
    for (const [old, gone] of this.known) {
      if (this.known.size <= KEPT) break;
      this.known.delete(old);
      drop(gone);
    }
  }

  private async made(given: Panorama): Promise<Filtered> {
    let began = performance.now();
    const pause = async (): Promise<void> => {
      if (performance.now() - began < SLICE) return;
      await new Promise((resolve) => setTimeout(resolve, 0));
      began = performance.now();
    };
    const { sharp, glossy, matte } = await filteredPanorama(given, pause);
    // Finer than it is, so that both can lie in one stack.
    const wide = paintedPanorama((d) => seenIn(matte, d), BLURRED.width, BLURRED.height);
    return { sharp: flat(sharp), glossy: stack([...glossy, wide]), axes: new SkyAxes(sharp) };
  }

  dispose(): void {
    this.reflectance.dispose();
    for (const one of this.known.values()) drop(one);
    this.known.clear();
  }
}

function drop({ sharp, glossy }: Filtered): void {
  sharp.dispose();
  glossy.dispose();
}

/** Brightest that half floats hold. */
const MOST = 65_000;

function intoHalves(out: Uint16Array, { pixels }: Panorama, from = 0): void {
  const one = DataUtils.toHalfFloat(1);
  for (let i = 0; i < pixels.length / 3; i++) {
    for (let k = 0; k < 3; k++)
      out[from + 4 * i + k] = DataUtils.toHalfFloat(Math.min(MOST, pixels[3 * i + k]));
    out[from + 4 * i + 3] = one;
  }
}

function around<T extends DataTexture | DataArrayTexture>(made: T): T {
  made.type = HalfFloatType;
  made.format = RGBAFormat;
  made.wrapS = RepeatWrapping;
  made.wrapT = ClampToEdgeWrapping;
  made.minFilter = LinearFilter;
  made.magFilter = LinearFilter;
  made.needsUpdate = true;
  return made;
}

function flat(panorama: Panorama): DataTexture {
  const data = new Uint16Array(4 * panorama.width * panorama.height);
  intoHalves(data, panorama);
  return around(new DataTexture(data, panorama.width, panorama.height));
}

function stack(all: readonly Panorama[]): DataArrayTexture {
  const { width, height } = BLURRED;
  const data = new Uint16Array(4 * width * height * (ROUGHNESS_STEPS + 1));
  for (const [i, one] of all.entries()) intoHalves(data, one, 4 * width * height * i);
  return around(new DataArrayTexture(data, width, height, all.length));
}

function table(): DataTexture {
  const made = new DataTexture(reflectanceTable(), TABLE_SIZE, TABLE_SIZE, RGBAFormat, FloatType);
  made.minFilter = LinearFilter;
  made.magFilter = LinearFilter;
  made.needsUpdate = true;
  return made;
}

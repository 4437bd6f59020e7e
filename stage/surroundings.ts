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
import {
  BLURRED,
  glossyPanoramas,
  type Pause,
  ROUGHNESS_STEPS,
  scaledPanorama,
} from '#core/light/filtered-panorama.ts';
import { type Panorama, paintedPanorama } from '#core/light/panorama.ts';
import { reflectanceTable, TABLE_SIZE } from '#core/light/reflectance-table.ts';
import { SkyAxes } from '#core/light/sky-axes.ts';
import type { Light } from '#core/scene/document.ts';
import { type LightRig, lampDirection } from '#core/scene/light-rigs/light-rig.ts';

/** Size of what mirrors show. */
const SHARP = 512;
/** How long the page is kept waiting at most, in milliseconds. */
const SLICE = 8;
/** Surroundings kept beside those that are shown. */
const KEPT = 6;

interface Shining {
  panorama: Panorama;
  /** As matte surfaces see them. */
  matte: DataTexture;
  axes: SkyAxes;
  /** As mirrors and less and less smooth surfaces see them; only finishes ask for it. */
  mirrored: { sharp: DataTexture; glossy: DataArrayTexture } | null;
}

/** What shines around the model, as the card wants it: worked out once for each rig, in slices of time. */
export class Surroundings {
  private table: DataTexture | null = null;
  private readonly known = new Map<string, Shining>();
  private now: Shining | null = null;

  /** What was readied last; nothing before the first. */
  get shown(): Shining | null {
    return this.now;
  }

  /** What share of light is reflected, which only finishes ask for; see `reflectanceTable`. */
  get reflectance(): DataTexture {
    this.table ??= table();
    return this.table;
  }

  /**
   * Readies those of a rig; without an even one nothing is needed.
   *
   * @param mirrored whether something wears a finish, which mirrors them
   */
  async ready(rig: LightRig, light: Pick<Light, 'rise'>, mirrored: boolean): Promise<void> {
    if (!rig.surroundings) return;
    const sun = rig.lights[0]
      ? lampDirection(rig.lights[0], light.rise)
      : ([0, 0, 1] as [number, number, number]);
    // Only skies with a sun of their own follow it.
    const key = `${rig.id} ${rig.follows ? '' : sun.map((v) => v.toFixed(3)).join()}`;
    const known = this.known.get(key);
    this.known.delete(key);
    const pause = pauses();
    const made =
      known ??
      (await shining(
        paintedPanorama((d) => rig.surroundings!(d, sun), SHARP),
        pause,
      ));
    if (mirrored) made.mirrored ??= await mirroredOf(made.panorama, pause);
    this.known.set(key, made);
    this.now = made;
    for (const [old, gone] of this.known) {
      if (this.known.size <= KEPT) break;
      this.known.delete(old);
      drop(gone);
    }
  }

  dispose(): void {
    this.table?.dispose();
    for (const one of this.known.values()) drop(one);
    this.known.clear();
  }
}

/** Gives the page a turn whenever it was kept waiting for long enough. */
function pauses(): Pause {
  let began = performance.now();
  return async () => {
    if (performance.now() - began < SLICE) return;
    await new Promise((resolve) => setTimeout(resolve, 0));
    began = performance.now();
  };
}

async function shining(given: Panorama, pause: Pause): Promise<Shining> {
  const { sharp, matte } = await scaledPanorama(given, pause);
  return { panorama: sharp, matte: flat(matte), axes: new SkyAxes(sharp), mirrored: null };
}

async function mirroredOf(panorama: Panorama, pause: Pause): Promise<Shining['mirrored']> {
  return { sharp: flat(panorama), glossy: stack(await glossyPanoramas(panorama, pause)) };
}

function drop({ matte, mirrored }: Shining): void {
  matte.dispose();
  mirrored?.sharp.dispose();
  mirrored?.glossy.dispose();
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
  const data = new Uint16Array(4 * width * height * ROUGHNESS_STEPS);
  for (const [i, one] of all.entries()) intoHalves(data, one, 4 * width * height * i);
  return around(new DataArrayTexture(data, width, height, all.length));
}

/** Worked out once, however many stages ask. */
let numbers: Float32Array<ArrayBuffer> | null = null;

function table(): DataTexture {
  numbers ??= reflectanceTable();
  const made = new DataTexture(numbers, TABLE_SIZE, TABLE_SIZE, RGBAFormat, FloatType);
  made.minFilter = LinearFilter;
  made.magFilter = LinearFilter;
  made.needsUpdate = true;
  return made;
}

import { type DataArrayTexture, DataTexture, FloatType, LinearFilter, RGBAFormat } from 'three';
import { glossyPanoramas, type Pause, scaledPanorama } from '#core/light/filtered-panorama.ts';
import { type Panorama, paintedPanorama, smallerPanorama } from '#core/light/panorama.ts';
import { reflectanceTable, TABLE_SIZE } from '#core/light/reflectance-table.ts';
import { SkyAxes } from '#core/light/sky-axes.ts';
import type { Light } from '#core/scene/document.ts';
import { type LightRig, lampDirection } from '#core/scene/light-rigs/light-rig.ts';
import { panoramaOf } from './enclosed-light.ts';
import { flatTexture, layeredTexture } from './panorama-texture.ts';

/** Width of what rigs paint, and of what mirrors show at the most. */
const SHARP = 512;
const MIRRORED = 2048;
/** How long the page is kept waiting at most, in milliseconds. */
const SLICE = 8;
/** Surroundings kept beside those that are shown. */
const KEPT = 6;

interface Shining {
  /** Tells it from others. */
  key: string;
  /** As it is shown. */
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
   * @throws Error when a panorama that goes with the scene cannot be read
   */
  async ready(rig: LightRig, light: Light, mirrored: boolean): Promise<void> {
    if (!rig.surroundings) return;
    const own = await panoramaOf({ light });
    const sun = rig.lights[0]
      ? lampDirection(rig.lights[0], light.rise)
      : ([0, 0, 1] as [number, number, number]);
    // Only skies with a sun of their own follow it.
    const key = own
      ? light.panorama!.bytes.hash
      : `${rig.id} ${rig.follows ? '' : sun.map((v) => v.toFixed(3)).join()}`;
    const known = this.known.get(key);
    this.known.delete(key);
    const pause = pauses();
    const made =
      known ?? (await shining(key, own ?? paintedPanorama((d) => rig.surroundings!(d, sun), SHARP), pause));
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

async function shining(key: string, given: Panorama, pause: Pause): Promise<Shining> {
  const { sharp, matte } = await scaledPanorama(given, pause);
  return { key, panorama: sharp, matte: flatTexture(matte), axes: new SkyAxes(sharp), mirrored: null };
}

async function mirroredOf(panorama: Panorama, pause: Pause): Promise<Shining['mirrored']> {
  return {
    sharp: flatTexture(smallerPanorama(panorama, MIRRORED)),
    glossy: layeredTexture(await glossyPanoramas(panorama, pause)),
  };
}

function drop({ matte, mirrored }: Shining): void {
  matte.dispose();
  mirrored?.sharp.dispose();
  mirrored?.glossy.dispose();
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

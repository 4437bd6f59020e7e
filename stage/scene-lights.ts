import type { Camera, WebGLRenderTarget } from 'three';
import type { Panorama } from '#core/light/panorama.ts';
import type { Bounds } from '#core/model/mesh.ts';
import type { Vector } from '#core/model/vectors.ts';
import type { Light, Scene } from '#core/scene/document.ts';
import type { LightRig } from '#core/scene/light-rigs/light-rig.ts';
import { lightRigById, rigOf } from '#core/scene/light-rigs/registry.ts';
import { upOf } from '#core/scene/things/upright.ts';
import { ShadowMap } from './lights.ts';
import { inWorld, type RigFrame, rigFrame, type ShiningLamp, shiningLights } from './lit-by.ts';
import { throughTarget } from './render-targets.ts';
import { axisSample } from './samples.ts';
import type { ShownPart } from './shown-parts.ts';
import type { Drawing } from './slices.ts';
import { MOST_LIGHTS, type StageUniforms } from './stage-uniforms.ts';
import { Surroundings } from './surroundings.ts';

/** The lamp casts a sharper shadow than the surroundings, whose many directions blur anyway. */
const KEY_PIXELS = 1024;
const SKY_PIXELS = 512;

/**
 * Share of its part of the sky that a pass looks into. A map shows one surface behind each place: wider cones would miss
 * what is near and hidden behind others, narrower ones leave more to be smoothed.
 */
const SKY_SHARE = 0.25;

/** One of so many passes, each of which stands for its share of the light. */
export interface Pass {
  n: number;
  of: number;
}

/** What is lit, relative to the origin of the run; the bounds are in the coordinates of the files. */
export interface LitBall {
  centre: Vector;
  radius: number;
  bounds: Bounds;
}

/** Everything the shadow of the lamp depends on; new values on the same shapes do not change it. */
export function shadowSource(scene: Scene, shown: readonly ShownPart[]): string {
  const shapes = shown.map((s) => [s.layer, s.part, s.key, s.visible]);
  const layers = scene.layers.map((l) => [l.sides, l.opacity > 0.6, l.finish]);
  const finishes = Object.entries(scene.parts).map(([name, look]) => [name, look.finish, look.opacity]);
  return JSON.stringify([
    scene.camera,
    scene.upright,
    scene.light,
    scene.lookInside,
    layers,
    shapes,
    finishes,
  ]);
}

/** All that shines on the model: lights with their shadows, and the surroundings. */
export class SceneLights {
  private readonly key = new ShadowMap(KEY_PIXELS);
  private readonly sky = new ShadowMap(SKY_PIXELS, throughTarget);
  private readonly surroundings = new Surroundings();
  /** What the shadow of the lamp was last drawn from, for drafts. */
  private keyDrawn = '';

  /** @param cast draws what throws shadows */
  constructor(
    private readonly shared: StageUniforms,
    private readonly cast: (target: WebGLRenderTarget, camera: Camera) => Drawing,
  ) {
    shared.uKeyMap.value = this.key.texture;
    shared.uKeyMatrix.value = this.key.matrix;
    shared.uSkyMap.value = this.sky.texture;
    shared.uSkyMatrix.value = this.sky.matrix;
  }

  /**
   * Works out what shines around the model, before anything is drawn in it.
   *
   * @param finished whether something wears a finish
   */
  async ready(light: Light, finished: boolean): Promise<void> {
    await this.surroundings.ready(rigOf(light), light, finished);
    if (finished) this.shared.uReflectance.value = this.surroundings.reflectance;
  }

  /** What shines around the model; nothing where all is lit alike. */
  around({ rig }: Pick<Light, 'rig'>): { panorama: Panorama; key: string } | null {
    return lightRigById(rig).surroundings && this.surroundings.shown;
  }

  /** A pass has drawn its own shadow over that of drafts. */
  forgetShadow(): void {
    this.keyDrawn = '';
  }

  /**
   * Readies the shadows of a draft or of one pass, and tells the shaders of all light.
   *
   * @param pass null for a draft
   * @param shadow what the shadow of the lamp depends on, for drafts: while that stays, so does the shadow
   */
  *shine(
    rig: LightRig,
    scene: Pick<Scene, 'light' | 'camera' | 'upright'>,
    { centre, radius, bounds }: LitBall,
    pass: Pass | null,
    shadow: string,
  ): Drawing {
    const { shared } = this;
    const { light } = scene;
    const frame = rigFrame(rig, light, scene.camera, upOf(scene.upright));
    this.setStrengths(rig, light, frame);
    const lights = strongest(shiningLights(rig, light, frame, pass));
    shared.uLampCount.value = lights.length;
    for (const [i, { to, share, colour }] of lights.entries()) {
      shared.uLights.value[i].set(...to, share);
      shared.uLampColours.value[i].set(...colour);
    }
    if (lights.length > 0) {
      const { to, size } = lights[0];
      shared.uLampSize.value = 2 * size;
      shared.uKeyCone.value = pass ? size / Math.sqrt(pass.of) : 0;
      shared.uLampRadius.value = pass ? size / Math.sqrt(pass.of) : size;
      if (light.shadow && (shadow === '' || shadow !== this.keyDrawn)) {
        this.key.aim(to, centre, radius, bounds);
        shared.uKeyTop.value = this.key.top;
        this.keyDrawn = '';
        yield* this.cast(this.key.target, this.key.camera);
        this.keyDrawn = shadow;
      }
    }
    const axes = this.surroundings.shown?.axes;
    if (pass !== null && light.contact > 0 && axes) {
      const axis = axes.at(...axisSample(pass.n, pass.of));
      const sky = inWorld(frame, axis.towards);
      shared.uSkyCone.value = Math.tan(Math.acos(1 - (SKY_SHARE * axis.spread) / pass.of));
      shared.uSkyDirection.value.set(...sky);
      shared.uSkyAhead.value.set(...axis.ahead);
      shared.uSkyBehind.value.set(...axis.behind);
      this.sky.aim(sky, centre, radius, bounds);
      shared.uSkyTop.value = this.sky.top;
      shared.uSkyRight.value.setFromMatrixColumn(this.sky.camera.matrixWorld, 0);
      shared.uSkyRise.value.setFromMatrixColumn(this.sky.camera.matrixWorld, 1);
      yield* this.cast(this.sky.target, this.sky.camera);
    }
  }

  private setStrengths(rig: LightRig, light: Light, { towards, right, up }: RigFrame): void {
    const { shared, surroundings } = this;
    const lights = rig.lights.length > 0 ? (1 - rig.sky) * light.strength : 0;
    const sky = rig.sky * light.fill;
    shared.uKeyStrength.value = lights;
    shared.uSkyStrength.value = sky;
    // What shows values is never lit more than wholly: nothing of it is cut off.
    shared.uPlainScale.value = Math.min(1, rig.exposure) / Math.max(1, lights + sky);
    shared.uExposure.value = rig.exposure;
    shared.uToSurroundings.value.set(...towards, ...right, ...up);
    const { matte, mirrored } = surroundings.shown ?? {};
    shared.uMatte.value = matte ?? null;
    shared.uSharp.value = mirrored?.sharp ?? null;
    shared.uGlossy.value = mirrored?.glossy ?? null;
  }

  dispose(): void {
    this.key.dispose();
    this.sky.dispose();
    this.surroundings.dispose();
  }
}

/** As many as the shaders know of, the strongest; those take over the light of the others. */
function strongest(lights: ShiningLamp[]): ShiningLamp[] {
  if (lights.length <= MOST_LIGHTS) return lights;
  const some = [...lights].sort((a, b) => b.share - a.share).slice(0, MOST_LIGHTS);
  const sum = (of: ShiningLamp[]): number => of.reduce((total, l) => total + l.share, 0);
  const scale = sum(lights) / (sum(some) || 1);
  return some.map((l) => ({ ...l, share: l.share * scale }));
}

import {
  type Camera,
  DepthTexture,
  FloatType,
  GreaterDepth,
  HalfFloatType,
  NearestFilter,
  type RawShaderMaterial,
  WebGLRenderTarget,
} from 'three';
import { layUnder, over, withoutDepth } from './blending.ts';
import type { Card } from './card.ts';
import { isLayered, isSeenThrough } from './drawing-order.ts';
import { material, setDefine } from './marks/material.ts';
import type { Drawn } from './marks/painter.ts';
import { Sized } from './render-targets.ts';
import { layerFragment } from './shaders/layer.ts';
import { layersFragment, screenVertex } from './shaders/screen.ts';
import type { Drawing } from './slices.ts';
import type { StageUniforms } from './stage-uniforms.ts';

/** So many layers one behind the other are told apart at most. What lies behind them is seen in the order of the scene. */
const MOST_LAYERS = 32;
/** The same while things move. */
const MOST_IN_DRAFTS = { software: 4, card: 12 };

const NEAR = { minFilter: NearestFilter, magFilter: NearestFilter } as const;

/** Depths as the shaders know them, to the last bit, so that a layer is known again. */
function exactDepths(width: number, height: number): DepthTexture {
  return Object.assign(new DepthTexture(width, height, FloatType), NEAR);
}

/** Puts the lines of a layer, of which is told what lies where, under what is put together in front of it. */
export type InkOfLayer = (layer: WebGLRenderTarget, front: WebGLRenderTarget) => Drawing;

/** The layer at hand and the one before, as `outputs` tells of them, and all that is in front, put together. */
class Layers {
  readonly two: readonly [WebGLRenderTarget, WebGLRenderTarget];
  readonly front: WebGLRenderTarget;
  /** Where no depths are asked for. */
  readonly idle: DepthTexture;

  /** @param count of the pictures that are drawn into in the end; see `outputs` */
  constructor(
    readonly width: number,
    readonly height: number,
    count: number,
  ) {
    const layer = (): WebGLRenderTarget => {
      const depthTexture = exactDepths(width, height);
      const made = new WebGLRenderTarget(width, height, {
        ...NEAR,
        type: HalfFloatType,
        count: 3,
        depthTexture,
      });
      // Directions and distances.
      made.textures[1].type = FloatType;
      return made;
    };
    this.two = [layer(), layer()];
    this.idle = exactDepths(width, height);
    this.front = new WebGLRenderTarget(width, height, {
      ...NEAR,
      type: HalfFloatType,
      count,
      depthTexture: this.idle,
    });
  }

  dispose(): void {
    for (const made of [...this.two, this.front, this.idle]) made.dispose();
  }
}

/**
 * Draws what is seen through rightly, in whatever order it comes and however it crosses: layer by layer from the front,
 * each pixel by itself (depth peeling, Everitt 2001, "Interactive Order-Independent Transparency"), with clouds between
 * the layers. Of a layer it is found first what lies where; then it is lit, each pixel once, and put under what lies
 * before it.
 */
export class SeeThrough {
  private readonly inPass = new Sized((width, height) => new Layers(width, height, 3));
  private readonly inDraft = new Sized((width, height) => new Layers(width, height, 1));
  private readonly lights = new Map<string, RawShaderMaterial>();
  private readonly together;
  /** Layers there were last time, less one: so many are drawn without waiting to hear whether there is something in them. */
  private expected = 0;
  private isClouded = false;

  /** @param shared light and camera of the stage */
  constructor(
    private readonly card: Card,
    private readonly shared: StageUniforms,
  ) {
    this.together = material(screenVertex, layersFragment, {
      uNew: { value: null },
      uNewLight: { value: null },
      uNewScene: { value: null },
    });
    withoutDepth(this.together);
    over(this.together);
  }

  /** What it draws with beside what is drawn. */
  materialsFor(world: readonly Drawn[], finished: boolean): RawShaderMaterial[] {
    if (!world.some(isLayered)) return [];
    return [this.together, this.lightFor(finished, true), this.lightFor(finished, false)];
  }

  /**
   * All that is seen through, over what is drawn already.
   *
   * @param world in the order of the scene; what is opaque in it is left out
   * @param target a picture of which the depths can be read
   * @param finished whether something wears a finish
   * @param ink where lines are wanted along the edges of what is seen through
   */
  *draw(
    world: readonly Drawn[],
    camera: Camera,
    target: WebGLRenderTarget,
    { draft, finished, ink }: { draft: boolean; finished: boolean; ink: InkOfLayer | null },
  ): Drawing {
    const all = world.filter(isSeenThrough);
    const of = (where: Drawn['through']): Drawn[] => all.filter((d) => d.through === where);
    for (const drawn of of('upon opaque')) yield* this.card.pieces(drawn, camera, target);
    const layered = all.filter(isLayered);
    const clouds = of('between');
    if (layered.length > 0) {
      const layers = (draft ? this.inDraft : this.inPass).of(target.width, target.height);
      const light = this.lightFor(finished, draft);
      yield* this.drawLayers(layered, clouds, camera, target, layers, {
        light,
        ink,
        most: this.mostLayers(draft),
      });
    } else {
      this.dispose();
      this.shared.uPeeled.value = false;
      this.shared.uPeelEnds.value = false;
      yield* this.drawClouds(clouds, over, camera, target);
    }
    for (const drawn of of('last')) yield* this.card.pieces(drawn, camera, target);
  }

  /** Whether clouds take some of the light. */
  set clouded(clouded: boolean) {
    this.isClouded = clouded;
    for (const made of this.lights.values()) setDefine(made, 'CLOUDED', clouded);
  }

  dispose(): void {
    this.inPass.dispose();
    this.inDraft.dispose();
  }

  private mostLayers(draft: boolean): number {
    if (!draft) return MOST_LAYERS;
    return this.card.software ? MOST_IN_DRAFTS.software : MOST_IN_DRAFTS.card;
  }

  private lightFor(finished: boolean, draft: boolean): RawShaderMaterial {
    const defines = { ...(finished ? { FINISHED: '' } : {}), ...(draft ? {} : { SAMPLED: '' }) };
    const key = Object.keys(defines).join(' ');
    const known = this.lights.get(key);
    if (known) return known;
    const own = { uColour: { value: null }, uSurface: { value: null }, uLayerOpacity: { value: null } };
    const made = material(screenVertex, layerFragment, { ...this.shared, ...own }, defines);
    // The screen lies behind all there is: only where the layer has something does it come through.
    made.depthFunc = GreaterDepth;
    made.depthWrite = false;
    layUnder(made);
    setDefine(made, 'CLOUDED', this.isClouded);
    this.lights.set(key, made);
    return made;
  }

  private *drawLayers(
    layered: Drawn[],
    clouds: Drawn[],
    camera: Camera,
    target: WebGLRenderTarget,
    { two, front, idle }: Layers,
    { light, ink, most }: { light: RawShaderMaterial; ink: InkOfLayer | null; most: number },
  ): Drawing {
    const { shared, card } = this;
    const { uPeeled, uPeelBefore, uPeelBehind, uPeelUntil, uPeelEnds } = shared;
    front.depthTexture = idle;
    shared.uPeelFront.value = front.texture;
    card.clear(front);
    let found = 0;
    let isEnd = false;
    while (!isEnd) {
      const [own, before] = [two[found % 2], two[(found + 1) % 2]];
      uPeeled.value = found > 0;
      uPeelBefore.value = before.depthTexture;
      // No picture is drawn into while it is looked into.
      uPeelBehind.value = target.depthTexture;
      uPeelUntil.value = before.depthTexture;
      if (found < most) {
        card.clear(own);
        const asked = found >= Math.min(this.expected, most - 1);
        isEnd = (yield* card.drawsAny(this.drawLayer(layered, camera, own), asked)) === false;
      } else isEnd = true;
      uPeelEnds.value = !isEnd;
      uPeelUntil.value = own.depthTexture;
      front.depthTexture = idle;
      yield* this.drawClouds(clouds, layUnder, camera, front);
      if (!isEnd) {
        if (ink) yield* ink(own, front);
        front.depthTexture = own.depthTexture;
        const { uColour, uSurface, uLayerOpacity } = light.uniforms;
        [uColour.value, uSurface.value, uLayerOpacity.value] = own.textures;
        yield* card.fill(light, front, 'FINISHED' in light.defines ? 'finished rows' : 'lit rows');
        found++;
      }
    }
    if (found === most) {
      uPeelBehind.value = null;
      for (const drawn of layered) yield* card.pieces(drawn, camera, target);
    }
    this.expected = Math.max(0, found - 1);
    const { uNew, uNewLight, uNewScene } = this.together.uniforms;
    [uNew.value, uNewLight.value = null, uNewScene.value = null] = front.textures;
    yield* card.fill(this.together, target, 'average rows');
  }

  private *drawLayer(layered: readonly Drawn[], camera: Camera, own: WebGLRenderTarget): Drawing {
    for (const drawn of layered) yield* this.card.pieces(drawn, camera, own, drawn.unlit);
  }

  private *drawClouds(
    clouds: readonly Drawn[],
    how: (m: RawShaderMaterial) => void,
    camera: Camera,
    target: WebGLRenderTarget,
  ): Drawing {
    for (const drawn of clouds) {
      how(drawn.object.material as RawShaderMaterial);
      yield* this.card.pieces(drawn, camera, target);
    }
  }
}

import { AlwaysDepth, type DepthTexture, NoBlending, Vector2, Vector4, type WebGLRenderTarget } from 'three';
import type { Scene } from '#core/scene/document.ts';
import { isWiped, type WipeSide } from '#core/scene/things/wipe.ts';
import { withoutDepth } from './blending.ts';
import type { Card } from './card.ts';
import { material } from './marks/material.ts';
import type { PictureSize, Tile } from './picture-camera.ts';
import { draftTarget, PassPicture, Sized } from './render-targets.ts';
import { partFragment, screenVertex } from './shaders/screen.ts';
import type { Drawing } from './slices.ts';

/** A part of a tile, and which lines of the scene are drawn there. */
export interface Half {
  side: WipeSide;
  /** What of the picture it shows. */
  window: Tile;
  /** What is drawn for that: with what lines of ink and the like look at around it. */
  tile: Tile;
}

/** How far beside a pixel something of its own pass may look, in pixels. */
const MARGIN = 24;

/** The parts of a tile on both sides of the wipe: one where it does not cross the tile, or where there is none. */
export function halvesOf(scene: Pick<Scene, 'layers' | 'wipe'>, size: PictureSize, tile: Tile): Half[] {
  if (!isWiped(scene)) return [{ side: 'both', window: tile, tile }];
  const { place, way } = scene.wipe;
  const across = way === 'across';
  const [from, length] = across ? [tile.x, tile.width] : [tile.y, tile.height];
  // Pictures begin at their top, and what goes upwards at their foot.
  const edge = Math.round(across ? place * size.width : (1 - place) * size.height) - from;
  const part = (low: number, high: number): Tile =>
    across ? { ...tile, x: from + low, width: high - low } : { ...tile, y: from + low, height: high - low };
  const half = (side: WipeSide, low: number, high: number): Half => ({
    side,
    window: part(low, high),
    tile: part(Math.max(0, low - MARGIN), Math.min(length, high + MARGIN)),
  });
  const [first, last]: WipeSide[] = across ? ['before', 'after'] : ['after', 'before'];
  if (edge <= 0) return [half(last, 0, length)];
  if (edge >= length) return [half(first, 0, length)];
  return [half(first, 0, edge), half(last, edge, length)];
}

/** Puts pictures of both sides of a wipe together. */
export class JoinedHalves {
  private readonly shown = part({});
  private readonly deep = part({ DEEP: '' });
  private readonly passes = [0, 1].map(() => new Sized((width, height) => new PassPicture(width, height)));
  private readonly drafts = [0, 1].map(
    () => new Sized((width, height) => draftTarget(width, height, this.card.software)),
  );
  readonly materials = [this.shown, this.deep];

  constructor(private readonly card: Card) {
    for (const made of this.materials) withoutDepth(made);
    Object.assign(this.deep, {
      depthTest: true,
      depthWrite: true,
      depthFunc: AlwaysDepth,
      blending: NoBlending,
    });
  }

  /** What one half of a pass is drawn into. */
  passOf(n: number, { width, height }: Tile): PassPicture {
    return this.passes[n].of(width, height);
  }

  /** What one half of a draft is drawn into. */
  draftOf(n: number, { width, height }: Tile): WebGLRenderTarget {
    return this.drafts[n].of(width, height);
  }

  /** @param whole the tile that a picture shows of which this is a half */
  *putPass(half: Half, from: PassPicture, whole: Tile, to: PassPicture): Drawing {
    yield* this.put(half, from.surfaces, whole, to.surfaces, from.surfaces.depthTexture);
    yield* this.put(half, from.lit, whole, to.lit, null);
  }

  putDraft(half: Half, from: WebGLRenderTarget, whole: Tile, to: WebGLRenderTarget): Drawing {
    return this.put(half, from, whole, to, null);
  }

  private *put(
    { window, tile }: Half,
    from: WebGLRenderTarget,
    whole: Tile,
    to: WebGLRenderTarget,
    depths: DepthTexture | null,
  ): Drawing {
    const made = depths ? this.deep : this.shown;
    const { uFirst, uSecond, uThird, uDepth, uFrom, uWindow } = made.uniforms;
    [uFirst.value, uSecond.value = null, uThird.value = null] = from.textures;
    uDepth.value = depths;
    // Rows of textures begin at the foot.
    const foot = (t: Tile): number => whole.y + whole.height - t.y - t.height;
    uFrom.value.set(tile.x - whole.x, foot(tile));
    const [x, y] = [window.x - whole.x, foot(window)];
    uWindow.value.set(x, y, x + window.width, y + window.height);
    yield* this.card.fill(made, to, 'average rows');
  }

  dispose(): void {
    for (const made of [...this.passes, ...this.drafts]) made.dispose();
  }
}

const part = (defines: Record<string, string>) =>
  material(
    screenVertex,
    partFragment,
    {
      uFirst: { value: null },
      uSecond: { value: null },
      uThird: { value: null },
      uDepth: { value: null },
      uFrom: { value: new Vector2() },
      uWindow: { value: new Vector4() },
    },
    defines,
  );

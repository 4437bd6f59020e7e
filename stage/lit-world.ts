import type { Camera, WebGLRenderTarget } from 'three';
import type { Ink } from '#core/scene/things/ink.ts';
import type { Card } from './card.ts';
import { inDrawingOrder, isSeenThrough } from './drawing-order.ts';
import { InkLines } from './ink-lines.ts';
import { LitSurfaces } from './lit-surfaces.ts';
import type { Drawn } from './marks/painter.ts';
import { PassPicture, Sized } from './render-targets.ts';
import { type InkOfLayer, SeeThrough } from './see-through.ts';
import type { Drawing } from './slices.ts';
import type { StageUniforms } from './stage-uniforms.ts';

/** What is drawn together, in the light of one another. */
export interface World {
  things: Drawn[];
  /** The floor, where it is seen. */
  floor: Drawn[];
  camera: Camera;
  /** Lines along the edges, if any are wanted. */
  ink: Ink | null;
  /** Of the whole picture this is drawn for, in pixels. */
  height: number;
  /** Whether something wears a finish. */
  finished: boolean;
}

/** What is drawn into the light of what is opaque, after that. */
const waits = (drawn: Drawn): boolean => !drawn.unlit || isSeenThrough(drawn);

/** Draws what is opaque, lines of ink, and what is seen through before them: in a pass, or in a draft. */
export class LitWorld {
  private readonly lighting: LitSurfaces;
  private readonly ink: InkLines;
  private readonly seeThrough: SeeThrough;
  /** What lies where in a draft, where lines of ink are looked for. */
  private readonly sketch = new Sized((width, height) => new PassPicture(width, height));

  /** @param shared light and camera of the stage */
  constructor(
    private readonly card: Card,
    shared: StageUniforms,
  ) {
    this.lighting = new LitSurfaces(card, shared);
    this.ink = new InkLines(card, shared);
    this.seeThrough = new SeeThrough(card, shared);
  }

  /** Whether clouds throw shadows. */
  set clouded(any: boolean) {
    this.lighting.clouded = this.seeThrough.clouded = any;
  }

  /** What the card needs programs for, beside those of the things themselves. */
  materialsFor(things: Drawn[], { finished, inked }: { finished: boolean; inked: boolean }) {
    return [
      this.lighting.materialFor(finished),
      ...this.seeThrough.materialsFor(things, finished),
      ...(inked ? this.ink.materials : []),
    ];
  }

  /** First what is opaque, which is lit as a whole; then, in their light, the things seen through before it. */
  *pass(world: World, picture: PassPicture): Drawing {
    const { camera, finished } = world;
    yield* this.surfaces(world, picture.surfaces);
    yield* this.lighting.light(picture, finished);
    yield* this.lines(world, picture.surfaces, picture.lit);
    const late = inDrawingOrder(world.things.filter(waits), []);
    for (const drawn of late.filter((d) => !isSeenThrough(d)))
      yield* this.card.pieces(drawn, camera, picture.lit);
    const ink = this.inkOfLayers(world, picture.surfaces);
    yield* this.seeThrough.draw(late, camera, picture.lit, { draft: false, finished, ink });
  }

  /**
   * The same at once and with less care.
   *
   * @param backdrop what lies behind all of it, if it is seen
   * @param target cleared already
   */
  *draft(world: World, backdrop: Drawn[], target: WebGLRenderTarget): Drawing {
    const { camera, finished } = world;
    const inOrder = inDrawingOrder(world.things, [...world.floor, ...backdrop]);
    for (const drawn of inOrder.filter((d) => !isSeenThrough(d)))
      yield* this.card.pieces(drawn, camera, target);
    let ink: InkOfLayer | null = null;
    if (world.ink) {
      const { surfaces } = this.sketch.of(target.width, target.height);
      yield* this.surfaces(world, surfaces);
      yield* this.lines(world, surfaces, target);
      ink = this.inkOfLayers(world, surfaces);
    }
    yield* this.seeThrough.draw(inOrder, camera, target, { draft: true, finished, ink });
  }

  /** Lets go of what only lines of ink need. */
  forgetInk(): void {
    this.sketch.dispose();
  }

  /** Which surfaces of opaque things lie where. */
  private *surfaces({ things, floor, camera }: World, into: WebGLRenderTarget): Drawing {
    this.card.clear(into);
    for (const drawn of [...inDrawingOrder(things, []).filter((d) => !waits(d)), ...floor])
      yield* this.card.pieces(drawn, camera, into, drawn.unlit);
  }

  private *lines({ ink, height }: World, surfaces: WebGLRenderTarget, target: WebGLRenderTarget): Drawing {
    if (ink) yield* this.ink.draw(surfaces, target, ink, height);
  }

  /** @param opaque what lies where of what is opaque */
  private inkOfLayers({ ink, height }: World, opaque: WebGLRenderTarget): InkOfLayer | null {
    return ink && ((layer, front) => this.ink.drawUnder(layer, opaque, front, ink, height));
  }

  dispose(): void {
    this.ink.dispose();
    this.seeThrough.dispose();
    this.sketch.dispose();
  }
}

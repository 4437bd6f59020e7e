import { type Camera, Group, type RawShaderMaterial, Vector3, type WebGLRenderTarget } from 'three';
import type { MarkKind } from '#core/model/mark.ts';
import { type Bounds, boundsCentre, boundsDiagonal, isFlat, joinBounds } from '#core/model/mesh.ts';
import { type RunDescription, runBounds } from '#core/model/run.ts';
import { dot, subtract } from '#core/model/vectors.ts';
import { planeRange } from '#core/ops/kernels/planes.ts';
import { backdropOf } from '#core/scene/backdrops/registry.ts';
import { thinLens } from '#core/scene/depth-of-field.ts';
import type { Scene } from '#core/scene/document.ts';
import { isEven } from '#core/scene/light-rigs/light-rig.ts';
import { rigOf } from '#core/scene/light-rigs/registry.ts';
import type { ShownSpread } from '#core/scene/spread-of-scale.ts';
import { type Floor, isMirroring } from '#core/scene/things/floor.ts';
import { upOf } from '#core/scene/things/upright.ts';
import { isWiped, type WipeSide } from '#core/scene/things/wipe.ts';
import type { Frame } from '#engine/scene-source.ts';
import { setAir } from './air.ts';
import { ArrangedLabels } from './arranged-labels.ts';
import { Behind } from './behind.ts';
import { bringBeside } from './brought.ts';
import { Card } from './card.ts';
import { CleanLight } from './clean-light.ts';
import { CloudShadows } from './cloud-shadows.ts';
import { isLayered } from './drawing-order.ts';
import { FinishTable } from './finish-table.ts';
import { GLOW_ROWS, GlowLight } from './glow-light.ts';
import { LitWorld, type World } from './lit-world.ts';
import { partsInFront } from './look-inside.ts';
import type { Drawn } from './marks/painter.ts';
import { type Level, mirroredCamera, mirroring, seesLevel } from './mirrored-view.ts';
import {
  depthUnit,
  type PictureSize,
  type PictureView,
  pictureCamera,
  pixelSpan,
  shareOfTile,
  type Tile,
} from './picture-camera.ts';
import { depthTarget, PassPicture, PassSum, Sized } from './render-targets.ts';
import { hasRoom, Room } from './room.ts';
import { RunningMean } from './running-mean.ts';
import { pixelSample, slopeSample } from './samples.ts';
import { type Pass, SceneLights, shadowSource } from './scene-lights.ts';
import { ScreenPictures } from './screen-pictures.ts';
import { type ShownPart, ShownParts } from './shown-parts.ts';
import type { Drawing, Slices } from './slices.ts';
import { stageUniforms } from './stage-uniforms.ts';
import { type StandingParts, standingParts } from './standing.ts';
import { thinOut } from './thin-out.ts';
import { lookFrom, onLens, type ThreeCamera, takeThrough } from './three-camera.ts';
import { halvesOf, JoinedHalves } from './wipe.ts';

export type { PictureSize, Tile };

/** What no light reached in any of a few passes has no colour that could be made brighter by what its neighbours get. */
const MOST_CONTACT = 0.97;

/** Passes of the small picture that tells what glows. */
const GLOW_PASSES = 8;

/** Marks that must know what stands before them. */
const seesBefore: ReadonlySet<MarkKind> = new Set(['volume', 'text']);

/**
 * Draws a frame of a scene: passes with soft light, shade and sharp edges, or a quick draft, for the screen and for
 * pictures of any size. All of it goes through the same code, so that what is seen is what is exported. Every drawing
 * is cut into pieces, which go to the card one after the other, so that the page stays free.
 */
export class Stage {
  private readonly card: Card;
  private readonly shared = stageUniforms();
  private readonly finishes = new FinishTable();
  private readonly lights = new SceneLights(this.shared, (target, camera) =>
    this.castersInto(target, camera),
  );
  private readonly parts = new ShownParts(this.shared, this.finishes);
  private readonly room: Room;
  private readonly behind = new Behind(this.shared);
  private readonly litWorld: LitWorld;
  private readonly clouds = new CloudShadows(this.shared);
  private readonly cleaner: CleanLight;
  private readonly glow: GlowLight;
  private readonly mean: RunningMean;
  private readonly screen: ScreenPictures;
  private readonly mirror = new Sized((width, height) => new PassPicture(width, height));
  private readonly before = new Sized(depthTarget);
  private readonly halves: JoinedHalves;
  /** The side of the wipe that is drawn. */
  private side: WipeSide = 'both';
  /** What the card has its programs for, and of which of their variants. */
  private readonly ready = new WeakMap<object, number>();
  /** What is drawn, with what of its annotations stands in it; and as it was given. */
  private scene: Scene | null = null;
  private plain: Scene | null = null;
  private frame: Frame | null = null;
  private standing: StandingParts | null = null;
  private run: RunDescription | null = null;
  /** How values are spread over what is shown. */
  private spreads: readonly ShownSpread[] = [];
  /** Of what is shown, copies, scenery and all. */
  private bounds: Bounds = [0, 1, 0, 1, 0, 1];
  /** The same with pictures that stand in the scene: what the floor lies under and the camera must reach. */
  private around: Bounds = [0, 1, 0, 1, 0, 1];
  private readonly labels = new ArrangedLabels();
  /** Whether the last draft left some things out. */
  private leftOut = false;
  private patient = false;
  /** Whether what glows was spread over a whole picture, for its tiles. */
  private wholeGlow = false;
  /** Of the whole picture that is drawn, in its pixels. */
  private pictureHeight = 1;

  private size: PictureSize = { width: 1, height: 1 };

  /**
   * @param canvas what the picture is shown on
   * @param sharedCard draws for other stages too, on a canvas of its own; without it the stage has its own
   */
  constructor(
    canvas: HTMLCanvasElement,
    private readonly sharedCard: Card | null = null,
  ) {
    this.card = sharedCard ?? new Card(canvas);
    this.shared.uFinishes.value = this.finishes.texture;
    this.litWorld = new LitWorld(this.card, this.shared);
    this.cleaner = new CleanLight(this.card);
    this.glow = new GlowLight(this.card);
    this.room = new Room(this.shared);
    this.mean = new RunningMean(this.card);
    this.screen = new ScreenPictures(this.card, sharedCard && canvas);
    this.halves = new JoinedHalves(this.card);
  }

  get slices(): Slices {
    return this.card.slices;
  }

  /** Whether a processor draws instead of a graphics card: then fewer passes are worth waiting for. */
  get software(): boolean {
    return this.card.software;
  }

  /** Size of the canvas, in its pixels. */
  resize(width: number, height: number): void {
    this.size = { width, height };
  }

  /** The pixels of a finished picture as they are: linear light, premultiplied, top row first. */
  linearPixels(source: WebGLRenderTarget): Float32Array {
    return this.card.linearPixels(source);
  }

  /** What lies where in the pass that was drawn last, as `outputs` tells: normals and distances. */
  surfacePixels(sum: PassSum): Float32Array {
    return this.card.linearPixels(sum.surfaces, 1);
  }

  /** The names of the bodies, in the order of the numbers they have there. */
  bodies({ layers }: Scene): string[] {
    return this.parts.list.map(({ layer, part }) => {
      const line = layers.findIndex((l) => l.id === layer);
      return line < 0 ? part : `${layers[line].name ?? `line ${line + 1}`}: ${part}`;
    });
  }

  /** Takes over shapes and values of a frame, together with the scene and the step they belong to. */
  show(frame: Frame, scene: Scene): void {
    this.frame = frame;
    this.run = frame.run;
    this.spreads = frame.parts;
    this.standing = standingParts(scene, frame);
    this.parts.take([...frame.parts, ...this.standing.parts]);
    this.restyle(scene, frame.step);
  }

  /** Applies what changes without new geometry: colours, light, camera, opacity. */
  restyle(plain: Scene, step: number): void {
    const { run, frame } = this;
    if (!run || !frame) return;
    const standing = standingParts(plain, frame);
    if (standing.key !== this.standing?.key) this.parts.take([...frame.parts, ...standing.parts]);
    this.standing = standing;
    this.bounds = joinBounds(frame.bounds, standing.lit);
    this.around = joinBounds(frame.bounds, standing.bounds);
    this.plain = plain;
    const scene: Scene = { ...plain, layers: [...plain.layers, ...standing.layers] };
    this.scene = scene;
    this.parts.restyle(scene, run, step, this.spreads);
    this.clouds.take(this.parts.list, isWiped(scene) ? ['before', 'after'] : ['both']);
    this.litWorld.clouded = this.clouds.any;
  }

  /**
   * Readies the card for what is shown, without keeping the page waiting.
   *
   * @returns which files that go with the scene could not be had, in words; the rest is shown without them
   */
  async prepare(): Promise<string[]> {
    const missing = [...(await this.loadBeside()), ...(await this.readySurroundings())];
    const all = new Group();
    const { mean, screen, cleaner, isFinished: finished } = this;
    const inked = Boolean(this.scene?.ink.shown);
    const seen = this.parts.list.flatMap((s) => s.marks.flatMap((m) => [...m.drawn, ...m.casters]));
    for (const drawn of [...seen, this.room.backdrop, this.room.floor]) {
      const { object, unlit: bare } = drawn;
      const { version } = object.material as RawShaderMaterial;
      if (this.ready.get(object) === version) continue;
      this.ready.set(object, version);
      if (!isLayered(drawn)) all.add(object.clone());
      if (bare) all.add(Object.assign(object.clone(), { material: bare }));
    }
    await this.card.compile(all, [
      mean.material,
      ...screen.materials,
      ...cleaner.materials,
      ...this.litWorld.materialsFor(seen, { finished, inked }),
      ...(this.scene?.glow.strength ? this.glow.materials : []),
      ...(this.scene && isWiped(this.scene) ? this.halves.materials : []),
    ]);
    return missing;
  }

  private async readySurroundings(): Promise<string[]> {
    const { plain } = this;
    if (!plain) return [];
    const missing: string[] = [];
    const orTell = (error: Error): void => void missing.push(error.message);
    await this.lights.ready(plain.light, this.isFinished).catch(orTell);
    await this.behind.ready(plain, this.lights.around(plain.light)).catch(orTell);
    return missing;
  }

  /** What the scene shows beside its run, before anything is painted with it. */
  private async loadBeside(): Promise<string[]> {
    const { plain, frame } = this;
    if (!plain) return [];
    const { fresh, missing } = await bringBeside(plain);
    if (fresh && this.plain === plain && frame) this.restyle(plain, frame.step);
    return missing;
  }

  /** Whether something wears a finish. */
  private get isFinished(): boolean {
    return this.parts.list.some((s) => s.look.isFinished);
  }

  /** Whether the last draft left out things that a patient one would show. */
  get isThinned(): boolean {
    return this.leftOut && !this.patient;
  }

  /**
   * A quick picture, while things move.
   *
   * @param patient with more of what drafts leave out, where it takes long until the passes show all of it
   */
  *drawDraft(size: PictureSize, target: WebGLRenderTarget, patient = false): Drawing {
    this.patient = patient;
    this.screen.makeSolid(target);
    yield* this.draw(size, { x: 0, y: 0, ...size }, null, false, target);
  }

  /** Adds one pass to a running mean. */
  *addPass(sum: PassSum, size: PictureSize, tile: Tile, transparent: boolean): Drawing {
    yield* this.draw(size, tile, { n: sum.count, of: sum.goal }, transparent, sum);
    sum.tile.set(...shareOfTile(size, tile));
    if (sum.count === 0) {
      sum.depthUnit = depthUnit(this.view(size, tile));
      yield* this.cleaner.keepShape(sum);
    }
    yield* this.mean.take(sum);
    this.lights.forgetShadow();
  }

  /** Makes `sum.clean` the mean of the passes so far, without their grain, and with what glows. */
  *clean(sum: PassSum): Drawing {
    const { glow } = this.scene!;
    const glows = glow.strength > 0;
    if (glows && !this.wholeGlow) yield* this.glow.spread(sum, glow);
    yield* this.cleaner.clean(sum, glows ? this.glow.on(sum.tile, glow) : null);
    sum.cleaned = sum.count;
  }

  /** Makes `sum.shadow` of what was cleaned last. */
  shadow(sum: PassSum): Drawing {
    return this.cleaner.shadow(sum);
  }

  /** Spreads what glows over all of a picture that will be drawn in tiles, from then on until it is forgotten. */
  *readyGlow(size: PictureSize): Drawing {
    if (!this.scene || this.scene.glow.strength === 0) return;
    const height = Math.min(GLOW_ROWS, size.height);
    const small = { width: Math.max(1, Math.round((height * size.width) / size.height)), height };
    const sum = new PassSum(small.width, small.height, GLOW_PASSES);
    while (sum.count < sum.goal) yield* this.addPass(sum, small, { x: 0, y: 0, ...small }, false);
    yield* this.glow.spread(sum, this.scene.glow);
    sum.dispose();
    this.wholeGlow = true;
  }

  forgetGlow(): void {
    this.wholeGlow = false;
  }

  /** Shows a linear picture on the canvas; see `ScreenPictures`. */
  present(source: WebGLRenderTarget): Drawing {
    return this.screen.present(source, this.size);
  }

  /** A linear picture at a smaller size, in another target. */
  shrink(source: WebGLRenderTarget, target: WebGLRenderTarget): Drawing {
    return this.screen.shrink(source, target);
  }

  dispose(): void {
    this.parts.dispose();
    this.lights.dispose();
    this.behind.dispose();
    this.finishes.dispose();
    this.mirror.dispose();
    this.litWorld.dispose();
    this.clouds.dispose();
    this.glow.dispose();
    this.before.dispose();
    this.halves.dispose();
    this.screen.dispose();
    if (!this.sharedCard) this.card.dispose();
  }

  /** Marks what is taken away so that one looks inside. */
  private lookInside(scene: Scene, run: RunDescription): void {
    const front = partsInFront(scene, run, this.frame!.bounds);
    for (const { part, look, marks, opacity } of this.parts.list) {
      const away = front.has(part);
      look.away = !away ? 'not' : scene.lookInside.front === 'removed' ? 'gone' : 'faded';
      for (const mark of marks) mark.fade(away ? 0.1 : opacity);
    }
  }

  /** One pass of a tile into `lit` of a picture; or the draft, `pass` null, into a linear target. */
  private *draw(
    size: PictureSize,
    tile: Tile,
    pass: Pass | null,
    transparent: boolean,
    target: WebGLRenderTarget | PassPicture,
  ): Drawing {
    const { scene, halves } = this;
    if (!scene) return;
    const parts = halvesOf(scene, size, tile);
    if (!isWiped(scene)) halves.dispose();
    if (parts.length === 1) {
      this.side = parts[0].side;
      yield* this.drawSide(size, tile, pass, transparent, target);
      return;
    }
    for (const [n, half] of parts.entries()) {
      this.side = half.side;
      if (target instanceof PassPicture) {
        const drawn = halves.passOf(n, half.tile);
        yield* this.drawSide(size, half.tile, pass, transparent, drawn);
        yield* halves.putPass(half, drawn, tile, target);
      } else {
        const drawn = halves.draftOf(n, half.tile);
        yield* this.drawSide(size, half.tile, pass, transparent, drawn);
        yield* halves.putDraft(half, drawn, tile, target);
      }
    }
  }

  /** The same of what is shown on the side of the wipe that is drawn. */
  private *drawSide(
    size: PictureSize,
    tile: Tile,
    pass: Pass | null,
    transparent: boolean,
    target: WebGLRenderTarget | PassPicture,
  ): Drawing {
    const { scene, run, shared, bounds } = this;
    if (!scene || !run) return;
    this.clouds.use(this.side);
    const centre = subtract(boundsCentre(bounds), run.origin);
    const radius = boundsDiagonal(bounds) / 2 || 1;
    const { light } = scene;
    const rig = rigOf(light);
    const even = isEven(rig);
    const lens = thinLens(scene.camera, scene.focus);
    const through = lens && pass ? onLens(lens, pass) : null;
    this.shared.uPixelSpan.value.set(...pixelSpan(scene.camera, size));
    this.pictureHeight = size.height;
    setAir(this.shared, scene, run.origin, { centre, radius });
    const leftOut = thinOut(this.parts.list, this.card, pass === null ? size.width : null, this.patient);
    if (pass === null) this.leftOut = leftOut;
    this.lookInside(scene, run);
    shared.uEven.value = even;
    shared.uShadow.value = light.shadow;
    shared.uContact.value = Math.min(light.contact, MOST_CONTACT);
    shared.uSampled.value = pass !== null;
    shared.uPass.value = pass?.n ?? 0;
    shared.uShift.value = 0.0035 * radius;
    this.room.hang(backdropOf(scene.backdrop), transparent);
    this.behind.show(scene, size.width / size.height);
    const up = upOf(scene.upright);
    shared.uHighlights.value = light.highlights;
    shared.uGrainUnit.value = boundsDiagonal(runBounds(run)) / 100 || 1;
    if (!even) {
      const shadow = pass === null ? shadowSource(scene, this.here) : '';
      yield* this.lights.shine(rig, scene, { centre, radius, bounds }, pass, shadow);
    }
    const lowest = planeRange(this.around, up)[0] - dot(up, run.origin);
    const level = this.room.layFloor(scene, centre, radius, lowest, up);

    const camera = pictureCamera(
      this.view(size, tile),
      pass === null ? [0, 0] : pixelSample(pass.n, pass.of),
    );
    if (through) takeThrough(camera, through);
    shared.uPixels.value.set(tile.width, tile.height);
    shared.uCorner.value.set(tile.x, size.height - tile.y - tile.height);
    shared.uWidth.value = lineWidth(size);
    shared.uTile.value.set(...shareOfTile(size, tile));
    this.labels.arrange(this.here, this.view(size, { x: 0, y: 0, ...size }), lineWidth(size));
    const isSeen = hasRoom(scene, even) && !isFlat(bounds);
    const floor = isSeen && seesLevel(camera, level) ? [this.room.floor] : [];
    if (floor.length > 0 && isMirroring(scene.floor))
      yield* this.drawMirrored(scene.floor, level, camera, pass, level.height > lowest);
    else this.mirror.dispose();
    lookFrom(shared, camera);
    yield* this.seeBefore(tile, camera);
    const world = this.worldOf(
      this.drawn(() => true),
      floor,
      camera,
    );
    if (!world.ink) this.litWorld.forgetInk();
    if (target instanceof PassPicture) {
      yield* this.litWorld.pass(world, target);
      return;
    }
    this.card.clear(target);
    yield* this.litWorld.draft(world, transparent ? [] : [this.room.backdrop], target);
  }

  private worldOf(things: Drawn[], floor: Drawn[], camera: Camera): World {
    const { ink } = this.scene!;
    const [height, finished] = [this.pictureHeight, this.isFinished];
    return { things, floor, camera, ink: ink.shown ? ink : null, height, finished };
  }

  /** What is on show where it is drawn. */
  private get here(): ShownPart[] {
    const { side } = this;
    return this.parts.list.filter((s) => s.visible && (s.side === 'both' || s.side === side));
  }

  /** What is seen of marks of some kinds. */
  private drawn(wanted: (kind: MarkKind) => boolean): Drawn[] {
    return this.here.flatMap((s) =>
      s.marks.flatMap((m, i) => (wanted(s.frame.shape.marks[i].kind) ? m.drawn : [])),
    );
  }

  /** What stands on the floor as it mirrors it, for when the floor itself is drawn. Labels are not in it: they are for a reader. */
  private *drawMirrored(
    floor: Floor,
    level: Level,
    camera: ThreeCamera,
    pass: Pass | null,
    cut: boolean,
  ): Drawing {
    const { shared, mirror } = this;
    const { x: width, y: height } = shared.uPixels.value;
    const seen = mirror.of(width, height);
    const away = camera.getWorldDirection(new Vector3()).negate();
    const slopes = pass ? slopeSample(pass.n, pass.of, floor.roughness ** 2) : ([0, 0] as const);
    const from = mirroredCamera(camera, level, mirroring(level, [away.x, away.y, away.z], slopes), cut);
    lookFrom(shared, from);
    yield* this.seeBefore(seen, from);
    const world = this.worldOf(
      this.drawn((kind) => kind !== 'text'),
      [],
      from,
    );
    const { uTransparent, uMirrored, uMirroredScene } = shared;
    [uMirrored.value, uMirroredScene.value] = [null, null];
    const whole = uTransparent.value;
    uTransparent.value = true;
    if (pass) {
      yield* this.litWorld.pass(world, seen);
    } else {
      this.card.clear(seen.lit, 1);
      yield* this.litWorld.draft({ ...world, ink: null }, [], seen.lit);
    }
    uTransparent.value = whole;
    [uMirrored.value, , uMirroredScene.value] = seen.lit.textures;
  }

  private view(size: PictureSize, tile: Tile): PictureView {
    return { scene: this.scene!, origin: this.run!.origin, around: this.around, size, tile };
  }

  private *castersInto(target: WebGLRenderTarget, camera: Camera): Drawing {
    this.card.clear(target);
    for (const { look, marks } of this.here)
      for (const mark of look.isAway ? [] : marks)
        for (const caster of mark.casters) {
          // A target without a depth buffer keeps depths in its colours.
          (caster.object.material as RawShaderMaterial).colorWrite = !target.depthBuffer;
          yield* this.card.pieces(caster, camera, target);
        }
  }

  /** For clouds, labels and spheres: how far away the opaque things are that stand before them. */
  private *seeBefore(tile: PictureSize, camera: Camera): Drawing {
    const needed = this.here.some(
      (s) => s.look.isClear || s.frame.shape.marks.some((m) => seesBefore.has(m.kind)),
    );
    if (!needed) return;
    const before = this.before.of(tile.width, tile.height);
    this.shared.uBefore.value = before.depthTexture;
    this.shared.uUnproject.value.copy(camera.projectionMatrix).multiply(camera.matrixWorldInverse).invert();
    yield* this.castersInto(before, camera);
  }
}

/** Width of a thin line in a picture, in its pixels. */
export const lineWidth = ({ height }: PictureSize): number => Math.max(1, (1.15 * height) / 760);

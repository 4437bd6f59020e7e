import {
  type Camera,
  CircleGeometry,
  type DepthTexture,
  FloatType,
  LinearSRGBColorSpace,
  Matrix4,
  Mesh,
  NearestFilter,
  NoBlending,
  OrthographicCamera,
  PlaneGeometry,
  Quaternion,
  type RawShaderMaterial,
  Scene as ThreeScene,
  UnsignedByteType,
  Vector2,
  Vector3,
  Vector4,
  WebGLRenderer,
  WebGLRenderTarget,
} from 'three';
import { type Bounds, boundsCentre, boundsDiagonal, isFlat } from '#core/model/mesh.ts';
import type { RunDescription } from '#core/model/run.ts';
import { cameraAxes, subtract, type Vector } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import { settleScale } from '#core/scene/settle-scale.ts';
import type { Shape } from '#engine/geometry-maker.ts';
import type { Frame } from '#engine/scene-source.ts';
import { backdrops, linearOf } from './backdrops.ts';
import { blend, offsetSurface, withoutDepth } from './blending.ts';
import { keyDirection, WORLD_UP } from './light-rig.ts';
import { partsInFront } from './look-inside.ts';
import { material } from './material.ts';
import { depthTarget, type PassSum } from './render-targets.ts';
import { pixelSample, sphereSample } from './samples.ts';
import {
  averageFragment,
  backdropFragment,
  developFragment,
  floorFragment,
  floorVertex,
  screenVertex,
} from './shaders.ts';
import { PartShape, PartUniforms } from './shapes.ts';
import { threeCamera } from './three-camera.ts';

/** The lamp casts a sharper shadow than the surroundings, whose many directions blur anyway. */
const KEY_PIXELS = 1024;
const SKY_PIXELS = 512;

/** A rectangle of a picture, in its pixels from the top left. */
export interface Tile {
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface PictureSize {
  width: number;
  height: number;
}

export interface Picked {
  layer: string;
  part: string;
  /** In the coordinates of the files. */
  place: Vector;
  /** Of the face there, towards the viewer. */
  normal: Vector;
  value: number | null;
}

/** Layer and part of a shape. */
function splitId(id: string): [layer: string, part: string] {
  const bar = id.indexOf('|');
  return [id.slice(0, bar), id.slice(bar + 1)];
}

/**
 * Draws a frame of a scene: passes with soft light, shade and sharp edges, or a quick draft, for the screen and for
 * pictures of any size. All of it goes through the same code, so that what is seen is what is exported.
 */
export class Stage {
  readonly renderer: WebGLRenderer;
  private readonly shapes = new Map<string, PartShape>();
  /** By layer and part, like the shapes: a part may have a colour of its own. */
  private readonly looks = new Map<string, PartUniforms>();
  private readonly world = new ThreeScene();
  private readonly casters = new ThreeScene();
  private readonly screen = new ThreeScene();
  private readonly screenCamera = new OrthographicCamera(-1, 1, 1, -1, 0, 1);
  private readonly shared = {
    uMode: { value: 0 },
    uEye: { value: new Vector3() },
    uTowards: { value: new Vector3() },
    uParallel: { value: false },
    uEven: { value: false },
    uKeyMap: { value: null as DepthTexture | null },
    uKeyMatrix: { value: new Matrix4() },
    uKeyDirection: { value: new Vector3(0, 0, 1) },
    uKeyStrength: { value: 0.44 },
    uSkyMap: { value: null as DepthTexture | null },
    uSkyMatrix: { value: new Matrix4() },
    uSkyDirection: { value: new Vector3(0, 0, 1) },
    uSkyStrength: { value: 0.56 },
    uGroundStrength: { value: 0.85 },
    uContact: { value: 0.7 },
    uBias: { value: 0.0015 },
    uShift: { value: 0 },
    uShadow: { value: true },
    uSampled: { value: false },
    uPass: { value: 0 },
    uUp: { value: new Vector3(...WORLD_UP) },
    uPixels: { value: new Vector2(1, 1) },
    uWidth: { value: 1 },
    uPull: { value: 2e-5 },
    uTop: { value: new Vector3() },
    uFoot: { value: new Vector3() },
    uTile: { value: new Vector4(0, 0, 1, 1) },
    uTransparent: { value: false },
    uCentre: { value: new Vector3() },
    uReach: { value: 1 },
    uBefore: { value: null as DepthTexture | null },
    uUnproject: { value: new Matrix4() },
  };
  private readonly backdrop: Mesh;
  private readonly floor: Mesh;
  private readonly average: RawShaderMaterial;
  private readonly develop: RawShaderMaterial;
  private readonly screenQuad: Mesh;
  private readonly keyTarget = depthTarget(KEY_PIXELS);
  private readonly skyTarget = depthTarget(SKY_PIXELS);
  private pickTarget: WebGLRenderTarget | null = null;
  private before: WebGLRenderTarget | null = null;
  private scene: Scene | null = null;
  private run: RunDescription | null = null;
  /** Of what is shown, copies and all. */
  private bounds: Bounds = [0, 1, 0, 1, 0, 1];
  /** What the shadow of the lamp was last drawn from, for drafts. */
  private keyDrawn = '';

  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({
      canvas,
      alpha: true,
      antialias: false,
      preserveDrawingBuffer: true,
      powerPreference: 'high-performance',
    });
    this.renderer.autoClear = false;
    this.software = drawnBySoftware(this.renderer);
    this.renderer.outputColorSpace = LinearSRGBColorSpace;
    this.renderer.setClearColor(0, 0);
    this.shared.uKeyMap.value = this.keyTarget.depthTexture;
    this.shared.uSkyMap.value = this.skyTarget.depthTexture;
    const quad = new PlaneGeometry(2, 2);
    this.backdrop = new Mesh(quad, material(screenVertex, backdropFragment, this.shared));
    this.backdrop.renderOrder = -10;
    withoutDepth(this.backdrop.material as RawShaderMaterial);
    this.floor = new Mesh(new CircleGeometry(1, 64), material(floorVertex, floorFragment, this.shared));
    this.floor.renderOrder = -5;
    const floorMaterial = this.floor.material as RawShaderMaterial;
    floorMaterial.side = 0;
    floorMaterial.depthWrite = false;
    for (const m of [this.backdrop, this.floor]) {
      m.frustumCulled = false;
      this.world.add(m);
    }
    this.average = material(screenVertex, averageFragment, {
      uNew: { value: null },
      uOld: { value: null },
      uShare: { value: 1 },
    });
    this.develop = material(screenVertex, developFragment, {
      uNew: { value: null },
      uStraightAlpha: { value: false },
    });
    withoutDepth(this.average);
    withoutDepth(this.develop);
    this.screenQuad = new Mesh(quad, this.average);
    this.screenQuad.frustumCulled = false;
    this.screen.add(this.screenQuad);
  }

  /** Whether a processor draws instead of a graphics card: then fewer passes are worth waiting for. */
  readonly software: boolean;

  /** Takes over shapes and values of a frame, together with the scene and the step they belong to. */
  show(frame: Frame, scene: Scene): void {
    this.scene = scene;
    this.run = frame.run;
    this.bounds = frame.bounds;
    const wanted = new Set<string>();
    for (const part of frame.parts) {
      const id = `${part.layer}|${part.part}`;
      wanted.add(id);
      const look = this.uniformsOf(id);
      look.setPicture(part.picture);
      let shape = this.shapes.get(id);
      if (!shape || shape.key !== part.key) {
        if (shape) this.drop(id, shape);
        shape = new PartShape(part.key, part.shape, look, this.shared);
        this.shapes.set(id, shape);
        for (const object of shape.objects) (object === shape.caster ? this.casters : this.world).add(object);
      }
      shape.setValues(part.values);
    }
    for (const [id, shape] of this.shapes) if (!wanted.has(id)) this.drop(id, shape);
    for (const [id, look] of this.looks) {
      if (wanted.has(id)) continue;
      look.dispose();
      this.looks.delete(id);
    }
    this.restyle(scene, frame.step);
  }

  /** Applies what changes without new geometry: colours, light, camera, opacity. */
  restyle(scene: Scene, step: number): void {
    if (!this.run) return;
    this.scene = scene;
    for (const [number, [id, shape]] of [...this.shapes].entries()) {
      const [layerId, part] = splitId(id);
      const order = scene.layers.findIndex((l) => l.id === layerId);
      const layer = scene.layers[order];
      if (!layer) continue;
      const { colour } = layer;
      const scale = colour.kind === 'field' ? scene.scales.find((s) => s.id === colour.scale) : undefined;
      const settled = scale ? settleScale(scale, this.run, step) : null;
      const look = scene.parts[part];
      this.uniformsOf(id).update(layer, settled, look?.colour ?? null, number, order);
      const drawn = layer.visible && layer.opacity > 0;
      for (const object of shape.objects) object.visible = drawn;
      const edges = look?.edges ?? layer.edges.shown;
      if (shape.edges) {
        shape.edges.visible = drawn && edges;
        shape.edgeUniforms.uOpacity.value = layer.edges.opacity * Math.sqrt(layer.opacity);
        shape.edgeUniforms.uPlain.value.set(...linearOf(layer.edges.colour));
      }
      if (shape.caster) shape.caster.visible = drawn && layer.opacity > 0.6;
      for (const object of [shape.surface, shape.lines, shape.dots])
        if (object) blend(object.material as RawShaderMaterial, layer.opacity);
      for (const object of [shape.edges, shape.labels, shape.volume])
        if (object) blend(object.material as RawShaderMaterial, 0.5);
      if (shape.surface) offsetSurface(shape.surface.material as RawShaderMaterial, edges);
    }
  }

  /** A quick picture on the canvas, while things move. */
  drawDraft(size: PictureSize, target: WebGLRenderTarget): void {
    this.prepare(size, { x: 0, y: 0, ...size }, null, false, target);
    this.present(target);
  }

  /** Adds one pass to a running mean. */
  addPass(sum: PassSum, size: PictureSize, tile: Tile, transparent: boolean): void {
    this.prepare(size, tile, sum.count, transparent, sum.fresh);
    const { uNew, uOld, uShare } = this.average.uniforms;
    uNew.value = sum.fresh.texture;
    uOld.value = sum.mean.texture;
    uShare.value = 1 / (sum.count + 1);
    this.screenQuad.material = this.average;
    this.renderer.setRenderTarget(sum.spare);
    this.renderer.render(this.screen, this.screenCamera);
    sum.turn();
    this.keyDrawn = '';
  }

  /** Shows a linear picture on the canvas. */
  present(source: WebGLRenderTarget): void {
    this.screenQuad.material = this.develop;
    this.develop.uniforms.uNew.value = source.texture;
    this.develop.uniforms.uStraightAlpha.value = false;
    this.renderer.setRenderTarget(null);
    this.renderer.clear();
    this.renderer.render(this.screen, this.screenCamera);
  }

  /** The finished picture as bytes, straight alpha, top row first. */
  developPixels(source: WebGLRenderTarget): Uint8ClampedArray<ArrayBuffer> {
    const { width, height } = source;
    const target = new WebGLRenderTarget(width, height, { type: UnsignedByteType, depthBuffer: false });
    this.screenQuad.material = this.develop;
    this.develop.uniforms.uNew.value = source.texture;
    this.develop.uniforms.uStraightAlpha.value = true;
    this.renderer.setRenderTarget(target);
    this.renderer.render(this.screen, this.screenCamera);
    const raw = new Uint8Array(width * height * 4);
    this.renderer.readRenderTargetPixels(target, 0, 0, width, height, raw);
    target.dispose();
    const out = new Uint8ClampedArray(raw.length);
    for (let y = 0; y < height; y++)
      out.set(raw.subarray((height - 1 - y) * width * 4, (height - y) * width * 4), y * width * 4);
    return out;
  }

  /** What is drawn at a pixel of a picture of the given size: its layer, place and value; null for the backdrop. */
  pick(x: number, y: number, size: PictureSize): Picked | null {
    if (!this.scene || !this.run) return null;
    const found = this.readPixel(x, y, size, 1);
    const id = [...this.shapes.keys()][Math.round(found[1]) - 1];
    if (id === undefined) return null;
    const [layer, part] = splitId(id);
    const [nx, ny, nz] = this.readPixel(x, y, size, 2);
    return {
      layer,
      part,
      place: this.placeAt(x, y, found[2], size),
      normal: [nx, ny, nz],
      value: found[3] > 0.999 ? found[0] : null,
    };
  }

  /** One pixel of the world in a mode of the shaders. */
  private readPixel(x: number, y: number, size: PictureSize, mode: number): Float32Array {
    this.pickTarget ??= new WebGLRenderTarget(1, 1, {
      type: FloatType,
      minFilter: NearestFilter,
      magFilter: NearestFilter,
    });
    const tile = { x: Math.floor(x), y: Math.floor(y), width: 1, height: 1 };
    const camera = this.camera(size, tile, [0, 0]);
    this.setEye();
    this.lookInside();
    this.shared.uMode.value = mode;
    this.shared.uPixels.value.set(1, 1);
    this.backdrop.visible = false;
    this.floor.visible = false;
    const hidden = [...this.shapes.values()].flatMap((s) => (s.edges?.visible ? [s.edges] : []));
    for (const edge of hidden) edge.visible = false;
    this.renderer.setRenderTarget(this.pickTarget);
    this.renderer.clear();
    this.renderer.render(this.world, camera);
    for (const edge of hidden) edge.visible = true;
    this.shared.uMode.value = 0;
    const found = new Float32Array(4);
    this.renderer.readRenderTargetPixels(this.pickTarget, 0, 0, 1, 1, found);
    return found;
  }

  /** Shapes on show with the layers and parts they belong to. */
  shownShapes(): { layer: string; part: string; shape: Shape }[] {
    return [...this.shapes].map(([id, { shape }]) => {
      const [layer, part] = splitId(id);
      return { layer, part, shape };
    });
  }

  /** Marks what is taken away so that one looks inside. */
  private lookInside(): void {
    const { scene, run } = this;
    const front = partsInFront(scene!, run!, this.bounds);
    for (const [id, uniforms] of this.looks) {
      const [layerId, part] = splitId(id);
      const away = front.has(part);
      uniforms.own.uAway.value = !away ? 0 : scene!.lookInside === 'removed' ? 2 : 1;
      const surface = this.shapes.get(id)?.surface;
      const layer = scene!.layers.find((l) => l.id === layerId);
      if (surface && layer) blend(surface.material as RawShaderMaterial, away ? 0.1 : layer.opacity);
    }
  }

  /** The point at a depth in front of the camera under a pixel, in the coordinates of the files. */
  private placeAt(x: number, y: number, depth: number, size: PictureSize): Vector {
    const { camera } = this.scene!;
    const { right, up, back } = cameraAxes(camera);
    const aspect = size.width / size.height;
    const half =
      camera.projection === 'perspective'
        ? depth * Math.tan((camera.fieldOfView * Math.PI) / 360)
        : camera.height / 2;
    const across = ((2 * (x + 0.5)) / size.width - 1) * half * aspect;
    const rise = (1 - (2 * (y + 0.5)) / size.height) * half;
    return [0, 1, 2].map(
      (k) => camera.position[k] - back[k] * depth + right[k] * across + up[k] * rise,
    ) as Vector;
  }

  dispose(): void {
    for (const [id, shape] of this.shapes) this.drop(id, shape);
    for (const look of this.looks.values()) look.dispose();
    this.keyTarget.dispose();
    this.skyTarget.dispose();
    this.pickTarget?.dispose();
    this.before?.dispose();
    this.renderer.dispose();
  }

  private drop(id: string, shape: PartShape): void {
    for (const object of shape.objects) object.removeFromParent();
    shape.dispose();
    this.shapes.delete(id);
  }

  private uniformsOf(id: string): PartUniforms {
    let uniforms = this.looks.get(id);
    if (!uniforms) this.looks.set(id, (uniforms = new PartUniforms()));
    return uniforms;
  }

  /** Renders one pass (or the draft, `pass` null) of a tile into a linear target. */
  private prepare(
    size: PictureSize,
    tile: Tile,
    pass: number | null,
    transparent: boolean,
    target: WebGLRenderTarget,
  ): void {
    const { scene, run, shared } = this;
    if (!scene || !run) return;
    const { bounds } = this;
    const centre = subtract(boundsCentre(bounds), run.origin);
    const radius = boundsDiagonal(bounds) / 2 || 1;
    const { light } = scene;
    const tone = backdrops[scene.backdrop];
    this.setEye();
    this.lookInside();
    shared.uEven.value = light.rig === 'even';
    shared.uShadow.value = light.shadow;
    shared.uContact.value = light.contact;
    shared.uSampled.value = pass !== null && light.contact > 0;
    shared.uPass.value = pass ?? 0;
    shared.uShift.value = 0.0035 * radius;
    shared.uTop.value.set(...linearOf(tone.top));
    shared.uFoot.value.set(...linearOf(tone.foot));
    shared.uTransparent.value = transparent;
    this.backdrop.visible = !transparent;
    const { back } = cameraAxes(scene.camera);
    this.floor.visible = light.floor && light.rig !== 'even' && !isFlat(bounds) && back[2] > 0.02;
    if (light.rig !== 'even') this.shineLights(scene, centre, radius, pass);
    this.layFloor(centre, radius, bounds[4] - run.origin[2]);

    const [jx, jy] = pass === null ? [0, 0] : pixelSample(pass);
    const camera = this.camera(size, tile, [jx, jy]);
    shared.uPixels.value.set(tile.width, tile.height);
    shared.uWidth.value = Math.max(1, (1.15 * size.height) / 760);
    shared.uTile.value.set(
      tile.x / size.width,
      1 - (tile.y + tile.height) / size.height,
      tile.width / size.width,
      tile.height / size.height,
    );
    const surface = this.floor.material as RawShaderMaterial;
    surface.transparent = transparent;
    surface.blending = NoBlending;
    this.seeBefore(tile, camera);
    this.renderer.setRenderTarget(target);
    this.renderer.clear();
    this.renderer.render(this.world, camera);
  }

  /** For clouds: how far away the opaque things are that stand before or in them. */
  private seeBefore(tile: Tile, camera: Camera): void {
    if (![...this.shapes.values()].some((s) => s.volume?.visible)) return;
    if (this.before?.width !== tile.width || this.before.height !== tile.height) {
      this.before?.dispose();
      this.before = depthTarget(tile.width, tile.height);
    }
    this.shared.uBefore.value = this.before.depthTexture;
    this.renderer.setRenderTarget(this.before);
    this.renderer.clear();
    this.renderer.render(this.casters, camera);
    this.shared.uUnproject.value.copy(camera.projectionMatrix).multiply(camera.matrixWorldInverse).invert();
  }

  private shineLights(scene: Scene, centre: Vector, radius: number, pass: number | null): void {
    const { shared } = this;
    const key = keyDirection(scene.camera, pass);
    shared.uKeyDirection.value.set(...key);
    const drawn = pass === null ? this.shadowSource(scene) : '';
    if (scene.light.shadow && (drawn === '' || drawn !== this.keyDrawn)) {
      this.renderShadow(this.keyTarget, key, centre, radius, shared.uKeyMatrix.value);
      this.keyDrawn = drawn;
    }
    if (pass !== null && scene.light.contact > 0) {
      const sky = sphereSample(pass);
      shared.uSkyDirection.value.set(...sky);
      this.renderShadow(this.skyTarget, sky, centre, radius, shared.uSkyMatrix.value);
    }
  }

  /** Everything the shadow of the lamp depends on; new values on the same shapes do not change it. */
  private shadowSource(scene: Scene): string {
    const shapes = [...this.shapes].map(([id, s]) => [id, s.key, s.caster?.visible]);
    return JSON.stringify([scene.camera, scene.lookInside, scene.layers.map((l) => l.sides), shapes]);
  }

  private renderShadow(
    target: WebGLRenderTarget,
    from: Vector,
    centre: Vector,
    radius: number,
    matrix: Matrix4,
  ): void {
    const r = radius * 1.02;
    const camera = new OrthographicCamera(-r, r, r, -r, 0, 4 * r);
    const at = new Vector3(...centre);
    camera.position.copy(at).addScaledVector(new Vector3(...from), 2 * r);
    camera.up.set(...(Math.abs(from[2]) > 0.95 ? ([0, 1, 0] as Vector) : WORLD_UP));
    camera.lookAt(at);
    camera.updateMatrixWorld(true);
    camera.updateProjectionMatrix();
    matrix.multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse);
    this.renderer.setRenderTarget(target);
    this.renderer.clear();
    this.renderer.render(this.casters, camera);
  }

  private layFloor(centre: Vector, radius: number, bottom: number): void {
    const reach = 5 * radius;
    this.floor.position.set(centre[0], centre[1], bottom - 0.004 * radius);
    this.floor.quaternion.copy(new Quaternion());
    this.floor.scale.setScalar(reach);
    this.floor.updateMatrixWorld(true);
    this.shared.uCentre.value.set(centre[0], centre[1], bottom);
    this.shared.uReach.value = reach;
  }

  private setEye(): void {
    const { scene, run, shared } = this;
    const { camera } = scene!;
    shared.uEye.value.set(...subtract(camera.position, run!.origin));
    shared.uTowards.value.set(...cameraAxes(camera).back);
    shared.uParallel.value = camera.projection === 'parallel';
  }

  private camera(size: PictureSize, tile: Tile, jitter: [number, number]) {
    const { bounds } = this;
    const centre = subtract(boundsCentre(bounds), this.run!.origin);
    const reach = (boundsDiagonal(bounds) || 1) * (this.scene!.light.floor ? 2.6 : 0.75);
    const camera = threeCamera(this.scene!.camera, this.run!.origin, size.width / size.height, centre, reach);
    camera.setViewOffset(
      size.width,
      size.height,
      tile.x + jitter[0],
      tile.y + jitter[1],
      tile.width,
      tile.height,
    );
    camera.updateProjectionMatrix();
    return camera;
  }
}

function drawnBySoftware(renderer: WebGLRenderer): boolean {
  const gl = renderer.getContext();
  const info = gl.getExtension('WEBGL_debug_renderer_info');
  const name = info ? String(gl.getParameter(info.UNMASKED_RENDERER_WEBGL)) : '';
  return /swiftshader|llvmpipe|software/i.test(name);
}

import {
  AmbientLight,
  BackSide,
  Color,
  DirectionalLight,
  Float32BufferAttribute,
  type Intersection,
  Mesh,
  MeshBasicMaterial,
  OrthographicCamera,
  PerspectiveCamera,
  PMREMGenerator,
  Quaternion,
  Raycaster,
  Scene,
  SphereGeometry,
  Spherical,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { ScaleToWrite } from '#core/formats/surfaces/scene-to-write.ts';
import type { Vector } from '#core/model/vectors.ts';
import type { CarriedFigure } from './carried-figure.ts';
import { type DrawnBody, FigureBodies } from './figure-bodies.ts';

/** What is found at a place of the picture. */
export interface Probed {
  /** Of the body. */
  name: string;
  /** As it is stored, with the scale it is shown by; null where the body shows no values. */
  value: { is: number; scale: ScaleToWrite } | null;
  /** In the coordinates of the files. */
  at: Vector;
}

/** Pixels that points are wide, and around lines and points within which they are met. */
const DOT = 4;
const NEAR = 5;
/** Bodies more transparent than this are looked through. */
const SEEN_THROUGH = 0.5;
/** Pixels of the screen to one of the page at most. */
const MOST_PIXELS = 2;
/** How bright the light is of what shines, and of the sky around: beside the picture a figure looks neither darker nor brighter. */
const SHINING = 0.33;
const SKY = 0.22;

/** A living figure on a canvas: it draws when something changes, and only then. */
export class FigureView {
  private readonly renderer: WebGLRenderer;
  private readonly world = new Scene();
  private readonly bodies: FigureBodies;
  private readonly camera: PerspectiveCamera | OrthographicCamera;
  private readonly controls: OrbitControls;
  private readonly centre = new Vector3();
  private radius = 1;
  private asked = 0;

  /**
   * @param turned told when it is looked at from elsewhere
   * @throws Error where the browser cannot draw in three dimensions
   */
  constructor(
    readonly canvas: HTMLCanvasElement,
    private readonly carried: CarriedFigure,
    turned: () => void,
  ) {
    const { scene, target } = carried.figure;
    this.renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true });
    this.renderer.setPixelRatio(Math.min(MOST_PIXELS, devicePixelRatio));
    this.bodies = new FigureBodies(carried, DOT * this.renderer.getPixelRatio());
    for (const { object } of this.bodies.drawn) this.world.add(object);
    this.measure();
    this.camera = this.openingCamera();
    this.light(scene.lights);
    this.controls = new OrbitControls(this.camera, canvas);
    // The page scrolls over a figure that nobody works with.
    this.controls.enableZoom = false;
    this.controls.target.set(...target);
    this.controls.update();
    this.controls.saveState();
    this.controls.addEventListener('change', () => {
      turned();
      this.draw();
    });
    this.show(carried.figure.shown);
  }

  /** @param on whether the wheel brings the camera nearer, in place of moving the page */
  holds(on: boolean): void {
    this.controls.enableZoom = on;
  }

  show(moment: number): void {
    this.bodies.show(moment);
    this.draw();
  }

  /** Scales that colours of what is shown go by. */
  scales(): ScaleToWrite[] {
    const shown = this.bodies.drawn.filter(({ object }) => object.visible);
    return [...new Set(shown.flatMap(({ scale }) => scale ?? []))];
  }

  /** @param width, height in pixels of the page */
  resize(width: number, height: number): void {
    const [across, rise] = this.carried.figure.shift;
    this.renderer.setSize(width, height, false);
    this.camera.setViewOffset(width, height, across * height, -rise * height, width, height);
    this.draw();
  }

  /** Turns the camera around the figure, in radians to the right and upwards. */
  turn(across: number, rise: number): void {
    const { camera, controls } = this;
    const upright = new Quaternion().setFromUnitVectors(camera.up, new Vector3(0, 1, 0));
    const away = camera.position.clone().sub(controls.target).applyQuaternion(upright);
    const at = new Spherical().setFromVector3(away);
    at.theta += across;
    at.phi -= rise;
    away.setFromSpherical(at.makeSafe()).applyQuaternion(upright.invert());
    camera.position.copy(controls.target).add(away);
    controls.update();
  }

  /** Brings the camera so much nearer. */
  nearer(factor: number): void {
    const { camera, controls } = this;
    if (camera instanceof OrthographicCamera) camera.zoom *= factor;
    else camera.position.sub(controls.target).divideScalar(factor).add(controls.target);
    camera.updateProjectionMatrix();
    controls.update();
    this.draw();
  }

  /** Back to the view of its picture. */
  home(): void {
    this.controls.reset();
  }

  /**
   * What is seen at a place.
   *
   * @param x, y shares of the picture from its top left
   */
  probe(x: number, y: number): Probed | null {
    const { camera, canvas } = this;
    const caster = new Raycaster();
    camera.updateMatrixWorld();
    caster.setFromCamera(new Vector2(2 * x - 1, 1 - 2 * y), camera);
    const span = this.lengthOfPixels(NEAR, canvas.clientHeight);
    caster.params.Line.threshold = span;
    caster.params.Points.threshold = span;
    const byObject = new Map(this.bodies.drawn.map((d) => [d.object as unknown, d]));
    const visible = this.bodies.drawn.flatMap(({ object }) => (object.visible ? [object] : []));
    for (const hit of caster.intersectObjects(visible, false)) {
      const of = byObject.get(hit.object)!;
      if (of.scale === null && of.material.opacity < SEEN_THROUGH) continue;
      const { origin } = this.carried.figure;
      return {
        name: of.body.name,
        value: of.scale && { is: valueAt(hit, of), scale: of.scale },
        at: [hit.point.x + origin[0], hit.point.y + origin[1], hit.point.z + origin[2]],
      };
    }
    return null;
  }

  dispose(): void {
    cancelAnimationFrame(this.asked);
    this.asked = -1;
    this.controls.dispose();
    this.bodies.dispose();
    this.world.environment?.dispose();
    this.renderer.dispose();
    this.renderer.forceContextLoss();
  }

  private draw(): void {
    if (this.asked !== 0) return;
    this.asked = requestAnimationFrame(() => {
      this.asked = 0;
      const { camera, centre, radius } = this;
      const depth = camera.position.distanceTo(centre);
      camera.far = depth + 2 * radius;
      camera.near =
        camera instanceof OrthographicCamera
          ? depth - 2 * radius
          : Math.max(depth - 2 * radius, camera.far / 5000);
      camera.updateProjectionMatrix();
      this.renderer.render(this.world, camera);
    });
  }

  /** Where everything is that the figure ever shows. */
  private measure(): void {
    const [low, high] = [
      new Vector3(Infinity, Infinity, Infinity),
      new Vector3(-Infinity, -Infinity, -Infinity),
    ];
    for (const { object } of this.bodies.drawn) {
      object.geometry.computeBoundingBox();
      low.min(object.geometry.boundingBox!.min);
      high.max(object.geometry.boundingBox!.max);
    }
    this.centre.copy(low).add(high).divideScalar(2);
    this.radius = low.distanceTo(high) / 2 || 1;
  }

  private openingCamera(): PerspectiveCamera | OrthographicCamera {
    const { scene } = this.carried.figure;
    const [{ position, up, back, right, lens, aspect }] = scene.cameras;
    const camera =
      'openingDegrees' in lens
        ? new PerspectiveCamera(lens.openingDegrees, aspect)
        : new OrthographicCamera(
            -lens.halfHeight * aspect,
            lens.halfHeight * aspect,
            lens.halfHeight,
            -lens.halfHeight,
          );
    camera.position.set(...position);
    const upright = new Vector3(...scene.up);
    // A camera that is rolled, or looks straight down, turns about the upright of its own picture.
    const isUpright =
      Math.abs(upright.dot(new Vector3(...right))) < 1e-3 &&
      Math.abs(upright.dot(new Vector3(...back))) < 0.999;
    camera.up.copy(isUpright ? upright : new Vector3(...up));
    return camera;
  }

  /** Lights go with the camera, so that no view is one from behind. */
  private light(lights: CarriedFigure['figure']['scene']['lights']): void {
    const { camera, world, renderer } = this;
    const [{ right, up, back }] = this.carried.figure.scene.cameras;
    const inView = (to: Vector): Vector3 =>
      new Vector3(...[right, up, back].map((axis) => axis[0] * to[0] + axis[1] * to[1] + axis[2] * to[2]));
    for (const { to, colour, strength } of lights) {
      const light = new DirectionalLight(new Color().setRGB(...colour), strength * SHINING);
      light.position.copy(inView(to));
      camera.add(light, light.target);
    }
    world.add(camera);
    if (lights.length === 0) world.add(new AmbientLight('#ffffff', Math.PI));
    else {
      const generator = new PMREMGenerator(renderer);
      const sky = new Scene();
      const dome = skyDome();
      sky.add(dome);
      world.environment = generator.fromScene(sky, 0.05).texture;
      world.environmentIntensity = SKY;
      dome.geometry.dispose();
      dome.material.dispose();
      generator.dispose();
    }
  }

  /** Length in the scene of some pixels of the page, where the camera turns about. */
  private lengthOfPixels(pixels: number, height: number): number {
    const { camera, controls } = this;
    const whole =
      camera instanceof OrthographicCamera
        ? (camera.top - camera.bottom) / camera.zoom
        : 2 * camera.position.distanceTo(controls.target) * Math.tan((camera.fov * Math.PI) / 360);
    return (pixels * whole) / Math.max(1, height);
  }
}

/** A sky that is bright above and dim below: metal has something to show. */
function skyDome(): Mesh<SphereGeometry, MeshBasicMaterial> {
  const geometry = new SphereGeometry(10, 32, 16);
  const { position } = geometry.attributes;
  const brightness = Array.from({ length: position.count }, (_, i) => 0.9 + 0.06 * position.getY(i));
  geometry.setAttribute(
    'color',
    new Float32BufferAttribute(
      brightness.flatMap((b) => [b, b, b]),
      3,
    ),
  );
  return new Mesh(geometry, new MeshBasicMaterial({ vertexColors: true, side: BackSide }));
}

/** The value at a place that was met, mixed as it is drawn: within a face, along a line, or of a point. */
export function valueAt(
  { face, barycoord, index, point }: Pick<Intersection, 'face' | 'barycoord' | 'index' | 'point'>,
  { body }: Pick<DrawnBody, 'body'>,
): number {
  const { elements, positions, values } = body;
  const { of } = values!;
  if (face && barycoord)
    return of[face.a] * barycoord.x + of[face.b] * barycoord.y + of[face.c] * barycoord.z;
  // Of a point three.js tells the vertex, of a line where its vertices stand among all.
  if (body.kind === 'points') return of[index!];
  const a = elements[index!];
  const b = elements[index! + 1];
  const from = new Vector3().fromArray(positions, 3 * a);
  const along = new Vector3().fromArray(positions, 3 * b).sub(from);
  const share = point.clone().sub(from).dot(along) / (along.lengthSq() || 1);
  return of[a] + Math.min(1, Math.max(0, share)) * (of[b] - of[a]);
}

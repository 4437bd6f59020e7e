import {
  BufferAttribute,
  BufferGeometry,
  type Camera,
  DataTexture,
  DoubleSide,
  EquirectangularReflectionMapping,
  FloatType,
  type Material,
  Mesh,
  MeshPhysicalMaterial,
  NearestFilter,
  type Object3D,
  OrthographicCamera,
  PerspectiveCamera,
  RGBAFormat,
  Scene,
  Vector3,
  WebGLRenderer,
} from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { WebGLPathTracer } from 'three-gpu-pathtracer';
import type { TracedBody, TraceOrder } from './tracer.ts';

const canvas = document.createElement('canvas');
const renderer = new WebGLRenderer({ canvas });

function bodyOf({ positions, colour, roughness }: TracedBody): Mesh {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(positions), 3));
  geometry.computeVertexNormals();
  const [r, g, b] = colour;
  const material = new MeshPhysicalMaterial({ roughness, metalness: 0, side: DoubleSide });
  material.color.setRGB(r, g, b);
  return new Mesh(geometry, material);
}

/** Everything that a GLB holds, with z up as where it came from, and without lights of its own. */
async function bodiesIn(glb: string): Promise<Object3D> {
  const bytes = Uint8Array.from(atob(glb), (c) => c.charCodeAt(0));
  const { scene } = await new GLTFLoader().parseAsync(bytes.buffer, '');
  scene.rotation.x = Math.PI / 2;
  const lights: Object3D[] = [];
  scene.traverse((o) => {
    if ('isLight' in o) lights.push(o);
    const material = (o as Mesh).material as Material | undefined;
    if (material) material.side = DoubleSide;
  });
  for (const light of lights) light.removeFromParent();
  return scene;
}

function cameraOf({ camera, width, height }: TraceOrder): Camera {
  const aspect = width / height;
  const half = camera.height / 2;
  const made =
    camera.fieldOfView === null
      ? new OrthographicCamera(-half * aspect, half * aspect, half, -half, camera.near, camera.far)
      : new PerspectiveCamera(camera.fieldOfView, aspect, camera.near, camera.far);
  made.position.set(...camera.position);
  made.up.set(...camera.up);
  made.lookAt(new Vector3(...camera.target));
  made.updateProjectionMatrix();
  return made;
}

/** The light of an order's sky as the picture around it that three knows: its poles lie along y. */
function skyOf({ sky }: TraceOrder): DataTexture {
  const { width, height, pixels } = sky;
  const texture = new DataTexture(Float32Array.from(pixels), width, height, RGBAFormat, FloatType);
  texture.mapping = EquirectangularReflectionMapping;
  texture.minFilter = NearestFilter;
  texture.magFilter = NearestFilter;
  texture.needsUpdate = true;
  return texture;
}

/** The tracer takes its chances from Math.random: the same ones each time (Park and Miller, 1988). */
function evenly(): () => number {
  let state = 20_088;
  return () => {
    state = (48_271 * state) % 2_147_483_647;
    return state / 2_147_483_647;
  };
}

/** @returns light of each pixel, red, green, blue and opacity, top row first */
async function traced(order: TraceOrder): Promise<number[]> {
  const { width, height, samples, bounces } = order;
  Math.random = evenly();
  renderer.setSize(width, height, false);
  const tracer = new WebGLPathTracer(renderer);
  // Light of a sky that is not too uneven is found by following paths alone; then a number of bounces is just that.
  Object.assign(tracer, {
    multipleImportanceSampling: false,
    renderDelay: 0,
    rasterizeScene: false,
    renderToCanvas: false,
    dynamicLowRes: false,
    filterGlossyFactor: 0,
    bounces,
    // With fewer it runs out of chances, and takes the same way each time.
    transmissiveBounces: 12,
  });
  tracer.tiles.set(1, 1);
  const scene = new Scene();
  scene.background = null;
  scene.environment = skyOf(order);
  for (const body of order.bodies) scene.add(bodyOf(body));
  if (order.glb) scene.add(await bodiesIn(order.glb));
  tracer.setScene(scene, cameraOf(order));
  while (tracer.samples < samples) {
    tracer.renderSample();
    await new Promise((resolve) => setTimeout(resolve, 0));
  }
  const raw = new Float32Array(4 * width * height);
  renderer.readRenderTargetPixels(tracer.target, 0, 0, width, height, raw);
  tracer.dispose();
  const rows = Array.from({ length: height }, (_, y) =>
    raw.subarray(4 * width * (height - 1 - y), 4 * width * (height - y)),
  );
  return rows.flatMap((row) => [...row]);
}

Object.assign(window, { traced });

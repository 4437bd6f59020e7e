import {
  BoxGeometry,
  ClampToEdgeWrapping,
  Data3DTexture,
  DataTexture,
  DataUtils,
  HalfFloatType,
  LinearFilter,
  Matrix4,
  Mesh,
  RedFormat,
  RGFormat,
  Vector2,
  Vector3,
} from 'three';
import type { ValueGrid } from '#core/model/value-grid.ts';
import { blend } from '../blending.ts';
import { common } from '../shaders/colour.ts';
import { material, type Uniforms } from './material.ts';
import type { Painter } from './painter.ts';

const vertex = /* glsl */ `
precision highp float;
in vec3 position;
uniform mat4 modelMatrix;
uniform mat4 viewMatrix;
uniform mat4 projectionMatrix;
out vec3 vWorld;
void main() {
  vec4 world = modelMatrix * vec4(position, 1.0);
  vWorld = world.xyz;
  gl_Position = projectionMatrix * viewMatrix * world;
}
`;

/**
 * Walks from the front of the box to its back and gathers colour and opacity, front to back. The opacity of the curve
 * is for a way of one fortieth of the diagonal; shorter steps take their share of it (Beer and Lambert's law).
 */
const fragment = /* glsl */ `
precision highp sampler3D;
${common}
uniform sampler3D uGrid;
uniform sampler2D uCurve;
uniform vec3 uBoxLow;
uniform vec3 uBoxHigh;
uniform vec3 uEye;
uniform vec3 uTowards;
uniform bool uParallel;
uniform float uPass;
uniform float uSteps;
uniform vec2 uValues;
uniform sampler2D uBefore;
uniform mat4 uUnproject;
uniform vec2 uPixels;
uniform vec2 uCorner;
uniform int uAway;
in vec3 vWorld;
void main() {
  if (uAway == 2) discard;
  vec3 ray = uParallel ? -uTowards : normalize(vWorld - uEye);
  vec3 inverse = 1.0 / (ray + vec3(equal(ray, vec3(0.0))) * 1e-12);
  vec3 far3 = max((uBoxLow - vWorld) * inverse, (uBoxHigh - vWorld) * inverse);
  vec3 near3 = min((uBoxLow - vWorld) * inverse, (uBoxHigh - vWorld) * inverse);
  // Faces at the back are drawn, so that one can stand inside: from there back to where the ray came in.
  float leave = 0.0;
  // Opaque things in the way end the ray.
  float depth = texelFetch(uBefore, ivec2(gl_FragCoord.xy), 0).r;
  vec4 stop = uUnproject * vec4(gl_FragCoord.xy / uPixels * 2.0 - 1.0, depth * 2.0 - 1.0, 1.0);
  if (depth < 1.0) leave = min(leave, dot(stop.xyz / stop.w - vWorld, ray));
  float enter = max(max(near3.x, near3.y), near3.z);
  if (!uParallel) enter = max(enter, -distance(vWorld, uEye));
  float diagonal = distance(uBoxLow, uBoxHigh);
  float stride = diagonal / uSteps;
  float shift = fract(52.9829189 * fract(dot(gl_FragCoord.xy + uCorner, vec2(0.06711056, 0.00583715))) + uPass * 0.61803399);
  vec3 light = vec3(0.0);
  float clear = 1.0;
  float share = 40.0 / uSteps;
  for (float t = enter + stride * shift; t < leave; t += stride) {
    vec3 at = (vWorld + ray * t - uBoxLow) / (uBoxHigh - uBoxLow);
    vec2 seen = texture(uGrid, at).rg;
    if (seen.g < 0.5) continue;
    float value = mix(uValues.x, uValues.y, seen.r / seen.g);
    if (isHidden(value, 1.0)) continue;
    vec4 own = ownColour(value, 1.0);
    float place = scaleFraction(value);
    float dense = texture(uCurve, vec2(place * (255.0 / 256.0) + 0.5 / 256.0, 0.5)).r * uOpacity * own.a;
    float opacity = 1.0 - pow(1.0 - min(dense, 0.995), share);
    light += clear * opacity * own.rgb;
    clear *= 1.0 - opacity;
    if (clear < 0.01) break;
  }
  float strength = uAway == 1 ? 0.15 : 1.0;
  put(vec4(light, 1.0 - clear) * strength);
}
`;

/** A grid of values as a cloud. */
function volumeMesh(grid: ValueGrid, uniforms: Uniforms) {
  const [b, n] = [grid.bounds, grid.size];
  // The value times whether it is known, and whether it is known: so the rim of a body does not fade to zero.
  const data = new Uint16Array(2 * grid.values.length);
  const { low: least, high: most } = grid;
  const one = DataUtils.toHalfFloat(1);
  for (const [i, v] of grid.values.entries()) {
    if (!Number.isFinite(v)) continue;
    data[2 * i] = DataUtils.toHalfFloat((v - least) / (most - least || 1));
    data[2 * i + 1] = one;
  }
  const texture = new Data3DTexture(data, ...n);
  texture.format = RGFormat;
  texture.type = HalfFloatType;
  texture.minFilter = LinearFilter;
  texture.magFilter = LinearFilter;
  texture.wrapS = texture.wrapT = texture.wrapR = ClampToEdgeWrapping;
  texture.unpackAlignment = 1;
  texture.needsUpdate = true;
  const low = new Vector3(b[0], b[2], b[4]);
  const high = new Vector3(b[1], b[3], b[5]);
  const curve = curveTexture(grid.curve);
  const made = material(vertex, fragment, {
    ...uniforms,
    uGrid: { value: texture },
    uCurve: { value: curve },
    uBoxLow: { value: low },
    uBoxHigh: { value: high },
    uValues: { value: new Vector2(least, most) },
    uSteps: { value: Math.min(256, 1.5 * Math.max(...n)) },
  });
  // Back faces: three turns them over by their side.
  made.side = 1;
  made.depthTest = false;
  const size = high.clone().sub(low);
  const mesh = new Mesh(new BoxGeometry(1, 1, 1), made);
  mesh.applyMatrix4(
    new Matrix4()
      .makeTranslation(...low.clone().addScaledVector(size, 0.5).toArray())
      .scale(new Vector3(...size.toArray().map((s) => s || 1e-6))),
  );
  mesh.renderOrder = 4;
  mesh.frustumCulled = false;
  return { mesh, textures: [texture, curve] };
}

/** A cloud: what is in the way costs light for every pixel, so it is drawn row by row. */
export const volumePainter: Painter<'volume'> = {
  kind: 'volume',
  paint({ grid }, look, shared) {
    const { mesh, textures } = volumeMesh(grid, { ...shared, ...look.own });
    blend(mesh.material, 0.5);
    return {
      drawn: [{ object: mesh, kind: 'volume', by: 'row', count: 12, narrow: () => undefined }],
      casters: [],
      setValues: () => undefined,
      restyle: () => undefined,
      fade: () => undefined,
      dispose: () => {
        mesh.geometry.dispose();
        mesh.material.dispose();
        for (const texture of textures) texture.dispose();
      },
    };
  },
};

function curveTexture(curve: ValueGrid['curve']): DataTexture {
  const data = new Uint16Array(256);
  const sorted = [...curve].sort((a, b) => a[0] - b[0]);
  for (let i = 0; i < 256; i++) {
    const at = i / 255;
    const next = sorted.findIndex(([p]) => p >= at);
    const put = (v: number): void => {
      data[i] = DataUtils.toHalfFloat(v);
    };
    if (next < 0) put(sorted[sorted.length - 1][1]);
    else if (next === 0) put(sorted[0][1]);
    else {
      const [p0, o0] = sorted[next - 1];
      const [p1, o1] = sorted[next];
      put(o0 + ((at - p0) / (p1 - p0 || 1)) * (o1 - o0));
    }
  }
  const texture = new DataTexture(data, 256, 1, RedFormat, HalfFloatType);
  texture.minFilter = LinearFilter;
  texture.magFilter = LinearFilter;
  texture.needsUpdate = true;
  return texture;
}

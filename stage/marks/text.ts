import {
  BufferAttribute,
  CanvasTexture,
  InstancedBufferAttribute,
  InstancedBufferGeometry,
  LinearFilter,
  Mesh,
} from 'three';
import { sayNumber } from '#core/language/sentence.ts';
import { blend } from '../blending.ts';
import { outputs } from '../shaders/colour.ts';
import { material, type Uniforms } from './material.ts';
import type { Painter } from './painter.ts';

/** Height of one line of text in the texture, in its pixels. */
const ROW = 48;
const WIDTH = 256;

const vertex = /* glsl */ `
precision highp float;
in vec2 corner;
in vec3 place;
in vec2 row;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform vec2 uPixels;
uniform float uWidth;
uniform bool uParallel;
out vec2 vUv;
void main() {
  vec4 here = projectionMatrix * modelViewMatrix * vec4(place, 1.0);
  vec2 size = vec2(row.y * 12.0 * ${(WIDTH / ROW).toFixed(4)}, 12.0) * 1.7 * uWidth;
  here.xy += corner * size / uPixels * here.w;
  // Far enough before its line that a slanted surface does not cut it off.
  here.z -= (uParallel ? 1.2e-2 : 6e-4) * here.w;
  gl_Position = here;
  vUv = vec2((corner.x * 0.5 + 0.5) * row.y, row.x + (0.5 - corner.y * 0.5) * (1.0 / float(ROWS)));
}
`;

const fragment = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uText;
uniform int uAway;
uniform float uOpacity;
${outputs}
in vec2 vUv;
void main() {
  if (uAway > 0) discard;
  vec4 seen = texture(uText, vUv);
  if (seen.a < 0.02) discard;
  put(seen * uOpacity);
}
`;

/** The values of contour lines as words that stand upright on the picture, hidden by what is before them. */
function textMesh(
  labels: { places: Float32Array; values: Float32Array },
  uniforms: Uniforms,
): { mesh: Mesh<InstancedBufferGeometry, ReturnType<typeof material>>; texture: CanvasTexture } {
  const texts = [...new Set(Array.from(labels.values, (v) => sayNumber(v)))];
  const canvas = document.createElement('canvas');
  canvas.width = WIDTH;
  canvas.height = ROW * texts.length;
  const painter = canvas.getContext('2d')!;
  painter.font = `600 ${ROW * 0.62}px 'Inter Variable', system-ui, sans-serif`;
  painter.textBaseline = 'middle';
  painter.lineJoin = 'round';
  const widths = texts.map((text, i) => {
    const width = Math.min(WIDTH, painter.measureText(text).width + 16);
    painter.strokeStyle = 'rgba(255,253,249,0.92)';
    painter.lineWidth = 7;
    painter.strokeText(text, 8, (i + 0.5) * ROW);
    painter.fillStyle = '#26241f';
    painter.fillText(text, 8, (i + 0.5) * ROW);
    return width / WIDTH;
  });
  const texture = new CanvasTexture(canvas);
  texture.flipY = false;
  texture.premultiplyAlpha = true;
  texture.minFilter = LinearFilter;
  texture.generateMipmaps = false;
  const n = labels.values.length;
  const row = new Float32Array(2 * n);
  for (let i = 0; i < n; i++) {
    const at = texts.indexOf(sayNumber(labels.values[i]));
    row[2 * i] = at / texts.length;
    row[2 * i + 1] = widths[at];
  }
  const g = new InstancedBufferGeometry();
  g.setAttribute('corner', new BufferAttribute(new Float32Array([-1, -1, 1, -1, 1, 1, -1, 1]), 2));
  g.setIndex([0, 1, 2, 0, 2, 3]);
  g.setAttribute('place', new InstancedBufferAttribute(labels.places, 3));
  g.setAttribute('row', new InstancedBufferAttribute(row, 2));
  g.instanceCount = n;
  const made = material(vertex.replace('float(ROWS)', `${texts.length}.0`), fragment, {
    ...uniforms,
    uText: { value: texture },
  });
  const mesh = new Mesh(g, made);
  mesh.renderOrder = 5;
  mesh.frustumCulled = false;
  return { mesh, texture };
}

/** The values of contour lines, written on them. */
export const textPainter: Painter<'text'> = {
  kind: 'text',
  paint(mark, look, shared) {
    const { mesh, texture } = textMesh(mark, { ...shared, ...look.own });
    blend(mesh.material, 0.5);
    return {
      drawn: [
        { object: mesh, kind: 'text', by: 'whole', count: mark.values.length, narrow: () => undefined },
      ],
      casters: [],
      setValues: () => undefined,
      restyle: () => undefined,
      fade: () => undefined,
      dispose: () => {
        mesh.geometry.dispose();
        mesh.material.dispose();
        texture.dispose();
      },
    };
  },
};

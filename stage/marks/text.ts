import {
  BufferAttribute,
  CanvasTexture,
  InstancedBufferAttribute,
  InstancedBufferGeometry,
  LinearFilter,
  Mesh,
  Vector4,
} from 'three';
import { blend } from '../blending.ts';
import { outputs } from '../shaders/colour.ts';
import { placeTexts, type ScreenLine, type Taken } from './label-layout.ts';
import { material } from './material.ts';
import type { Painter, PictureView } from './painter.ts';

/** Height of one line of text in the texture, in its pixels. */
const ROW = 48;
/** Height of a text on a picture whose thin lines are one pixel wide. */
const HEIGHT = 10.2;

const vertex = /* glsl */ `
precision highp float;
precision highp int;
precision highp sampler2D;
in vec2 corner;
in vec3 first;
in vec3 place;
in vec3 last;
in vec2 along;
in vec2 row;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform vec2 uPixels;
uniform float uWidth;
uniform float uRows;
uniform float uHalf;
uniform float uLongest;
uniform sampler2D uBefore;
out vec2 vUv;

/** Whether nothing stands before a place, seen with its neighbours: its own surface may slant. */
bool isFree(vec3 at) {
  vec4 seen = projectionMatrix * modelViewMatrix * vec4(at, 1.0);
  vec3 there = 0.5 + 0.5 * seen.xyz / seen.w;
  ivec2 size = textureSize(uBefore, 0);
  ivec2 pixel = ivec2(there.xy * vec2(size));
  if (any(lessThan(pixel, ivec2(0))) || any(greaterThanEqual(pixel, size))) return true;
  float behind = 0.0;
  for (int i = -1; i <= 1; i++)
    for (int j = -1; j <= 1; j++)
      behind = max(behind, texelFetch(uBefore, clamp(pixel + ivec2(i, j), ivec2(0), size - 1), 0).r);
  return there.z < behind + 2e-5;
}

void main() {
  vec4 here = projectionMatrix * modelViewMatrix * vec4(place, 1.0);
  vec2 offset = corner * vec2(row.y * uLongest, 1.0) * uHalf * uWidth;
  here.xy += 2.0 * (offset.x * along + offset.y * vec2(-along.y, along.x)) / uPixels * here.w;
  // As a whole, or not at all.
  gl_Position = isFree(first) && isFree(place) && isFree(last) ? here : vec4(2.0, 2.0, 2.0, 1.0);
  vUv = vec2((corner.x * 0.5 + 0.5) * row.y, (row.x + 0.5 - 0.5 * corner.y) / uRows);
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
  // Letters are painted for a screen, pictures are made of light.
  vec3 shown = seen.rgb / seen.a;
  vec3 light = mix(shown / 12.92, pow((shown + 0.055) / 1.055, vec3(2.4)), step(0.04045, shown));
  put(vec4(light, 1.0) * seen.a * uOpacity);
}
`;

/** Texts as rows of a picture, and the width of each in heights of a row. */
function writtenOut(texts: readonly string[]): { texture: CanvasTexture; widths: number[]; longest: number } {
  const canvas = document.createElement('canvas');
  const font = `600 ${ROW * 0.62}px 'Inter Variable', system-ui, sans-serif`;
  const measure = canvas.getContext('2d')!;
  measure.font = font;
  const widths = texts.map((text) => Math.ceil(measure.measureText(text).width + 16));
  const longest = Math.max(1, ...widths);
  canvas.width = longest;
  canvas.height = ROW * Math.max(1, texts.length);
  const painter = canvas.getContext('2d')!;
  painter.font = font;
  painter.textBaseline = 'middle';
  painter.lineJoin = 'round';
  for (const [i, text] of texts.entries()) {
    painter.strokeStyle = 'rgba(255,253,249,0.92)';
    painter.lineWidth = 7;
    painter.strokeText(text, 8, (i + 0.5) * ROW);
    painter.fillStyle = '#26241f';
    painter.fillText(text, 8, (i + 0.5) * ROW);
  }
  const texture = new CanvasTexture(canvas);
  texture.flipY = false;
  texture.premultiplyAlpha = true;
  texture.minFilter = LinearFilter;
  texture.generateMipmaps = false;
  return { texture, widths: widths.map((w) => w / ROW), longest: longest / ROW };
}

/** So many squares, to be placed. */
function squares(count: number): InstancedBufferGeometry {
  const g = new InstancedBufferGeometry();
  g.setAttribute('corner', new BufferAttribute(new Float32Array([-1, -1, 1, -1, 1, 1, -1, 1]), 2));
  g.setIndex([0, 1, 2, 0, 2, 3]);
  g.instanceCount = count;
  return g;
}

/** Values along contour lines: as many as the picture has room for, none over another, none behind something. */
export const textPainter: Painter<'text'> = {
  kind: 'text',
  paint({ places, starts, texts }, look, shared) {
    const rows = [...new Set(texts)];
    const { texture, widths, longest } = writtenOut(rows);
    const rowOf = texts.map((t) => rows.indexOf(t));
    const own = material(vertex, fragment, {
      ...shared,
      ...look.own,
      uText: { value: texture },
      uRows: { value: Math.max(1, rows.length) },
      uHalf: { value: HEIGHT },
      uLongest: { value: longest },
    });
    blend(own, 0.5);
    // Where it stands is decided as a whole, so that no text is cut off.
    own.depthTest = false;
    const object = new Mesh(squares(0), own);
    object.renderOrder = 5;
    object.frustumCulled = false;
    const drawn = { object, kind: 'text', by: 'whole' as const, count: 0, narrow: () => undefined };

    const arrange = (view: PictureView, taken: Taken): void => {
      const height = 2 * HEIGHT * view.lineWidth * 0.62;
      const lines = Array.from(
        texts,
        (_, i): ScreenLine => ({
          points: onPicture(places.subarray(3 * starts[i], 3 * starts[i + 1]), view),
          width: 2 * HEIGHT * view.lineWidth * widths[rowOf[i]],
        }),
      );
      const found = placeTexts(lines, height, view, taken);
      // Anew each time: how many instances a geometry may have is settled when it is first drawn.
      object.geometry.dispose();
      object.geometry = squares(found.length);
      const g = object.geometry;
      const each = (width: number, of: (n: number) => number[]): InstancedBufferAttribute => {
        return new InstancedBufferAttribute(Float32Array.from(found.flatMap((_, n) => of(n))), width);
      };
      const placeOf = (n: number, which: number): number[] =>
        between(places, starts[found[n].line], found[n].at[which]);
      g.setAttribute(
        'first',
        each(3, (n) => placeOf(n, 0)),
      );
      g.setAttribute(
        'place',
        each(3, (n) => placeOf(n, 1)),
      );
      g.setAttribute(
        'last',
        each(3, (n) => placeOf(n, 2)),
      );
      // On the picture y runs down, before the camera up.
      g.setAttribute(
        'along',
        each(2, (n) => [found[n].along[0], -found[n].along[1]]),
      );
      g.setAttribute(
        'row',
        each(2, (n) => [rowOf[found[n].line], widths[rowOf[found[n].line]] / longest]),
      );
      drawn.count = found.length;
    };

    return {
      drawn: [drawn],
      casters: [],
      arrange,
      setValues: () => undefined,
      restyle: () => undefined,
      fade: () => undefined,
      dispose: () => {
        object.geometry.dispose();
        own.dispose();
        texture.dispose();
      },
    };
  },
};

/** Points on the picture, in pixels from the top left; not a number where they are not before the camera. */
function onPicture(places: Float32Array, { matrix, width, height }: PictureView): Float64Array {
  const out = new Float64Array((2 * places.length) / 3);
  const seen = new Vector4();
  for (let i = 0; i < places.length / 3; i++) {
    seen.set(places[3 * i], places[3 * i + 1], places[3 * i + 2], 1).applyMatrix4(matrix);
    out[2 * i] = seen.w > 0 ? (0.5 + (0.5 * seen.x) / seen.w) * width : Number.NaN;
    out[2 * i + 1] = seen.w > 0 ? (0.5 - (0.5 * seen.y) / seen.w) * height : Number.NaN;
  }
  return out;
}

/** A place on a line, at a point number with a fraction. */
function between(places: Float32Array, start: number, at: number): number[] {
  const i = 3 * (start + Math.floor(at));
  const t = at - Math.floor(at);
  return [0, 1, 2].map((k) => places[i + k] + (t > 0 ? t * (places[i + 3 + k] - places[i + k]) : 0));
}

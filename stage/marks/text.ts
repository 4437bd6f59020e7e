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
import { textFragment, textVertex } from '../shaders/text.ts';
import { placeTexts, type ScreenLine, type Taken } from './label-layout.ts';
import { material } from './material.ts';
import type { Drawn, Painter, PictureView } from './painter.ts';

/** Height of one line of text in the texture, in its pixels. */
const ROW = 48;
/** Height of a text on a picture whose thin lines are one pixel wide. */
const HEIGHT = 10.2;

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
    const own = material(textVertex, textFragment, {
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
    const drawn: Drawn = {
      object,
      kind: 'text',
      by: 'whole',
      through: 'last',
      count: 0,
      narrow: () => undefined,
    };

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

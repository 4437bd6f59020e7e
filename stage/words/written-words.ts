import type { Box, WordsPainter } from './lettering.ts';

/** A text as it was written on a picture, in its pixels. */
export interface WrittenWord {
  text: string;
  /** Of its letters. */
  size: number;
  box: Box;
  /** As the canvas has it: `#rrggbb` or `rgba(…)`. */
  ink: string;
  /** Of the line around its letters; null without one. */
  halo: string | null;
  /** What was filled beneath it last; null where the picture lies there. */
  plate: string | null;
}

const SIZE = /([\d.]+)px/;

/** A painter that paints nowhere and notes down what is written, wherever it is turned and moved to. */
export class WrittenWords {
  readonly words: WrittenWord[] = [];
  readonly painter: WordsPainter;
  private plates: { box: Box; colour: string }[] = [];
  private around: { text: string; colour: string } | null = null;

  constructor() {
    const canvas = new OffscreenCanvas(1, 1);
    const own = canvas.getContext('2d')!;
    const noted: Record<string, (...given: never[]) => void> = {
      fillText: (text: string, x: number, y: number) => this.write(own, text, x, y),
      strokeText: (text: string) => {
        this.around = { text, colour: String(own.strokeStyle) };
      },
      fillRect: (x: number, y: number, width: number, height: number) => {
        if (typeof own.fillStyle === 'string')
          this.plates.push({ box: moved(own, { x, y, width, height }), colour: own.fillStyle });
      },
    };
    this.painter = new Proxy(own, {
      get(of, key) {
        const value = noted[key as string] ?? Reflect.get(of, key);
        return typeof value === 'function' ? value.bind(of) : value;
      },
      set: (of, key, value) => Reflect.set(of, key, value),
    });
  }

  private write(own: OffscreenCanvasRenderingContext2D, text: string, x: number, y: number): void {
    if (text.trim() === '') return;
    const size = Number(SIZE.exec(own.font)?.[1] ?? 0);
    const { width } = own.measureText(text);
    const before = own.textAlign === 'center' ? width / 2 : own.textAlign === 'right' ? width : 0;
    const box = moved(own, { x: x - before, y: y - size / 2, width, height: size });
    const plate = this.plates.findLast((p) => hasItsMiddleIn(box, p.box))?.colour ?? null;
    const halo = this.around?.text === text ? this.around.colour : null;
    this.words.push({ text, size, box, ink: String(own.fillStyle), halo, plate });
    this.around = null;
  }
}

/** The box around a rectangle as the painter turns and moves it. */
function moved(painter: OffscreenCanvasRenderingContext2D, { x, y, width, height }: Box): Box {
  const turn = painter.getTransform();
  const corners = [
    [x, y],
    [x + width, y],
    [x, y + height],
    [x + width, y + height],
  ].map(([px, py]) => turn.transformPoint({ x: px, y: py }));
  const [xs, ys] = [corners.map((c) => c.x), corners.map((c) => c.y)];
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  return { x: left, y: top, width: Math.max(...xs) - left, height: Math.max(...ys) - top };
}

/** Whether the middle of one box lies in another. */
export const hasItsMiddleIn = (inner: Box, outer: Box): boolean => {
  const [x, y] = [inner.x + inner.width / 2, inner.y + inner.height / 2];
  return x >= outer.x && x <= outer.x + outer.width && y >= outer.y && y <= outer.y + outer.height;
};

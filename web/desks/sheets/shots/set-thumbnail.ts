import { PAPER } from '#web/desks/shared/on-paper.ts';
import { asThumbnail } from '#web/desks/shared/thumbnails.ts';

/** In pixels: as small as shots are shown, on a screen of twice the pixels. */
const [WIDTH, HEIGHT] = [234, 162];

/** What a part of the page shows, small: its pictures, charts, lines and words, at their places. */
export async function thumbnailOfElement(root: HTMLElement): Promise<string> {
  const canvas = document.createElement('canvas');
  Object.assign(canvas, { width: WIDTH, height: HEIGHT });
  const painter = canvas.getContext('2d')!;
  painter.fillStyle = groundOf(root);
  painter.fillRect(0, 0, WIDTH, HEIGHT);
  const all = root.getBoundingClientRect();
  // All of its width or all of its height, from the upper left corner.
  const scale = Math.max(WIDTH / all.width, HEIGHT / all.height);
  painter.scale(scale, scale);
  painter.translate(-all.left, -all.top);
  const nodes = document.createTreeWalker(root, NodeFilter.SHOW_ELEMENT | NodeFilter.SHOW_TEXT);
  for (let node = nodes.nextNode(); node; node = nodes.nextNode())
    if (node instanceof Text) paintWords(painter, node);
    else if (node instanceof HTMLCanvasElement || node instanceof HTMLImageElement)
      paintPicture(painter, node);
    else if (node instanceof SVGGeometryElement) paintLines(painter, node);
    else if (node instanceof HTMLElement) paintGround(painter, node);
  return asThumbnail(canvas);
}

const CLEAR = 'rgba(0, 0, 0, 0)';

/** What is behind all of it: of the page, dark or light. */
function groundOf(root: HTMLElement): string {
  for (let at: HTMLElement | null = root; at; at = at.parentElement) {
    const { backgroundColor } = getComputedStyle(at);
    if (backgroundColor !== CLEAR) return backgroundColor;
  }
  return PAPER;
}

function paintGround(painter: CanvasRenderingContext2D, element: HTMLElement): void {
  const { backgroundColor } = getComputedStyle(element);
  if (backgroundColor === CLEAR) return;
  const { left, top, width, height } = element.getBoundingClientRect();
  painter.fillStyle = backgroundColor;
  painter.fillRect(left, top, width, height);
}

function paintPicture(
  painter: CanvasRenderingContext2D,
  picture: HTMLCanvasElement | HTMLImageElement,
): void {
  if (picture instanceof HTMLImageElement ? !picture.naturalWidth : !picture.width || !picture.height) return;
  const { left, top, width, height } = picture.getBoundingClientRect();
  painter.drawImage(picture, left, top, width, height);
}

function paintWords(painter: CanvasRenderingContext2D, words: Text): void {
  const said = words.data.trim();
  if (said === '' || !words.parentElement) return;
  const range = document.createRange();
  range.selectNodeContents(words);
  const { left, top, width, height } = range.getBoundingClientRect();
  // Those for screen readers only are a pixel large.
  if (words.parentElement.clientWidth === 1 || width === 0) return;
  const { font, color } = getComputedStyle(words.parentElement);
  painter.font = font;
  painter.fillStyle = color;
  painter.textBaseline = 'middle';
  painter.fillText(said, left, top + height / 2, width);
}

function paintLines(painter: CanvasRenderingContext2D, shape: SVGGeometryElement): void {
  const place = shape.getScreenCTM();
  const along = shape.getAttribute('d');
  if (!place || !along) return;
  const { stroke, strokeWidth } = getComputedStyle(shape);
  painter.save();
  painter.transform(place.a, place.b, place.c, place.d, place.e, place.f);
  painter.strokeStyle = stroke;
  painter.lineWidth = Number.parseFloat(strokeWidth) || 1;
  if (stroke !== 'none') painter.stroke(new Path2D(along));
  painter.restore();
}

import type { Shape, Spot } from '#core/scene/annotations/drawing.ts';
import type { Backdrop } from '#core/scene/backdrops/backdrop.ts';
import { paintChart } from '../charts/paint-chart.ts';
import { type Behind, groundFor, paintGround } from './ground.ts';
import { imageOf } from './images.ts';
import { fontOf, type Lettering, SERIF_FONT, WORDS_FONT, type WordsPainter, write } from './lettering.ts';

/** On what shapes are painted. */
export interface Sheet {
  tone: Backdrop;
  behind: Behind | null;
  size: { width: number; height: number };
}

/** How much wider than a line its halo is, in its widths. */
const HALO = 3;

/** Paints the shapes of an annotation, one over the other. */
export function paintShapes(painter: WordsPainter, shapes: readonly Shape[], sheet: Sheet): void {
  for (const shape of shapes) paintShape(painter, shape, sheet);
}

function paintShape(painter: WordsPainter, shape: Shape, { tone, behind, size }: Sheet): void {
  switch (shape.kind) {
    case 'text':
      paintText(painter, shape, {
        font: letters(shape.letters),
        ink: shape.ink ?? tone.ink,
        halo: tone.halo,
      });
      return;
    case 'line':
      painter.lineJoin = 'round';
      if (shape.halo) stroke(painter, shape.spots, HALO * shape.width, tone.halo);
      stroke(painter, shape.spots, shape.width, shape.ink ?? tone.ink);
      return;
    case 'area':
      along(painter, shape.corners);
      painter.closePath();
      painter.globalAlpha = shape.opacity;
      painter.fillStyle = shape.fill ?? tone.ink;
      painter.fill();
      painter.globalAlpha = 1;
      return;
    case 'disc':
      painter.beginPath();
      painter.arc(shape.x, shape.y, shape.radius, 0, 2 * Math.PI);
      painter.fillStyle = shape.fill ?? tone.ink;
      painter.fill();
      if (!shape.rim) return;
      painter.strokeStyle = shape.rim.ink ?? tone.ink;
      painter.lineWidth = shape.rim.width;
      painter.stroke();
      return;
    case 'box': {
      const { x, y, width, height } = shape.box;
      painter.beginPath();
      painter.roundRect(x, y, width, height, shape.radius);
      if (shape.fill) {
        painter.globalAlpha = shape.opacity;
        painter.fillStyle = shape.fill;
        painter.fill();
        painter.globalAlpha = 1;
      }
      if (!shape.rim) return;
      painter.strokeStyle = shape.rim.ink ?? tone.ink;
      painter.lineWidth = shape.rim.width;
      painter.stroke();
      return;
    }
    case 'image': {
      const found = imageOf(shape.source);
      if (!found) return;
      const { x, y, width, height } = shape.box;
      painter.globalAlpha = shape.opacity;
      painter.imageSmoothingEnabled = true;
      painter.imageSmoothingQuality = 'high';
      painter.drawImage(found.element, x, y, width, height);
      painter.globalAlpha = 1;
      return;
    }
    case 'chart':
      paintChart(painter, shape, shape.ink ?? tone.ink, WORDS_FONT);
      return;
    case 'ground': {
      const ground = groundFor(shape.ground, shape.ink ?? tone.ink, tone.plate, behind, shape.box, size);
      paintGround(painter, ground, tone.plate, shape.box, shape.pad, behind, size);
    }
  }
}

export const letters = (kind: 'plain' | 'book'): string => (kind === 'book' ? SERIF_FONT : WORDS_FONT);

function paintText(painter: WordsPainter, text: Extract<Shape, { kind: 'text' }>, look: Lettering): void {
  if (text.halo) {
    write(painter, text, look);
    return;
  }
  painter.font = fontOf(text.size, text.weight, look.font);
  painter.textBaseline = 'middle';
  painter.textAlign = text.align;
  painter.fillStyle = look.ink;
  painter.fillText(text.text, text.x, text.y);
}

function along(painter: WordsPainter, spots: readonly Spot[]): void {
  painter.beginPath();
  for (const [i, [x, y]] of spots.entries()) {
    if (i === 0) painter.moveTo(x, y);
    else painter.lineTo(x, y);
  }
}

function stroke(painter: WordsPainter, spots: readonly Spot[], width: number, ink: string): void {
  along(painter, spots);
  painter.strokeStyle = ink;
  painter.lineWidth = width;
  painter.stroke();
}

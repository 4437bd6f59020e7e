import { CompiledScale, cssColour } from '#core/colour/compiled-scale.ts';
import { sayNumber } from '#core/language/sentence.ts';
import { roundStep } from '#core/model/round-step.ts';
import { type BoxView, inBox, type ResponseSurface, seenInBox } from '#core/sets/response-surface.ts';
import type { RunColumn } from '#core/sets/run-table.ts';
import type { ChartTone } from '#stage/charts/chart-options.ts';

/** Where a run is seen, in pixels of the picture. */
export interface SeenPoint {
  row: number;
  x: number;
  y: number;
}

/** Room around the box for its words, in letters. */
const ROOM = 4.6;
/** How many lines of the net are drawn dark. */
const LINES = 10;
const MARK = '#a4431f';

type Place = readonly [number, number, number];
interface Spot {
  x: number;
  y: number;
  near: number;
}

/**
 * Paints a fitted surface in its box: what lies behind first, then the net with the runs by how near they are.
 *
 * @returns where the runs are seen
 */
export function paintSurface(
  painter: CanvasRenderingContext2D,
  surface: ResponseSurface,
  view: BoxView,
  { width, height }: { width: number; height: number },
  tone: ChartTone,
  isMarked: (row: number) => boolean,
): SeenPoint[] {
  const { xs, ys, heights, points, ends } = surface;
  const letters = tone.letters;
  // A box is not as high as it is wide, from wherever it is looked at.
  const scale = Math.min(width, height / 0.92) / 2 - ROOM * letters;
  const at = (place: Place): Spot => {
    const seen = seenInBox(place, view);
    return { x: width / 2 + scale * seen.x, y: height / 2 - scale * seen.y, near: seen.near };
  };
  const placeOf = (x: number, y: number, z: number): Place => [
    inBox(x, ends.x),
    inBox(y, ends.y),
    inBox(z, ends.z),
  ];
  painter.clearRect(0, 0, width, height);
  paintBox(painter, at, surface, view, tone);
  const [low, high] = ends.z;
  const colours = CompiledScale.of({ map: 'viridis', reversed: false, bands: null, low, high });
  const net = ys.map((y, j) => xs.map((x, i) => at(placeOf(x, y, heights[j][i]))));
  interface Drawn {
    near: number;
    paint(): void;
  }
  const all: Drawn[] = [];
  for (let j = 0; j + 1 < ys.length; j++)
    for (let i = 0; i + 1 < xs.length; i++) {
      const corners = [net[j][i], net[j][i + 1], net[j + 1][i + 1], net[j + 1][i]];
      const mean = (heights[j][i] + heights[j][i + 1] + heights[j + 1][i + 1] + heights[j + 1][i]) / 4;
      const every = Math.max(1, Math.round((xs.length - 1) / LINES));
      all.push({
        near: corners.reduce((sum, c) => sum + c.near, 0) / 4,
        paint() {
          painter.beginPath();
          for (const c of corners) painter.lineTo(c.x, c.y);
          painter.closePath();
          painter.fillStyle = cssColour(colours.colour(mean));
          painter.fill();
          // The same colour along the edges: no gaps shine through.
          painter.lineWidth = 0.7;
          painter.strokeStyle = painter.fillStyle;
          painter.stroke();
          painter.globalAlpha = 0.4;
          painter.strokeStyle = tone.ink;
          if (j % every === 0) stroke(painter, corners[0], corners[1]);
          if (i % every === 0) stroke(painter, corners[0], corners[3]);
          painter.globalAlpha = 1;
        },
      });
    }
  const seen = points.map((point) => {
    const spot = at(placeOf(point.x, point.y, point.z));
    const foot = at(placeOf(point.x, point.y, point.fitted));
    const marked = isMarked(point.row);
    all.push({
      // A run stands before the net that it lies on.
      near: Math.max(spot.near, foot.near) + 0.08,
      paint() {
        painter.lineWidth = 1.6;
        painter.strokeStyle = marked ? MARK : tone.ink;
        stroke(painter, foot, spot);
        painter.beginPath();
        painter.arc(spot.x, spot.y, marked ? 6.5 : 4.2, 0, 2 * Math.PI);
        painter.fillStyle = cssColour(colours.colour(point.z));
        painter.fill();
        painter.lineWidth = marked ? 3 : 1.4;
        painter.stroke();
      },
    });
    return { row: point.row, x: spot.x, y: spot.y };
  });
  for (const { paint } of all.sort((a, b) => a.near - b.near)) paint();
  return seen;
}

function stroke(painter: CanvasRenderingContext2D, from: Spot, to: Spot): void {
  painter.beginPath();
  painter.moveTo(from.x, from.y);
  painter.lineTo(to.x, to.y);
  painter.stroke();
}

/** Marks along an axis between the ends of a box: round numbers. */
function ticksOf([low, high]: readonly [number, number], most = 5): number[] {
  const step = roundStep((high - low) / most);
  const out: number[] = [];
  for (let v = Math.ceil(low / step - 1e-9) * step; v <= high + 1e-9 * step; v += step) out.push(v);
  return out;
}

const nameOf = ({ name, unit }: RunColumn): string => (unit ? `${name} (${unit})` : name);

/** The ground and the two walls behind, with numbers along the edges in front. */
function paintBox(
  painter: CanvasRenderingContext2D,
  at: (place: Place) => Spot,
  { ends, x, y, z }: ResponseSurface,
  { rise }: BoxView,
  tone: ChartTone,
): void {
  // The side on which a wall stands is the one that is farther away.
  const behind = (axis: 0 | 1): number => {
    const place = (side: number): Place => (axis === 0 ? [side, 0, 0] : [0, side, 0]);
    return at(place(1)).near < at(place(-1)).near ? 1 : -1;
  };
  const [bx, by] = [behind(0), behind(1)];
  painter.lineWidth = 1;
  painter.strokeStyle = tone.soft;
  const line = (a: Place, b: Place, alpha: number): void => {
    painter.globalAlpha = alpha;
    stroke(painter, at(a), at(b));
    painter.globalAlpha = 1;
  };
  for (const v of ticksOf(ends.x)) {
    const t = inBox(v, ends.x);
    line([t, -1, -1], [t, 1, -1], 0.25);
    line([t, by, -1], [t, by, 1], 0.25);
  }
  for (const v of ticksOf(ends.y)) {
    const t = inBox(v, ends.y);
    line([-1, t, -1], [1, t, -1], 0.25);
    line([bx, t, -1], [bx, t, 1], 0.25);
  }
  for (const v of ticksOf(ends.z)) {
    const t = inBox(v, ends.z);
    line([bx, -1, t], [bx, 1, t], 0.25);
    line([-1, by, t], [1, by, t], 0.25);
  }
  for (const side of [-1, 1]) {
    line([-1, side, -1], [1, side, -1], 0.8);
    line([side, -1, -1], [side, 1, -1], 0.8);
  }
  for (const corner of [
    [bx, by],
    [bx, -by],
    [-bx, by],
  ] as const)
    line([corner[0], corner[1], -1], [corner[0], corner[1], 1], 0.8);
  const middle = at([0, 0, -1]);
  const write = (text: string, place: Place, out: number, bold = false): void => {
    const spot = at(place);
    // Away from the middle of the ground.
    const [dx, dy] = [spot.x - middle.x, spot.y - middle.y];
    const length = Math.hypot(dx, dy) || 1;
    painter.font = `${bold ? 600 : 400} ${tone.letters}px ${tone.font}`;
    painter.fillStyle = bold ? tone.ink : tone.soft;
    painter.textAlign = 'center';
    painter.textBaseline = 'middle';
    painter.fillText(
      text,
      spot.x + (out * dx) / length,
      spot.y + (out * dy) / length + 0.4 * out * (rise / 90),
    );
  };
  const near = 1.5 * tone.letters;
  for (const v of ticksOf(ends.x)) write(sayNumber(v, 4), [inBox(v, ends.x), -by, -1], near);
  for (const v of ticksOf(ends.y)) write(sayNumber(v, 4), [-bx, inBox(v, ends.y), -1], near);
  write(nameOf(x), [0, -by, -1], 3.4 * tone.letters, true);
  write(nameOf(y), [-bx, 0, -1], 3.4 * tone.letters, true);
  // Heights stand along the edge of a wall that is farthest to the left.
  const edges: [number, number][] = [
    [bx, -by],
    [-bx, by],
  ];
  const [ex, ey] = edges.sort((a, b) => at([a[0], a[1], 0]).x - at([b[0], b[1], 0]).x)[0];
  painter.textBaseline = 'middle';
  for (const v of ticksOf(ends.z)) {
    const spot = at([ex, ey, inBox(v, ends.z)]);
    painter.font = `400 ${tone.letters}px ${tone.font}`;
    painter.fillStyle = tone.soft;
    painter.textAlign = 'right';
    painter.fillText(sayNumber(v, 4), spot.x - 8, spot.y);
  }
  const top = at([ex, ey, 1]);
  painter.font = `600 ${tone.letters}px ${tone.font}`;
  painter.fillStyle = tone.ink;
  painter.textAlign = 'left';
  painter.fillText(nameOf(z), Math.max(8, top.x - 40), top.y - 1.6 * tone.letters);
}

import { numberTexts, roundTicks } from '../../colour/ticks.ts';
import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { wholeNumber } from '../../model/bounded-number.ts';
import type { LineMark } from '../../model/mark.ts';
import type { Bounds } from '../../model/mesh.ts';
import { z } from '../../model/schema.ts';
import { convertUnit, unitsToShow } from '../../model/units.ts';
import { subtract, type Vector } from '../../model/vectors.ts';
import { cameraAxes } from '../camera.ts';
import type { Camera } from '../things/lens.ts';
import type { AnnotationKind, AnnotationSetting } from './annotation.ts';
import type { Shape, Spot } from './drawing.ts';
import {
  type Lettering,
  letteringControls,
  letteringSchema,
  letteringSuffixes,
  lettersOf,
  plainLettering,
  weightOf,
} from './lettering-options.ts';

export interface Ruler extends Lettering {
  /** Lines across the sides that lie behind. */
  grid: boolean;
  /** About how many ticks the longest axis has. */
  count: number;
  /** What the axes are called, by spaces. */
  names: string;
  /** Unit of the numbers; null for that of the run. */
  unit: string | null;
}

const p = phrasesOf<Ruler>();
const lettering: Lettering = { ...plainLettering, size: 2 };
const plain: Ruler = { grid: true, count: 6, names: 'x y z', unit: null, ...lettering };

/** Ticks of one axis, and what they say. */
interface Axis {
  at: number[];
  says: string[];
}

/** An axis shorter than this share of the longest has no room for ticks of its own. */
const SHORT = 0.02;

/** Round numbers on each axis within what is shown, at one distance for all three. */
export function rulerTicks(
  bounds: Bounds,
  { count, unit }: Pick<Ruler, 'count' | 'unit'>,
  stored: string | null,
): Axis[] {
  const factor = unit && stored ? (convertUnit(1, stored, unit) ?? 1) : 1;
  const inUnit = bounds.map((v) => v * factor);
  const spans = [0, 1, 2].map((k) => inUnit[2 * k + 1] - inUnit[2 * k]);
  const longest = Math.max(...spans) || 1;
  const [one, next] = roundTicks(0, longest, count);
  const step = next - one;
  return spans.map((span, k): Axis => {
    if (span < SHORT * longest) return { at: [], says: [] };
    const [low, high] = [inUnit[2 * k], inUnit[2 * k + 1]];
    const first = Math.ceil(low / step - 1e-9);
    const shared = Array.from({ length: Math.floor(high / step + 1e-9) - first + 1 }, (_, i) =>
      Number(((first + i) * step).toPrecision(12)),
    );
    // A short axis has its own, rather than none.
    const own = [2, 3, 4, 5].map((n) => roundTicks(low, high, n)).find((ticks) => ticks.length > 1);
    const values = shared.length > 1 ? shared : (own ?? shared);
    return { at: values.map((v) => v / factor), says: numberTexts(values) };
  });
}

/** For each axis which end of it lies behind, seen from the camera: 0 the low one, 1 the high one. */
function behindOf(camera: Camera, bounds: Bounds): [number, number, number] {
  const middle: Vector = [0, 1, 2].map((k) => (bounds[2 * k] + bounds[2 * k + 1]) / 2) as Vector;
  const { back } = cameraAxes(camera);
  const to = camera.projection === 'perspective' ? subtract(camera.position, middle) : back;
  return to.map((v) => (v > 0 ? 0 : 1)) as [number, number, number];
}

/** An edge of the box: along which axis, and at which ends of the two others. */
interface Edge {
  axis: number;
  ends: [number, number];
}

const others = (axis: number): [number, number] => [(axis + 1) % 3, (axis + 2) % 3];

const placeOn = ({ axis, ends }: Edge, bounds: Bounds, at: number): Vector => {
  const place: Vector = [0, 0, 0];
  place[axis] = at;
  for (const [i, k] of others(axis).entries()) place[k] = bounds[2 * k + ends[i]];
  return place;
};

/**
 * The edge that carries the numbers of an axis: one between a side that is seen and one that is not, so that it runs
 * along the outline; of the two the one further down, for what stands upright on the picture the one further left.
 */
function numberedEdge(
  axis: number,
  behind: readonly number[],
  bounds: Bounds,
  s: Pick<AnnotationSetting, 'project'>,
): { edge: Edge; from: Spot; to: Spot } | null {
  const [a, b] = others(axis);
  const outline: Edge[] = [
    { axis, ends: [behind[a], 1 - behind[b]] },
    { axis, ends: [1 - behind[a], behind[b]] },
  ];
  const seen = outline.flatMap((edge) => {
    const [from, to] = [0, 1].map((e) => s.project(placeOn(edge, bounds, bounds[2 * axis + e])));
    return from && to ? [{ edge, from: [from.x, from.y] as Spot, to: [to.x, to.y] as Spot }] : [];
  });
  const score = ({ from, to }: { from: Spot; to: Spot }): number =>
    Math.abs(to[1] - from[1]) > 1.5 * Math.abs(to[0] - from[0]) ? -(from[0] + to[0]) : from[1] + to[1];
  return seen.sort((x, y) => score(y) - score(x))[0] ?? null;
}

/** Rulers along the box of what is shown, with a grid on its far sides. */
export const ruler: AnnotationKind<Ruler, 'ruler'> = {
  id: 'ruler',
  name: 'the rulers',
  offered: 'Rulers and grid',
  purpose: 'coordinates along the box around what is shown',
  schema: z.object({
    grid: z.boolean(),
    count: wholeNumber().min(2).max(40),
    names: z.string().max(60),
    unit: z.string().max(40).nullable(),
    ...letteringSchema,
  }),
  plain,
  defaults: () => plain,
  opening: 'Rulers ',
  phrase: p.styled(
    ({ grid }) => [words(grid ? 'Rulers and grid' : 'Rulers')],
    p.row(
      p.oneOf(
        p.row(p.text('with grid'), p.fixed('grid', true)),
        p.row(p.text('without grid'), p.fixed('grid', false)),
      ),
      p.suffixes(
        {
          usual: { count: plain.count },
          phrase: p.row(p.text('about '), p.number('count'), p.text(' ticks')),
        },
        { usual: { names: plain.names }, phrase: p.row(p.text('called '), p.quoted('names')) },
        { usual: { unit: null }, phrase: p.row(p.text('said in '), p.quoted('unit')) },
        ...letteringSuffixes<Ruler>(lettering),
      ),
    ),
  ),
  controls: [
    { kind: 'tick', key: 'grid', label: 'Grid' },
    { kind: 'number', key: 'count', label: 'Ticks', whole: true, range: () => [2, 20] },
    { kind: 'words', key: 'names', label: 'Called', hint: 'x y z' },
    {
      kind: 'word',
      key: 'unit',
      label: 'Said in',
      words: ({ lengthUnit }) => (lengthUnit ? unitsToShow(lengthUnit) : []),
      usual: ({ lengthUnit }) => lengthUnit ?? '',
      when: (_, { lengthUnit }) => lengthUnit !== null,
    },
    ...letteringControls<Ruler>().filter((c) => c.key !== 'ground'),
  ],
  stand(o, { scene, run, bounds, tone }) {
    const behind = behindOf(scene.camera, bounds);
    const ticks = o.grid ? rulerTicks(bounds, o, run.lengthUnit) : null;
    const points: number[] = [];
    const line = (a: Vector, b: Vector): void => {
      points.push(...a.map((v, k) => v - run.origin[k]), ...b.map((v, k) => v - run.origin[k]));
    };
    const spans = [0, 1, 2].map((k) => bounds[2 * k + 1] - bounds[2 * k]);
    for (let normal = 0; normal < 3; normal++) {
      const sides = others(normal);
      if (sides.some((k) => spans[k] === 0)) continue;
      for (const [i, k] of sides.entries()) {
        const other = sides[1 - i];
        const at = (v: number, w: number): Vector => {
          const place: Vector = [0, 0, 0];
          place[normal] = bounds[2 * normal + behind[normal]];
          place[k] = v;
          place[other] = w;
          return place;
        };
        const [low, high] = [bounds[2 * other], bounds[2 * other + 1]];
        for (const v of [bounds[2 * k], bounds[2 * k + 1], ...(ticks?.[k].at ?? [])])
          line(at(v, low), at(v, high));
      }
    }
    const mark: LineMark = {
      kind: 'line',
      positions: Float32Array.from(points),
      segments: Uint32Array.from({ length: points.length / 3 }, (_, i) => i),
    };
    return { marks: [mark], colour: o.ink ?? tone.ink, opacity: 0.35, picture: null };
  },
  layout(o, s) {
    const { bounds } = s;
    const behind = behindOf(s.scene.camera, bounds);
    const ticks = rulerTicks(bounds, o, s.run.lengthUnit);
    const names = o.names.trim().split(/\s+/);
    // Where the run states no unit, none is claimed.
    const unit = s.run.lengthUnit && (o.unit ?? s.run.lengthUnit);
    const size = o.size * s.unit;
    const look = { weight: weightOf(o), letters: lettersOf(o), ink: o.ink, halo: true } as const;
    const middle = s.project([0, 1, 2].map((k) => (bounds[2 * k] + bounds[2 * k + 1]) / 2) as Vector);
    if (!middle) return null;
    const shapes: Shape[] = [];
    for (const [axis, { at, says }] of ticks.entries()) {
      const found = at.length > 0 ? numberedEdge(axis, behind, bounds, s) : null;
      if (!found) continue;
      const { edge, from, to } = found;
      const way = Math.hypot(to[0] - from[0], to[1] - from[1]);
      if (way < 4 * size) continue;
      // Away from the middle of the box.
      let out: Spot = [(to[1] - from[1]) / way, (from[0] - to[0]) / way];
      const half: Spot = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
      if (dot2(out, [half[0] - middle.x, half[1] - middle.y]) < 0) out = [-out[0], -out[1]];
      const tick = 0.5 * size;
      let last: { x: number; y: number; width: number } | null = null;
      let widest = 0;
      for (const [i, v] of at.entries()) {
        const spot = s.project(placeOn(edge, bounds, v));
        if (!spot) continue;
        const width = s.measure(says[i], size, look.weight, look.letters);
        const reach = tick + 0.35 * size + (Math.abs(out[0]) * width + Math.abs(out[1]) * size) / 2;
        const [x, y] = [spot.x + reach * out[0], spot.y + reach * out[1]];
        shapes.push({
          kind: 'line',
          spots: [
            [spot.x, spot.y],
            [spot.x + tick * out[0], spot.y + tick * out[1]],
          ],
          width: 0.14 * s.unit,
          ink: o.ink,
          halo: false,
        });
        // Numbers that would run into each other are left out, not their ticks.
        if (
          last &&
          Math.abs(x - last.x) < (width + last.width) / 2 + 0.4 * size &&
          Math.abs(y - last.y) < 1.2 * size
        )
          continue;
        last = { x, y, width };
        widest = Math.max(widest, Math.abs(out[0]) * width + Math.abs(out[1]) * size);
        shapes.push({ kind: 'text', text: says[i], x, y, size, align: 'center', ...look });
      }
      const title = `${names[axis] ?? 'xyz'[axis]}${unit ? ` (${unit})` : ''}`;
      const width = s.measure(title, 1.1 * size, 600, look.letters);
      const reach =
        tick + 0.9 * size + widest + (Math.abs(out[0]) * width + Math.abs(out[1]) * 1.1 * size) / 2;
      shapes.push({
        kind: 'text',
        text: title,
        x: half[0] + reach * out[0],
        y: half[1] + reach * out[1],
        size: 1.1 * size,
        align: 'center',
        ...look,
        weight: 600,
      });
    }
    return { shapes, box: null };
  },
};

const dot2 = (a: Spot, b: Spot): number => a[0] * b[0] + a[1] * b[1];

import type { BodyToWrite, SceneToWrite } from '../formats/surfaces/scene-to-write.ts';
import type { Vector } from '../model/vectors.ts';

/** A body as it travels in a page: what no eye tells apart is left out. */
export interface LivingBody extends Omit<BodyToWrite, 'normals' | 'elements'> {
  /** Three a vertex; 32767 is one. */
  normals: Int16Array | null;
  elements: Uint16Array | Uint32Array;
}

/** What a living figure shows at a time: a step of its run, and where its section lies. */
export interface LivingMoment {
  /** Index of the step, and of the place of its section; null where that does not move. */
  step: number;
  place: number | null;
}

/** A figure of a report that its readers can turn: bodies with their values, at some steps and places of a section. */
export interface LivingFigure {
  /** Its steps are the moments, in their order. */
  scene: Omit<SceneToWrite, 'bodies'> & { bodies: LivingBody[] };
  /** What the steps are called, in their order; one where it stands still. */
  steps: string[];
  /** Where its section may lie, such as `z = 0.4 m`, in order; empty where there is none. */
  places: string[];
  moments: LivingMoment[];
  /** Index of the moment that its picture shows. */
  shown: number;
  /** Where the camera turns about, in the coordinates of the scene. */
  target: Vector;
  /** How far the middle of the picture lies from the axis of the lens, to the right and upwards, in its heights. */
  shift: [number, number];
  /** Where the coordinates of the scene begin in those of the files, and their unit. */
  origin: Vector;
  lengthUnit: string | null;
  /** Whether its values are shaded a little, so that their shape is seen; not in even light. */
  shaded: boolean;
  /** Behind it, `#rrggbb`, and the colour of words there. */
  top: string;
  foot: string;
  ink: string;
  /** What it must say to be understood, such as by how much its shape is exaggerated. */
  stated: string[];
  /** What of its picture could not come along, in words. */
  notes: string[];
}

/** Normals as they travel. */
const ONE = 32767;

/** A body as it travels, without what the page works out itself. */
export function livingBody(body: BodyToWrite, { scales }: Pick<SceneToWrite, 'scales'>): LivingBody {
  const { positions, normals, elements, places, values } = body;
  const isNarrow = positions.length / 3 <= 0x10000;
  return {
    ...body,
    normals: normals && Int16Array.from(normals, (n) => Math.round(ONE * n)),
    elements: isNarrow ? Uint16Array.from(elements) : elements,
    // Where values are spaced evenly their places follow from them.
    places: values && scales[values.scale].line ? null : places,
  };
}

/**
 * Some of many, spread evenly: the first, the last and one that must be among them.
 *
 * @param count how many there are
 * @param most how many are taken at most, at least 3
 * @returns indices in order
 */
export function spreadOver(count: number, most: number, kept: number): number[] {
  if (count <= most) return Array.from({ length: count }, (_, i) => i);
  const even = Array.from({ length: most }, (_, i) => Math.round((i * (count - 1)) / (most - 1)));
  if (!even.includes(kept)) {
    // It takes the place of its nearest that is no end.
    const nearest = even.slice(1, -1).reduce((a, b) => (Math.abs(b - kept) < Math.abs(a - kept) ? b : a));
    even[even.indexOf(nearest)] = kept;
  }
  return even;
}

/** The same things in an order of which any beginning is spread over them: the ends, then the middles between. */
export function coarseToFine<T>(all: readonly T[]): T[] {
  if (all.length <= 2) return [...all];
  const order = [0, all.length - 1];
  const gaps: [number, number][] = [[0, all.length - 1]];
  for (let gap = gaps.shift(); gap; gap = gaps.shift()) {
    const [from, to] = gap;
    if (to - from < 2) continue;
    const middle = Math.floor((from + to) / 2);
    order.push(middle);
    gaps.push([from, middle], [middle, to]);
  }
  return order.map((i) => all[i]);
}

/**
 * What a figure shows beside its picture, the most wanted first: other steps, and other places of its section at the step of
 * its picture, by turns.
 *
 * @param steps, places indices in order, those of the picture among them; no places where no section moves
 */
export function momentsInOrder(
  steps: readonly number[],
  places: readonly number[],
  picture: LivingMoment,
): LivingMoment[] {
  const ofSteps = coarseToFine(steps.filter((s) => s !== picture.step)).map((step) => ({ ...picture, step }));
  const ofPlaces = coarseToFine(places.filter((p) => p !== picture.place)).map((place) => ({
    ...picture,
    place,
  }));
  const out: LivingMoment[] = [];
  for (let i = 0; i < Math.max(ofSteps.length, ofPlaces.length); i++)
    out.push(...ofSteps.slice(i, i + 1), ...ofPlaces.slice(i, i + 1));
  return out;
}

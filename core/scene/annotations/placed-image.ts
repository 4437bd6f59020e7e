import { type Phrase, phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber, wholeNumber } from '../../model/bounded-number.ts';
import type { SurfaceMark } from '../../model/mark.ts';
import { z } from '../../model/schema.ts';
import type { Vector } from '../../model/vectors.ts';
import type { AnnotationKind } from './annotation.ts';
import { imageSchema } from './image-source.ts';

export interface PlacedImage {
  image: string;
  /** Its width and height, in its own pixels. */
  pixels: [number, number];
  /**
   * The six numbers of a world file, in its order: what a column adds to x and y, what a row adds to x and y, and where
   * the middle of the first pixel lies.
   */
  world: [number, number, number, number, number, number];
  /** The axis it looks along; x and y of the world file are then the other two. */
  along: 'x' | 'y' | 'z';
  /** Where on that axis it lies. */
  at: number;
  opacity: number;
}

const p = phrasesOf<PlacedImage>();
const plain: PlacedImage = {
  image: '',
  pixels: [1, 1],
  world: [1, 0, 0, -1, 0, 0],
  along: 'z',
  at: 0,
  opacity: 1,
};

/** Its first and second axis, by that along which it looks. */
const axesOf = { x: [1, 2, 0], y: [0, 2, 1], z: [0, 1, 2] } as const;

/** Where a place of the picture lies, columns and rows counted from the middle of the first pixel. */
export function worldPlace(
  [a, d, b, e, c, f]: PlacedImage['world'],
  column: number,
  row: number,
): [number, number] {
  return [a * column + b * row + c, d * column + e * row + f];
}

/** Its four corners from the lower left around, in the coordinates of the files. */
export function cornersOf({ world, pixels: [w, h], along, at }: PlacedImage): Vector[] {
  const [first, second, third] = axesOf[along];
  return (
    [
      [-0.5, h - 0.5],
      [w - 0.5, h - 0.5],
      [w - 0.5, -0.5],
      [-0.5, -0.5],
    ] as const
  ).map(([column, row]) => {
    const [u, v] = worldPlace(world, column, row);
    const place: Vector = [0, 0, 0];
    place[first] = u;
    place[second] = v;
    place[third] = at;
    return place;
  });
}

/**
 * The numbers of a world file.
 *
 * @throws Error saying what is wrong and what to do
 */
export function readWorldFile(text: string): PlacedImage['world'] {
  const numbers = text.trim().split(/\s+/).map(Number);
  if (numbers.length !== 6 || !numbers.every(Number.isFinite))
    throw new Error(
      `A world file holds six numbers, one a line; this one has ${numbers.filter(Number.isFinite).length}. Choose the file that came with the picture (.pgw, .jgw, .tfw or .wld).`,
    );
  const [a, d, b, e] = numbers;
  if (Math.abs(a * e - b * d) < 1e-300)
    throw new Error(
      'The picture of this world file has no area: its columns and rows run the same way. Choose another.',
    );
  return numbers as PlacedImage['world'];
}

/** A map or photograph that lies in the coordinates of the run. */
export const placedImage: AnnotationKind<PlacedImage, 'placed-image'> = {
  id: 'placed-image',
  name: 'the placed picture',
  offered: 'Picture in coordinates',
  purpose: 'a map or photograph that lies where its world file says',
  schema: z.object({
    image: imageSchema,
    pixels: z.tuple([wholeNumber().min(1).max(100_000), wholeNumber().min(1).max(100_000)]),
    world: z.tuple([
      boundedNumber(),
      boundedNumber(),
      boundedNumber(),
      boundedNumber(),
      boundedNumber(),
      boundedNumber(),
    ]),
    along: z.enum(['x', 'y', 'z']),
    at: boundedNumber(),
    opacity: boundedNumber().min(0).max(1),
  }),
  plain,
  defaults: ({ bounds }) => ({ ...plain, at: bounds[4], ...fitted([1, 1], bounds) }),
  opening: 'Picture in coordinates ',
  phrase: p.styled(
    ({ image, along }) => [
      words(image === '' ? 'Picture in coordinates, none yet' : `Picture across ${along}`),
    ],
    p.row(
      p.quoted('image'),
      p.text(' of '),
      sayNumbers('pixels', 2),
      p.text(' pixels, world '),
      sayNumbers('world', 6),
      p.text(' across '),
      p.choice('along', [
        { text: 'x', value: 'x' },
        { text: 'y', value: 'y' },
        { text: 'z', value: 'z' },
      ]),
      p.text(' = '),
      p.number('at', 'length'),
      p.suffixes({ usual: { opacity: 1 }, phrase: p.row(p.share('opacity'), p.text(' opaque')) }),
    ),
  ),
  controls: [
    { kind: 'image', key: 'image', label: 'Picture', placed: true },
    {
      kind: 'choice',
      key: 'along',
      label: 'Across',
      choices: ['x', 'y', 'z'].map((value) => ({ value, label: value })),
    },
    { kind: 'number', key: 'at', label: 'Where', unit: 'length' },
    { kind: 'share', key: 'opacity', label: 'Opaque' },
  ],
  pictures: ({ image }) => [image],
  stand(o, { run }) {
    if (o.image === '' || o.opacity === 0) return null;
    const corners = cornersOf(o).map((c) => c.map((v, k) => v - run.origin[k]));
    const normal = [0, 1, 2].map((k) => Number('xyz'[k] === o.along));
    const mark: SurfaceMark = {
      kind: 'surface',
      positions: Float32Array.from(corners.flat()),
      normals: Float32Array.from([normal, normal, normal, normal].flat()),
      triangles: Uint32Array.of(0, 1, 2, 0, 2, 3),
      cells: Uint32Array.of(0, 0),
      edges: new Uint32Array(0),
      shades: null,
    };
    return { marks: [mark], colour: '#ffffff', opacity: o.opacity, picture: o.image };
  },
};

/** A picture without a world file lies over what is shown, as large as that is. */
export function fitted(
  [w, h]: readonly [number, number],
  bounds: readonly number[],
  along: 'x' | 'y' | 'z' = 'z',
): Pick<PlacedImage, 'world'> {
  const [first, second] = axesOf[along];
  const span = (k: number): number => bounds[2 * k + 1] - bounds[2 * k];
  const middle = (k: number): number => (bounds[2 * k + 1] + bounds[2 * k]) / 2;
  const size = Math.max(span(first) / w, span(second) / h) || 1;
  return {
    world: [size, 0, 0, -size, middle(first) - (size * (w - 1)) / 2, middle(second) + (size * (h - 1)) / 2],
  };
}

/** So many numbers one after the other. */
function sayNumbers(key: 'pixels' | 'world', count: number): Phrase<PlacedImage> {
  return {
    say: (o) => [words(o[key].join(' '))],
    read(reader, into) {
      const out: number[] = [];
      for (let i = 0; i < count; i++) {
        const v = reader.number(null);
        if (v === undefined) return false;
        out.push(v);
      }
      Object.assign(into, { [key]: out });
      return true;
    },
  };
}

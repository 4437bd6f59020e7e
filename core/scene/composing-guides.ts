/** A line from place to place on the picture, in shares of its width and height from the top left. */
export type GuideLine = [x0: number, y0: number, x1: number, y1: number];

/** Lines that help to compose a picture. */
export interface ComposingGuide {
  id: string;
  name: string;
  /** Within a sentence. */
  said: string;
  /** @param aspect width over height of the picture */
  lines(aspect: number): GuideLine[];
}

const across = (y: number): GuideLine => [0, y, 1, y];
const down = (x: number): GuideLine => [x, 0, x, 1];
const grid = (...shares: number[]): GuideLine[] => shares.flatMap((s) => [across(s), down(s)]);

/** The smaller part of a line that is cut so that the smaller is to the larger as this is to all of it. */
const GOLDEN = (3 - Math.sqrt(5)) / 2;

/**
 * From one corner to another, and from the other two at right angles onto that line. Where they meet, the larger and the
 * smaller triangles have one shape.
 */
function triangles(aspect: number): GuideLine[] {
  const share = aspect ** 2 / (aspect ** 2 + 1);
  return [
    [0, 1, 1, 0],
    [0, 0, 1 - share, share],
    [1, 1, share, 1 - share],
  ];
}

export const composingGuides: readonly ComposingGuide[] = [
  { id: 'thirds', name: 'Thirds', said: 'lines at its thirds', lines: () => grid(1 / 3, 2 / 3) },
  {
    id: 'golden',
    name: 'Golden section',
    said: 'lines at its golden sections',
    lines: () => grid(GOLDEN, 1 - GOLDEN),
  },
  { id: 'middle', name: 'Middle', said: 'lines through its middle', lines: () => grid(0.5) },
  {
    id: 'diagonals',
    name: 'Diagonals',
    said: 'its diagonals',
    lines: () => [
      [0, 0, 1, 1],
      [0, 1, 1, 0],
    ],
  },
  { id: 'triangles', name: 'Triangles', said: 'its triangles', lines: triangles },
  { id: 'net', name: 'Squares', said: 'a net of squares', lines: net },
];

/** Squares of a sixth of the shorter side, from the middle outwards. */
function net(aspect: number): GuideLine[] {
  const side = Math.min(1, aspect) / 6;
  const lines: GuideLine[] = [];
  for (let i = -Math.floor(0.5 / side); i <= 0.5 / side; i++) lines.push(across(0.5 + i * side));
  for (let i = -Math.floor((0.5 * aspect) / side); i <= (0.5 * aspect) / side; i++)
    lines.push(down(0.5 + (i * side) / aspect));
  return lines.filter(([x, y]) => x < 1 - 1e-9 && y < 1 - 1e-9 && (x > 1e-9 || y > 1e-9));
}

/** What is sure to be seen, as the share kept free at each side: of all that moves, and of all words (EBU R 95; from memory). */
export const SAFE_MARGINS = { motion: 0.035, words: 0.05 };

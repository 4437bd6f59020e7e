import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { z } from '../../model/schema.ts';
import { add, cross, dot, subtract, times, unit, type Vector } from '../../model/vectors.ts';
import type { SceneThing } from './declaration.ts';

const DIRECTIONS = {
  '+x': [1, 0, 0],
  '-x': [-1, 0, 0],
  '+y': [0, 1, 0],
  '-y': [0, -1, 0],
  '+z': [0, 0, 1],
  '-z': [0, 0, -1],
} as const satisfies Record<string, Vector>;

type Direction = keyof typeof DIRECTIONS;

const directions = Object.keys(DIRECTIONS) as [Direction, ...Direction[]];

/** Which way is up in the coordinates of the files: the floor lies below, the lamp shines from above. */
export interface Upright {
  up: Direction;
}

export const upOf = ({ up }: Upright): Vector => [...DIRECTIONS[up]];

/** Right-handed axes of a world with this way up, the last being it; those of +z are x, y and z. */
export function worldAxes(up: Vector): [Vector, Vector, Vector] {
  const k = up.findIndex((v) => v !== 0);
  const first: Vector = [0, 1, 2].map((j) => (j === (k + 1) % 3 ? up[k] : 0)) as Vector;
  return [first, cross(up, first), up];
}

/** Two level axes of a world with any way up, which turn counterclockwise about it. */
export function levelAxes(up: Vector): [Vector, Vector] {
  const helper: Vector = Math.abs(up[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0];
  const across = unit(subtract(helper, times(up, dot(helper, up))));
  return [across, cross(up, across)];
}

/** A direction given for a world with +z up, in a world with another way up. */
export function inWorld([x, y, h]: Vector, up: Vector): Vector {
  const [a, b, c] = worldAxes(up);
  return add(add(times(a, x), times(b, y)), times(c, h));
}

/** The same direction, seen against the way up, after that has changed. */
const turnedAlong = (v: Vector, from: Vector, to: Vector): Vector => {
  const [a, b, c] = worldAxes(from);
  return inWorld([dot(v, a), dot(v, b), dot(v, c)], to);
};

const sign = (d: Direction): string => d.replace('-', '−');

const p = phrasesOf<Upright>();

export const upright: SceneThing<Upright, 'upright'> = {
  id: 'upright',
  name: 'what is up',
  line: 'lens',
  schema: z.object({ up: z.enum(directions) }),
  plain: { up: '+z' },
  defaults: () => ({ up: '+z' }),
  opening: 'Upright is ',
  silent: ({ up }) => up === '+z',
  phrase: p.styled(
    ({ up }) => [words(', '), { text: `${sign(up)} up`, control: { kind: 'setting', thing: 'upright' } }],
    p.choice(
      'up',
      directions.map((d) => ({ text: d, value: d })),
    ),
  ),
  controls: [
    {
      kind: 'choice',
      key: 'up',
      label: 'Up is',
      choices: directions.map((d) => ({ value: d, label: sign(d) })),
    },
  ],
  // Whoever looks aslant from above goes on doing so.
  takesAlong: ({ up }, scene) => {
    const { camera } = scene;
    const [from, to] = [upOf(scene.upright), upOf({ up })];
    const arm = turnedAlong(subtract(camera.position, camera.target), from, to);
    return {
      camera: { ...camera, position: add(camera.target, arm), up: turnedAlong(camera.up, from, to) },
    };
  },
};

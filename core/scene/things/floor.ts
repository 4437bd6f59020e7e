import { roundTicks } from '../../colour/ticks.ts';
import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { boundsDiagonal } from '../../model/mesh.ts';
import { z } from '../../model/schema.ts';
import { colourSchema } from './colour-code.ts';
import type { SceneThing } from './declaration.ts';

export interface Floor {
  /** What is seen of it: nothing, the shadow alone, what it mirrors as well, or a floor of its own colours. */
  kind: 'none' | 'shadow' | 'mirror' | 'plain' | 'tiles';
  /** Where it lies above the lowest place of the model, in the unit of the model. */
  height: number;
  /** `#rrggbb`: of a plain floor; of tiles by turns. */
  colour: string;
  second: string;
  /** Length of the edge of a tile, in the unit of the model. */
  edge: number;
  /** Share of the light straight on that it mirrors, 0..1; at a flat angle all of it. */
  mirrors: number;
  /** How far what it mirrors is blurred, 0..1: the more, the higher it stands above the floor. */
  roughness: number;
}

const plain: Floor = {
  kind: 'shadow',
  height: 0,
  colour: '#c9c3b8',
  second: '#b7b0a4',
  edge: 0.3,
  mirrors: 0,
  roughness: 0.2,
};

/** How a floor that mirrors begins. */
const MIRROR = 0.3;

const called: Record<Floor['kind'], string> = {
  none: 'no floor',
  shadow: 'only shadow on the floor',
  mirror: 'a floor that mirrors',
  plain: 'a plain floor',
  tiles: 'a floor of tiles',
};

const kinds = Object.keys(called) as Floor['kind'][];

const isThere = ({ kind }: Floor): boolean => kind !== 'none';
const isSeen = ({ kind }: Floor): boolean => kind !== 'none' && kind !== 'shadow';
const hasColour = ({ kind }: Floor): boolean => kind === 'plain' || kind === 'tiles';
const isTiled = ({ kind }: Floor): boolean => kind === 'tiles';

/** Whether what stands on it is seen in it. */
export const isMirroring = (floor: Floor): boolean => isSeen(floor) && floor.mirrors > 0;

const p = phrasesOf<Floor>();

export const floor: SceneThing<Floor, 'floor'> = {
  id: 'floor',
  name: 'the floor',
  line: 'light',
  style: {
    // The edge of tiles is that of the scene, unless it is said.
    usual: (({ edge: _, ...level }) => level)(plain),
    keep: (floor, size) => ({ ...floor, height: floor.height / size, edge: floor.edge / size }),
    wear: ({ height = 0, edge, ...kept }, now, size) => ({
      ...now,
      ...kept,
      height: height * size,
      // Tiles of a round length, in whatever unit the model has.
      edge: edge === undefined ? now.edge : Number((edge * size).toPrecision(2)),
    }),
  },
  schema: z.object({
    kind: z.enum(['none', 'shadow', 'mirror', 'plain', 'tiles']),
    height: boundedNumber(),
    colour: colourSchema,
    second: colourSchema,
    edge: boundedNumber().min(1e-12),
    mirrors: boundedNumber().min(0).max(1),
    roughness: boundedNumber().min(0).max(1),
  }),
  plain,
  defaults({ dimension, bounds }) {
    const [, edge = 1] = roundTicks(0, boundsDiagonal(bounds) || 1, 8);
    return { ...plain, edge, kind: dimension === 2 ? 'none' : 'shadow' };
  },
  opening: 'Floor ',
  phrase: p.styled(
    ({ kind }) => [words(', '), { text: called[kind], control: { kind: 'setting', thing: 'floor' } }],
    p.row(
      p.choice(
        'kind',
        kinds.map((kind) => ({ text: kind, value: kind })),
      ),
      p.suffixes(
        { usual: { height: 0 }, phrase: p.row(p.text('raised by '), p.number('height', 'length')) },
        { usual: { colour: plain.colour }, phrase: p.row(p.text('coloured '), p.colour('colour')) },
        { usual: { second: plain.second }, phrase: p.row(p.text('and '), p.colour('second')) },
        { usual: {}, phrase: p.row(p.text('tiles of '), p.number('edge', 'length')) },
        { usual: { mirrors: 0 }, phrase: p.row(p.text('mirrors '), p.share('mirrors')) },
        { usual: { roughness: plain.roughness }, phrase: p.row(p.text('rough '), p.share('roughness')) },
      ),
    ),
  ),
  controls: [
    {
      kind: 'choice',
      key: 'kind',
      label: 'Floor',
      choices: [
        { value: 'shadow', label: 'Its shadow alone', purpose: 'in the colour of the backdrop' },
        { value: 'mirror', label: 'Mirror', purpose: 'shadow, and what stands on it once more' },
        { value: 'plain', label: 'Plain', purpose: 'in a colour of its own' },
        { value: 'tiles', label: 'Tiles', purpose: 'in two colours by turns' },
        { value: 'none', label: 'None' },
      ],
      // What mirrors nothing is no mirror.
      also: (kind, _, { mirrors }) => (kind === 'mirror' && mirrors === 0 ? { mirrors: MIRROR } : {}),
    },
    {
      kind: 'number',
      key: 'height',
      label: 'Raised by',
      called: 'height',
      unit: 'length',
      range: (_, { bounds }) => [-0.5 * boundsDiagonal(bounds), 0.5 * boundsDiagonal(bounds)],
      when: isThere,
    },
    { kind: 'colour', key: 'colour', label: 'Colour', when: hasColour },
    { kind: 'colour', key: 'second', label: 'And by turns', called: 'second colour', when: isTiled },
    {
      kind: 'number',
      key: 'edge',
      label: 'Edge of a tile',
      unit: 'length',
      range: (_, { bounds }) => [0.01 * boundsDiagonal(bounds), 0.5 * boundsDiagonal(bounds)],
      when: isTiled,
    },
    { kind: 'share', key: 'mirrors', label: 'Mirrors', when: isSeen },
    { kind: 'share', key: 'roughness', label: 'Rough', when: isMirroring },
  ],
};

import { type Phrase, phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { type Enclosure, enclosurePhrase, enclosureSchema } from '../enclosure.ts';
import { isEven } from '../light-rigs/light-rig.ts';
import { own } from '../light-rigs/own.ts';
import { firstLamp, type PlacedLamp, placed, placedLightsSchema } from '../light-rigs/placed.ts';
import { lightRigById, lightRigs, rigOf } from '../light-rigs/registry.ts';
import type { SceneThing } from './declaration.ts';
import { wholeStyle } from './style.ts';

export interface Light {
  /** A light rig, by its id. */
  rig: string;
  /** Lights placed by hand, where the rig is of those. */
  lights: PlacedLamp[];
  /** The panorama that lights it, where the rig takes one. */
  panorama: Enclosure | null;
  /** Whether lights throw shadows. */
  shadow: boolean;
  /** Strength of shading in the corners and under bodies, 0..1. */
  contact: number;
  /** How far all of the rig is turned to the right, and its lights raised, in degrees. */
  turn: number;
  rise: number;
  /** Times as wide as the lights of the rig, times as strong, and the same of what shines from everywhere else. */
  softness: number;
  strength: number;
  fill: number;
  /** Added to the warmth of the lights, -1..1. */
  warmth: number;
  /** Whether colours of values have highlights; they never change their hue. */
  highlights: boolean;
}

const p = phrasesOf<Light>();

const plain: Light = {
  rig: 'studio',
  lights: [firstLamp],
  panorama: null,
  shadow: true,
  contact: 0.7,
  turn: 0,
  rise: 0,
  softness: 1,
  strength: 1,
  fill: 1,
  warmth: 0,
  highlights: true,
};

/** `lamp at -60° 45° wide 16° share 1 warm 0`, and more of them after `and`. */
const placedLightsPhrase: Phrase<Light> = {
  say: ({ lights }) => [
    words(
      lights.length === 0
        ? 'no lamp'
        : lights
            .map((l) => `lamp at ${l.turn}° ${l.rise}° wide ${l.wide}° share ${l.share} warm ${l.warmth}`)
            .join(' and '),
    ),
  ],
  read(reader, into) {
    const lights: PlacedLamp[] = [];
    if (!reader.words('no lamp'))
      do {
        if (!reader.words('lamp at')) return false;
        const turn = reader.number('°');
        const rise = reader.number('°');
        const wide = reader.words('wide') ? reader.number('°') : undefined;
        const share = reader.words('share') ? reader.number(null) : undefined;
        const warmth = reader.words('warm') ? reader.number(null) : undefined;
        if ([turn, rise, wide, share, warmth].includes(undefined)) return false;
        lights.push({ turn, rise, wide, share, warmth } as PlacedLamp);
      } while (reader.words('and'));
    const read = placedLightsSchema.safeParse(lights);
    if (!read.success) return reader.miss('lights within bounds');
    into.lights = read.data;
    return true;
  },
};

const shaded = ({ rig }: Pick<Light, 'rig'>): boolean => !isEven(lightRigById(rig));
const isOwn = ({ rig }: Pick<Light, 'rig'>): boolean => rig === own.id;
const isPlaced = ({ rig }: Pick<Light, 'rig'>): boolean => rig === placed.id;
const hasLights = (light: Pick<Light, 'rig' | 'lights'>): boolean => rigOf(light).lights.length > 0;

/** What is otherwise than the rig says, for a reader. */
function changesOf(light: Light): string[] {
  const { turn, rise, softness, strength, fill, warmth } = light;
  const ofLights = [
    warmth > 0.05 ? 'warm' : warmth < -0.05 ? 'cool' : '',
    softness > 1.2 ? 'softer' : softness < 0.8 ? 'harder' : '',
    strength > 1.1 ? 'stronger' : strength < 0.9 ? 'weaker' : '',
    rise !== 0 ? (rise > 0 ? 'from higher' : 'from lower') : '',
  ];
  const ofAll = [
    fill > 1.2 ? 'with lighter shade' : fill < 0.8 ? 'with deeper shade' : '',
    turn !== 0 ? `turned by ${Math.round(turn)}°` : '',
  ];
  // What there is none of is not otherwise.
  return [...(hasLights(light) ? ofLights : []), ...ofAll].filter(Boolean);
}

export const light: SceneThing<Light, 'light'> = {
  id: 'light',
  name: 'the light',
  line: 'light',
  style: wholeStyle(),
  version: 4,
  migrations: {
    1: (old) => ({ ...plain, ...old }),
    2: (old) => ({ ...old, panorama: null }),
    3: (old) => ({ ...old, lights: plain.lights }),
  },
  schema: z.object({
    rig: z.enum(lightRigs.map((r) => r.id)),
    lights: placedLightsSchema,
    panorama: enclosureSchema.nullable(),
    shadow: z.boolean(),
    contact: boundedNumber().min(0).max(1),
    turn: boundedNumber().min(-180).max(180),
    rise: boundedNumber().min(-90).max(90),
    softness: boundedNumber().min(0).max(4),
    strength: boundedNumber().min(0).max(4),
    fill: boundedNumber().min(0).max(4),
    warmth: boundedNumber().min(-1).max(1),
    highlights: z.boolean(),
  }),
  plain,
  defaults: ({ dimension }) =>
    dimension === 2 ? { ...plain, rig: 'even', shadow: false, contact: 0 } : plain,
  opening: 'Light ',
  phrase: p.styled(
    (light) => [
      { text: lightRigById(light.rig).name, control: { kind: 'setting', thing: 'light' } },
      words(
        shaded(light)
          ? changesOf(light)
              .map((c) => `, ${c}`)
              .join('')
          : '',
      ),
    ],
    p.row(
      p.choice(
        'rig',
        lightRigs.map(({ id }) => ({ text: id, value: id })),
      ),
      p.suffixes(
        {
          usual: { panorama: null },
          phrase: p.row(p.text('of '), enclosurePhrase<Light>('panorama')),
        },
        { usual: { lights: plain.lights }, phrase: placedLightsPhrase },
        { usual: { shadow: false }, phrase: p.row(p.text('shadow'), p.fixed('shadow', true)) },
        { usual: {}, phrase: p.row(p.text('shade '), p.share('contact')) },
        { usual: { turn: 0 }, phrase: p.row(p.text('turned by '), p.number('turn', 'angle')) },
        { usual: { rise: 0 }, phrase: p.row(p.text('raised by '), p.number('rise', 'angle')) },
        { usual: { softness: 1 }, phrase: p.row(p.text('softness '), p.share('softness')) },
        { usual: { strength: 1 }, phrase: p.row(p.text('strength '), p.share('strength')) },
        { usual: { fill: 1 }, phrase: p.row(p.text('fill '), p.share('fill')) },
        { usual: { warmth: 0 }, phrase: p.row(p.text('warmth '), p.share('warmth')) },
        {
          usual: { highlights: true },
          phrase: p.row(p.text('no highlights on values'), p.fixed('highlights', false)),
        },
      ),
    ),
  ),
  controls: [
    {
      kind: 'choice',
      key: 'rig',
      label: 'Light',
      choices: lightRigs.map(({ id, name, purpose }) => ({ value: id, label: name, purpose })),
      // Whoever turns to a lamp wants to see what it does.
      also: (rig, { dimension }) =>
        shaded({ rig: rig as string }) && dimension === 3 ? { shadow: true, contact: 0.7 } : {},
    },
    { kind: 'placed lights', key: 'lights', label: 'Lights', when: isPlaced },
    {
      kind: 'enclosure',
      of: 'panorama',
      key: 'panorama',
      label: 'Panorama',
      when: isOwn,
    },
    {
      kind: 'tick',
      key: 'shadow',
      label: 'Shadow of the lamp',
      when: hasLights,
    },
    { kind: 'tick', key: 'highlights', label: 'Highlights on values', when: shaded },
    { kind: 'share', key: 'contact', label: 'Shade in corners', when: shaded },
    {
      kind: 'number',
      key: 'turn',
      label: 'Turned by',
      called: 'turn',
      unit: 'angle',
      round: true,
      range: () => [-180, 180],
      when: shaded,
    },
    {
      kind: 'number',
      key: 'rise',
      label: 'Raised by',
      called: 'height',
      unit: 'angle',
      range: () => [-60, 60],
      when: hasLights,
    },
    { kind: 'number', key: 'softness', label: 'Softness', range: () => [0, 3], when: hasLights },
    { kind: 'number', key: 'strength', label: 'Strength', range: () => [0, 2], when: hasLights },
    { kind: 'number', key: 'fill', label: 'Fill', range: () => [0, 2], when: shaded },
    { kind: 'number', key: 'warmth', label: 'Warmth', range: () => [-1, 1], when: hasLights },
  ],
};

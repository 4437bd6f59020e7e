import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { lightRigById, lightRigs } from '../light-rigs/registry.ts';
import type { SceneThing } from './declaration.ts';

export interface Light {
  /** A light rig, by its id. */
  rig: string;
  /** Whether the lamp throws a shadow. */
  shadow: boolean;
  /** Strength of shading in the corners and under bodies, 0..1. */
  contact: number;
  floor: boolean;
}

const p = phrasesOf<Light>();

export const light: SceneThing<Light, 'light'> = {
  id: 'light',
  name: 'the light',
  line: 'light',
  schema: z.object({
    rig: z.enum(lightRigs.map((r) => r.id)),
    shadow: z.boolean(),
    contact: boundedNumber().min(0).max(1),
    floor: z.boolean(),
  }),
  plain: { rig: 'studio', shadow: true, contact: 0.7, floor: true },
  defaults: ({ dimension }) =>
    dimension === 2
      ? { rig: 'even', shadow: false, contact: 0, floor: false }
      : { rig: 'studio', shadow: true, contact: 0.7, floor: true },
  opening: 'Light ',
  phrase: p.styled(
    ({ rig, floor, shadow }) => [
      { text: lightRigById(rig).name, control: { kind: 'setting', thing: 'light' } },
      words(lightRigById(rig).key && floor && shadow ? ', shadow on the floor' : ''),
    ],
    p.row(
      p.choice(
        'rig',
        lightRigs.map(({ id }) => ({ text: id, value: id })),
      ),
      p.suffixes(
        { usual: { floor: false }, phrase: p.row(p.text('floor'), p.fixed('floor', true)) },
        { usual: { shadow: false }, phrase: p.row(p.text('shadow'), p.fixed('shadow', true)) },
        { usual: {}, phrase: p.row(p.text('shade '), p.share('contact')) },
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
        lightRigById(rig as string).key && dimension === 3 ? { floor: true, shadow: true, contact: 0.7 } : {},
    },
    { kind: 'tick', key: 'floor', label: 'Floor', when: ({ rig }) => lightRigById(rig).key !== null },
    {
      kind: 'tick',
      key: 'shadow',
      label: 'Shadow of the lamp',
      when: ({ rig }) => lightRigById(rig).key !== null,
    },
    {
      kind: 'share',
      key: 'contact',
      label: 'Shade in corners',
      when: ({ rig }) => lightRigById(rig).key !== null,
    },
  ],
};

import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { z } from '../../model/schema.ts';
import type { AnnotationKind } from './annotation.ts';
import { type Hook, hookSchema, plainHook } from './attachment.ts';
import type { Shape } from './drawing.ts';
import { hereOfHook, hookControls, hooked, hung, sayHooked, sayWhere, usualHook } from './hook-options.ts';
import {
  type Lettering,
  letteringControls,
  letteringSchema,
  lettersOf,
  plainLettering,
  weightOf,
} from './lettering-options.ts';

export interface Callout extends Lettering, Hook {
  /** Said in the key of callouts. */
  text: string;
}

const p = phrasesOf<Callout>();
const lettering: Lettering = { ...plainLettering, size: 2.2, weight: 'bold' };
const plain: Callout = { text: '', ...plainHook, ...lettering };

/** A number in a ring with a line to a place; numbers follow the order of the scene. */
export const callout: AnnotationKind<Callout, 'callout'> = {
  id: 'callout',
  name: 'the callout',
  offered: 'Numbered callout',
  purpose: 'a number in a ring; a key of callouts says what each stands for',
  counted: true,
  schema: z.object({ text: z.string().max(2000), ...hookSchema, ...letteringSchema }),
  plain,
  defaults: (setting) => ({ ...plain, ...usualHook(setting), text: 'what is to be seen here' }),
  opening: 'Callout ',
  phrase: p.styled(
    (o, s) => [words(`Callout at ${sayWhere(o, s)}${o.text ? `: “${o.text}”` : ''}`)],
    sayHooked<Callout>(lettering),
  ),
  controls: [
    { kind: 'template', key: 'text', label: 'In the key' },
    ...hookControls<Callout>(),
    ...letteringControls<Callout>(),
  ],
  ...hooked,
  here: (o, run) => hereOfHook(o, run, true),
  hang(o, s) {
    const at = hung('', o, s);
    if (!at) return null;
    const size = o.size * s.unit;
    const said = String(s.number);
    const radius = Math.max(0.95 * size, s.measure(said, size, weightOf(o), lettersOf(o)) / 2 + 0.45 * size);
    return {
      anchor: at.anchor,
      block: { shapes: balloon(said, o, radius, size, s.tone.plate), width: 2 * radius, height: 2 * radius },
      offset: o.aside,
      ink: o.ink,
      lineWidth: 0.22 * s.unit,
    };
  },
};

/** A number in a ring, about the top left of the ring. */
export function balloon(said: string, o: Lettering, radius: number, size: number, plate: string): Shape[] {
  return [
    { kind: 'disc', x: radius, y: radius, radius, fill: plate, rim: { ink: o.ink, width: 0.1 * size } },
    {
      kind: 'text',
      text: said,
      x: radius,
      y: radius,
      size,
      weight: weightOf(o),
      align: 'center',
      letters: lettersOf(o),
      ink: o.ink,
      halo: false,
    },
  ];
}

import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { usualFormat } from '../../language/template.ts';
import { z } from '../../model/schema.ts';
import type { AnnotationKind } from './annotation.ts';
import { type Hook, hookSchema, plainHook } from './attachment.ts';
import { hereOfHook, hookControls, hooked, hung, sayHooked, sayWhere, usualHook } from './hook-options.ts';
import {
  type Lettering,
  letteringControls,
  letteringSchema,
  plainLettering,
  textBlock,
} from './lettering-options.ts';

export interface Label extends Lettering, Hook {
  text: string;
}

const p = phrasesOf<Label>();
const lettering: Lettering = { ...plainLettering, size: 2.4, ground: 'plate' };
const plain: Label = { text: 'Label', ...plainHook, ...lettering };

/** Words with a line to what they tell of: a place, a part, a point or cell, the lowest or highest value. */
export const label: AnnotationKind<Label, 'label'> = {
  id: 'label',
  name: 'the label',
  offered: 'Label',
  purpose: 'words that point at a place, a part, a node, a cell, the lowest or highest value',
  schema: z.object({ text: z.string().max(2000), ...hookSchema, ...letteringSchema }),
  plain,
  defaults(setting) {
    const hook = usualHook(setting);
    const { preferred } = setting;
    const text = preferred
      ? `highest ${preferred.name} {value:${usualFormat(Math.max(-preferred.low, preferred.high))}}${preferred.unit ? ` ${preferred.unit}` : ''}`
      : plain.text;
    return { ...plain, ...hook, text };
  },
  opening: 'Label ',
  phrase: p.styled(
    (o, s) => [words(`“${o.text.replaceAll('\n', ' / ')}” at ${sayWhere(o, s)}`)],
    sayHooked<Label>(lettering),
  ),
  controls: [
    { kind: 'template', key: 'text', label: 'Text', lines: true },
    ...hookControls<Label>(),
    ...letteringControls<Label>(),
  ],
  ...hooked,
  here: (o, run) => hereOfHook(o, run),
  hang(o, s) {
    const at = hung(o.text, o, s);
    if (!at) return null;
    return {
      anchor: at.anchor,
      block: textBlock(at.text, o, s, 'center'),
      offset: o.aside,
      ink: o.ink,
      lineWidth: 0.22 * s.unit,
    };
  },
};

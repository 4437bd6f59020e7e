import { type Phrase, phrasesOf, quantityByKey } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundsCentre } from '../../model/mesh.ts';
import { quantityName } from '../../model/quantity.ts';
import { fieldByKey, type RunDescription } from '../../model/run.ts';
import type { OperationSetting, OptionControl } from '../../ops/chain/operation.ts';
import type { AnnotationNeeds, AnnotationSetting, MoveSetting } from './annotation.ts';
import { attachmentOf, type Found, type Hook, plainHook, type WantedValue } from './attachment.ts';
import { type Lettering, letteringSuffixes } from './lettering-options.ts';
import { filledIn, templateNeeds } from './template.ts';
import type { Here } from './template-words.ts';

const p = phrasesOf<Hook>();

/** `node 12 of "tin"`, `highest temperature, on what is shown`. */
const sayHook = <O extends Hook>(): Phrase<O> => {
  const counted = (on: 'node' | 'cell'): Phrase<Hook> =>
    p.row(
      p.text(`${on} `),
      p.fixed('on', on),
      p.number('index'),
      p.text(' of '),
      p.quoted('part'),
      p.text(' showing '),
      p.quantity('field', 'component'),
    );
  const extreme = (on: 'lowest' | 'highest'): Phrase<Hook> =>
    p.row(
      p.text(`the ${on} `),
      p.fixed('on', on),
      p.quantity('field', 'component'),
      p.oneOf(
        p.row(p.text(' on what is drawn'), p.fixed('among', 'shown')),
        p.row(p.text(' anywhere'), p.fixed('among', 'all')),
        p.fixed('among', 'shown'),
      ),
    );
  return p.row(
    p.oneOf(
      p.row(p.text('place '), p.fixed('on', 'place'), p.vector('place', 'length')),
      counted('node'),
      counted('cell'),
      extreme('lowest'),
      extreme('highest'),
      p.row(p.text('part '), p.fixed('on', 'part'), p.quoted('part')),
    ),
    p.suffixes({ usual: { aside: null }, phrase: sayAside }),
  ) as unknown as Phrase<O>;
};

/** From where words hang to their middle. */
export const sayAside: Phrase<Pick<Hook, 'aside'>> = {
  say: ({ aside }) => (aside ? [words(`aside ${aside[0]} ${aside[1]}`)] : []),
  read(reader, into) {
    if (!reader.words('aside')) return false;
    const x = reader.number(null);
    const y = x === undefined ? undefined : reader.number(null);
    if (x === undefined || y === undefined) return false;
    into.aside = [x, y];
    return true;
  },
};

/** Where it hangs, to a reader. */
export function sayWhere(hook: Hook, setting: { quantities: OperationSetting['quantities'] }): string {
  const named = quantityByKey(hook.field, hook.component, setting);
  switch (hook.on) {
    case 'node':
    case 'cell':
      return `${hook.on} ${hook.index} of ${hook.part}`;
    case 'part':
      return hook.part;
    case 'lowest':
    case 'highest':
      return `the ${hook.on} ${named?.name ?? hook.field}`;
    default:
      return 'a place';
  }
}

/** What it hangs on to begin with: where what is looked at is highest, or the first part. */
export function usualHook({ preferred, bounds }: OperationSetting): Hook {
  return preferred
    ? { ...plainHook, on: 'highest', field: preferred.field, component: preferred.component }
    : { ...plainHook, place: boundsCentre(bounds) };
}

export const hookControls = <O extends Hook>(): OptionControl<O>[] =>
  [
    { kind: 'hook', key: 'on', label: 'Hangs on' },
    {
      kind: 'quantity',
      key: 'field',
      component: 'component',
      label: 'Quantity',
      when: ({ on }: Hook) => on !== 'place' && on !== 'part',
    },
    {
      kind: 'choice',
      key: 'among',
      label: 'Where',
      choices: [
        { value: 'all', label: 'anywhere, inside too' },
        { value: 'shown', label: 'on what is drawn' },
      ],
      when: ({ on }: Hook) => on === 'lowest' || on === 'highest',
    },
    { kind: 'place', key: 'place', label: 'Place', when: ({ on }: Hook) => on === 'place' },
  ] as OptionControl<O>[];

/** Keys of the fields, and names of the parts, that words on a hook ask a run for. */
const fieldsOfHook = ({ on, field }: Hook): string[] =>
  on === 'place' || on === 'part' || field === '' ? [] : [field];
const partsOfHook = ({ on, part }: Hook): string[] =>
  on === 'part' || on === 'node' || on === 'cell' ? [part] : [];

/** What a hook of this run leads to by itself. */
const wantedOf = (hook: Hook): WantedValue | null =>
  hook.on === 'place' || hook.on === 'part' || hook.field === ''
    ? null
    : { field: hook.field, component: hook.component };

/** The ranges a template tells, and every value it asks of the place it hangs on, the quantity of the hook first. */
function asked(
  text: string,
  hook: Hook,
  run: RunDescription,
  scene: AnnotationSetting['scene'],
): { ranges: string[]; gauges: string[]; values: WantedValue[] } {
  const { ranges, gauges, here } = templateNeeds(text, {
    run,
    scene,
    step: scene.step,
    here: hereOfHook(hook, run),
  });
  const own = wantedOf(hook);
  const all = [...(own ? [own] : []), ...here];
  const name = (w: WantedValue): string => `${w.field}#${w.component}`;
  const values = all.filter((w, i) => all.findIndex((o) => name(o) === name(w)) === i);
  return { ranges, gauges, values };
}

/** What words on a hook must know. */
function needsOfHook(
  text: string,
  hook: Hook,
  run: RunDescription,
  scene: AnnotationSetting['scene'],
): AnnotationNeeds {
  const { ranges, gauges, values } = asked(text, hook, run, scene);
  const attachment = attachmentOf(hook, values);
  return { ranges, gauges, attachments: attachment ? [attachment] : [] };
}

function hereAt(
  hook: Hook,
  found: Found | null,
  values: readonly WantedValue[],
  run: RunDescription,
  number: number | null,
): Here {
  const own = wantedOf(hook);
  const field = own && fieldByKey(run, own.field);
  const told = (wanted: WantedValue): number => {
    const at = values.findIndex((a) => a.field === wanted.field && a.component === wanted.component);
    return found?.values[at] ?? Number.NaN;
  };
  return {
    place: found?.place ?? null,
    part: found?.part ?? (hook.on === 'part' ? hook.part : null),
    index: found?.index ?? null,
    number,
    value: own && {
      says: field ? quantityName(field, own.component) : own.field,
      unit: field?.unit ?? null,
      wanted: own,
      read: () => told(own),
    },
    tell: told,
  };
}

/** What words on a hook may tell, before anything is known of it. */
export const hereOfHook = (hook: Hook, run: RunDescription, counted = false): Here =>
  hereAt(hook, null, [], run, counted ? 1 : null);

/** What all words on a hook have in common. */
export const hooked = {
  text: 'text',
  needs: fieldsOfHook,
  parts: partsOfHook,
  knows: (
    o: Hook & { text: string },
    run: RunDescription,
    scene: AnnotationSetting['scene'],
  ): AnnotationNeeds => needsOfHook(o.text, o, run, scene),
  moved: (_: Hook, by: { x: number; y: number }, s: MoveSetting): Pick<Hook, 'aside'> => movedAside(by, s),
} as const;

/** Words, what they hang on, and their letters, said in full. */
export const sayHooked = <O extends Hook & Lettering & { text: string }>(usual: Lettering): Phrase<O> => {
  const own = phrasesOf<O>();
  return own.row(
    own.quoted('text'),
    own.text(' on '),
    sayHook<O>(),
    own.suffixes(...letteringSuffixes<O>(usual)),
  );
};

/** Where a hook is on the picture now, and its words with their values; null where it is nowhere. */
export function hung(
  text: string,
  hook: Hook,
  s: AnnotationSetting,
): { anchor: { x: number; y: number }; text: string } | null {
  const { values } = asked(text, hook, s.run, s.scene);
  const attachment = attachmentOf(hook, values);
  const found: Found | null = attachment
    ? s.found(attachment)
    : { place: hook.place, part: '', index: null, values: [] };
  const anchor = found && s.project(found.place);
  if (!found || !anchor) return null;
  const here = hereAt(hook, found, values, s.run, s.number);
  return { anchor, text: filledIn(text, { ...s, here }) };
}

/** The words moved: where they stand is stated from now on. */
export function movedAside(
  by: { x: number; y: number },
  { box, anchor, height }: MoveSetting,
): Pick<Hook, 'aside'> {
  if (!anchor) return { aside: null };
  return {
    aside: [
      (box.x + by.x + box.width / 2 - anchor.x) / height,
      (box.y + by.y + box.height / 2 - anchor.y) / height,
    ],
  };
}

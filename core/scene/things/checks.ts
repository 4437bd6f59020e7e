import { phrasesOf } from '../../language/phrase.ts';
import { quote, words } from '../../language/sentence.ts';
import { sameJson } from '../../model/same-json.ts';
import { z } from '../../model/schema.ts';
import type { SceneThing } from './declaration.ts';

/** Something the preflight finds that is meant to be so. */
export interface Waiver {
  /** Id of the rule. */
  rule: string;
  /** Name of what it is about. */
  of: string;
  reason: string;
}

/** How pictures of a scene are checked before they leave the house. */
export interface Checks {
  /** How they are looked at. */
  seen: keyof typeof viewings;
  /** Words that stay in the house. */
  inHouse: string[];
  waived: Waiver[];
}

/**
 * Ways of looking at a picture: what it is on, how wide it is there and from how far it is seen, both in metres. A desk, a
 * meeting room and a page held in the hand: common practice, no source.
 */
export const viewings = {
  screen: { label: 'on a screen', width: 0.5, distance: 0.6 },
  room: { label: 'across a meeting room', width: 2, distance: 6 },
  paper: { label: 'on paper', width: 0.16, distance: 0.4 },
} as const;

const plain: Checks = { seen: 'screen', inHouse: [], waived: [] };
const p = phrasesOf<Checks>();
const short = z.string().min(1).max(300);

export const inHouseSchema = z.array(z.string().trim().min(1).max(200)).max(200);
export const waivedSchema = z
  .array(z.object({ rule: short, of: z.string().max(300), reason: short }))
  .max(500);

export const checks: SceneThing<Checks, 'checks'> = {
  id: 'checks',
  name: 'what is checked',
  line: null,
  schema: z.object({
    seen: z.enum(Object.keys(viewings) as [keyof typeof viewings]),
    inHouse: inHouseSchema,
    waived: waivedSchema,
  }),
  plain,
  defaults: () => plain,
  opening: 'Checked ',
  silent: (value) => sameJson(value, plain),
  phrase: p.row(
    p.choice(
      'seen',
      Object.entries(viewings).map(([value, { label }]) => ({ text: label, value })),
    ),
    {
      say: ({ inHouse, waived }) =>
        [
          ...inHouse.map((word) => `, ${quote(word)} stays in the house`),
          ...waived.map(
            ({ rule, of, reason }) => `, ${quote(rule)} of ${quote(of)} waived: ${quote(reason)}`,
          ),
        ].map(words),
      read(r, into) {
        into.inHouse = [];
        into.waived = [];
        while (r.words(',')) {
          const first = r.quoted();
          if (first === null) return r.miss('“a text”');
          if (r.words('stays in the house')) {
            into.inHouse.push(first);
            continue;
          }
          if (!r.words('of')) return r.miss('“of” or “stays in the house”');
          const of = r.quoted();
          const reason = of !== null && r.words('waived:') ? r.quoted() : null;
          if (of === null || reason === null) return r.miss('“waived: "why"”');
          into.waived.push({ rule: first, of, reason });
        }
        return true;
      },
    },
  ),
  controls: [
    {
      kind: 'choice',
      key: 'seen',
      label: 'Looked at',
      called: 'way of looking',
      choices: Object.entries(viewings).map(([value, { label }]) => ({ value, label })),
    },
  ],
};

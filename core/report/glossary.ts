import { literalPattern } from '../model/literal-pattern.ts';
import { z } from '../model/schema.ts';
import type { Reader } from './readers.ts';

const words = z.string().trim().min(1).max(200);

export const glossaryTermSchema = z.object({
  id: z.string().min(1).max(200),
  term: words,
  /** What those who do not know the term read in its place; empty to leave it and explain it. */
  plain: z.string().trim().max(200),
  meaning: z.string().trim().max(1000),
});

/** A word of the trade, what it is called in plain words, and what it means. */
export type GlossaryTerm = z.infer<typeof glossaryTermSchema>;

type Shipped = Omit<GlossaryTerm, 'id'>;

const shipped = (term: string, plain: string, meaning: string): Shipped => ({ term, plain, meaning });

/** Words that sentences of scenes are made of. Those of a report go before them. */
export const shippedTerms: readonly Shipped[] = [
  shipped('section', 'cut', 'What is seen where a body is cut through by a plane.'),
  shipped('clip', 'cut open', 'A body of which one side of a plane is taken away, to look inside.'),
  shipped(
    'isosurface',
    'surface of one value',
    'The surface on which a quantity has one and the same value.',
  ),
  shipped(
    'contour lines',
    'lines of equal value',
    'Lines along which a quantity has one and the same value.',
  ),
  shipped(
    'streamlines',
    'paths of the flow',
    'Lines that run along the flow everywhere, as it is at one moment.',
  ),
  shipped('path lines', 'paths of particles', 'The ways that particles take as time goes by.'),
  shipped(
    'von Mises stress',
    'load on the material',
    'One number for how hard a material is loaded, whatever the direction.',
  ),
  shipped('vorticity', 'whirl of the flow', 'How fast the flow turns about itself at a place.'),
  shipped(
    'wall shear stress',
    'rubbing of the flow on the wall',
    'The force with which a flow drags along a wall, for each unit of its area.',
  ),
  shipped(
    'displacement',
    'movement of the material',
    'How far each point of a body has moved from where it was.',
  ),
  shipped('velocity', 'speed and direction of the flow', 'How fast something moves, and where to.'),
  shipped('static pressure', 'pressure', 'The pressure that moves along with the flow would feel.'),
  shipped('heat flux', 'flow of heat', 'How much heat passes through each unit of area in a unit of time.'),
  shipped(
    'mesh',
    'grid of the computation',
    'The small cells that a body or a room is divided into to be computed.',
  ),
  shipped('steady', 'unchanging', 'A state that no longer changes with time.'),
  shipped('transient', 'changing with time', 'A course of events that is followed through time.'),
];

/** The terms of a report before those that ship; each once, longer ones before those they begin with. */
export function termsOf(own: readonly GlossaryTerm[]): Shipped[] {
  const known = new Set<string>();
  return [...own, ...shippedTerms]
    .filter(({ term }) => {
      const key = term.toLowerCase();
      return known.has(key) ? false : known.add(key);
    })
    .sort((a, b) => b.term.length - a.term.length);
}

/** What a text is searched with for some terms: whole words, whatever their case, and no parts of words with hyphens. */
const patternOf = (terms: readonly Shipped[]): RegExp =>
  new RegExp(
    `(?<![\\p{L}\\p{N}-])(${terms.map(({ term }) => literalPattern(term)).join('|')})(?![\\p{L}\\p{N}-])`,
    'giu',
  );

/** A text as a reader knows its words: lay readers read plain words in place of terms; numbers and units stay. */
export function inWordsOf(reader: Reader, text: string, own: readonly GlossaryTerm[]): string {
  if (reader !== 'lay') return text;
  const terms = termsOf(own).filter((t) => t.plain !== '');
  if (terms.length === 0) return text;
  const plain = new Map(terms.map((t) => [t.term.toLowerCase(), t.plain]));
  return text.replace(patternOf(terms), (found) => likeCase(plain.get(found.toLowerCase())!, found));
}

/** Begins with a capital where what it stands for does. */
const likeCase = (said: string, found: string): string =>
  found[0] !== found[0].toLowerCase() ? said[0].toUpperCase() + said.slice(1) : said;

/** The terms that stand in some texts, in the order of the alphabet. */
export function termsIn(texts: readonly string[], own: readonly GlossaryTerm[]): Shipped[] {
  const terms = termsOf(own);
  if (terms.length === 0) return [];
  const pattern = patternOf(terms);
  const found = new Set(texts.flatMap((text) => text.match(pattern) ?? []).map((t) => t.toLowerCase()));
  return terms
    .filter(({ term, meaning }) => meaning !== '' && found.has(term.toLowerCase()))
    .sort((a, b) => a.term.localeCompare(b.term, 'en'));
}

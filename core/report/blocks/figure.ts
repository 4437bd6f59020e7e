import { sayQuantity } from '../../language/sentence.ts';
import { z } from '../../model/schema.ts';
import type { SceneFacts } from '../facts.ts';
import {
  type BlockKind,
  blockBase,
  type Composing,
  idSchema,
  isMissing,
  seenFacts,
  sourceName,
  wordsByReader,
} from './block.ts';

const schema = z.object({
  ...blockBase,
  kind: z.literal('figure'),
  source: idSchema,
  /** Written by hand. */
  captions: wordsByReader,
  /** For those who cannot see it; null for the sentences of its scene. */
  alt: z.string().max(4000).nullable(),
  width: z.enum(['full', 'half']),
});

/** A picture of a shot or a scene, with a caption that says what is shown. */
export const figure: BlockKind<z.infer<typeof schema>> = {
  kind: 'figure',
  name: 'Figure',
  about: 'the picture of a shot or a scene',
  counted: { word: 'figure', as: 'Figure' },
  of: 'scene',
  schema,
  plain: (id, source) => ({
    id,
    kind: 'figure',
    readers: null,
    source,
    captions: {},
    alt: null,
    width: 'full',
  }),
  says: ({ source }, at) => sourceName(source, at),
  compose(block, at) {
    const seen = seenFacts(block, 'scene', at);
    if (isMissing(seen)) return seen;
    const { id, captions, width } = block;
    const { facts, key } = seen;
    const byHand = captions[at.reader];
    return {
      kind: 'figure',
      id,
      number: at.numberOf(id),
      caption: byHand === undefined ? [{ text: captionOf(facts, at) }] : at.words(byHand, id),
      alt: block.alt ?? at.told(facts.alt),
      picture: { key, aspect: facts.aspect },
      width,
    };
  },
};

/** What a figure says of itself: what is shown, and for those who want to know where its scales end. */
export function captionOf(facts: SceneFacts, at: Pick<Composing, 'reader' | 'template' | 'told'>): string {
  const said = [facts.captions[at.reader]];
  if (at.template.scales)
    for (const { name, low, high, unit } of facts.origin.scales)
      said.push(
        `${name[0].toUpperCase()}${name.slice(1)} from ${sayQuantity(low, null)} to ${sayQuantity(high, unit)}.`,
      );
  return at.told(said.join(' '));
}

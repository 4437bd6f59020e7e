import { sayQuantity } from '../../language/sentence.ts';
import { z } from '../../model/schema.ts';
import type { SceneFacts } from '../facts.ts';
import {
  type BlockKind,
  type Composing,
  captioned,
  captionedBase,
  isMissing,
  seenFacts,
  sourceName,
} from './block.ts';

const schema = z.object({
  ...captionedBase,
  kind: z.literal('figure'),
  /** For those who cannot see it; null for the sentences of its scene. */
  alt: z.string().max(4000).nullable(),
  width: z.enum(['full', 'half']),
  /** Whether readers of a page can turn it. */
  living: z.boolean().default(true),
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
    living: true,
  }),
  says: ({ source }, at) => sourceName(source, at),
  compose(block, at) {
    const seen = seenFacts(block, 'scene', at);
    if (isMissing(seen)) return seen;

    const { facts, key } = seen;
    return {
      kind: 'figure',
      ...captioned(block, captionWithScales(facts, at), at),
      alt: block.alt ?? at.told(facts.alt),
      picture: { key, aspect: facts.aspect },
      width: block.width,
      living: block.living,
    };
  },
};

/** What a figure says of itself: what is shown, and for those who want to know where its scales end. */
function captionWithScales(facts: SceneFacts, at: Pick<Composing, 'reader' | 'template'>): string {
  const said = [facts.captions[at.reader]];
  if (at.template.scales)
    for (const { name, low, high, unit } of facts.origin.scales)
      said.push(
        `${name[0].toUpperCase()}${name.slice(1)} from ${sayQuantity(low, null)} to ${sayQuantity(high, unit)}.`,
      );
  return said.join(' ');
}

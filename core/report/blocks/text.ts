import { z } from '../../model/schema.ts';
import { type BlockKind, blockBase } from './block.ts';

const schema = z.object({
  ...blockBase,
  kind: z.literal('text'),
  /** Markdown (CommonMark) with values in braces. */
  text: z.string().max(50_000),
});

export const text: BlockKind<z.infer<typeof schema>> = {
  kind: 'text',
  name: 'Text',
  about: 'paragraphs and lists, with numbers that stay true',
  counted: null,
  of: null,
  schema,
  plain: (id) => ({ id, kind: 'text', readers: null, text: '' }),
  says: (block) => block.text.trim().split('\n')[0] || 'Text',
  compose: (block, at) => ({ kind: 'text', id: block.id, paragraphs: at.paragraphs(block.text, block.id) }),
};

import { z } from '../../model/schema.ts';
import { sectionRoles } from '../template.ts';
import { type BlockKind, blockBase, missing } from './block.ts';

const schema = z.object({
  ...blockBase,
  kind: z.literal('heading'),
  text: z.string().max(300),
  level: z.union([z.literal(1), z.literal(2)]),
  /** What the section is for; of second-level headings it has no meaning. */
  role: z.enum(sectionRoles),
});

/** The first line of a section: a template puts sections in order by their roles. */
export const heading: BlockKind<z.infer<typeof schema>> = {
  kind: 'heading',
  name: 'Heading',
  about: 'begins a section',
  counted: null,
  of: null,
  schema,
  plain: (id) => ({ id, kind: 'heading', readers: null, text: 'New section', level: 1, role: 'results' }),
  says: ({ text }) => text,
  // It opens a section and stands in none.
  compose: ({ id }) => missing(id, ''),
};

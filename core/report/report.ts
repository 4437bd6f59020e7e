import { wholeNumber } from '../model/bounded-number.ts';
import type { DocumentForm } from '../model/document-changes.ts';
import { z } from '../model/schema.ts';
import { inHouseSchema, waivedSchema } from '../scene/things/checks.ts';
import { idSchema } from './blocks/block.ts';
import { type Block, blockSchema } from './blocks/registry.ts';
import { brandSchema, plainBrand } from './brand.ts';
import { glossaryTermSchema } from './glossary.ts';
import { shippedTemplates, templateSchema, USUAL_TEMPLATE } from './template.ts';

/** What a report can be linked to. */
export const sourceKinds = ['shot', 'scene', 'set'] as const;

const sourceSchema = z.object({
  id: idSchema,
  /** What texts of the report call it; no two are called alike. */
  name: z.string().trim().min(1).max(200),
  of: z.object({ kind: z.enum(sourceKinds), id: idSchema }),
  /** Another run than its own, by its id. */
  run: idSchema.nullable(),
  /** Key of what was seen of it last; null while it was never looked at. */
  seen: z.string().max(100).nullable(),
  /** Key of what was seen before, until somebody has looked at what has changed; null where nothing has. */
  before: z.string().max(100).nullable(),
});

/** A shot, a scene or a set of runs that a report tells of. */
export type ReportSource = z.infer<typeof sourceSchema>;

const line = z.string().max(300);

export const reportSchema = z.object({
  /** Also its title. */
  name: z.string().min(1).max(200),
  subtitle: line,
  author: line,
  /** As it is printed; empty for none. */
  date: line,
  template: templateSchema,
  sources: z.array(sourceSchema).max(1000),
  blocks: z.array(blockSchema).max(5000),
  glossary: z.array(glossaryTermSchema).max(1000),
  brand: brandSchema,
  /** Words that stay in the house, and what its preflight finds that is meant to be so. */
  checks: z.object({ inHouse: inHouseSchema, waived: waivedSchema }).default({ inHouse: [], waived: [] }),
  /** How pictures are drawn: pixels across, and passes of light. */
  pictures: z.object({
    width: wholeNumber().min(64).max(7680),
    passes: wholeNumber().min(1).max(4096),
  }),
});

/** A document that tells of scenes and runs, for one kind of reader at a time. */
export type Report = z.infer<typeof reportSchema>;

export const emptyReport = (name: string): Report => ({
  name,
  subtitle: '',
  author: '',
  date: '',
  template: shippedTemplates[USUAL_TEMPLATE],
  sources: [],
  blocks: [],
  glossary: [],
  brand: plainBrand,
  checks: { inHouse: [], waived: [] },
  pictures: { width: 1600, passes: 24 },
});

/** A source that is looked at: what it is linked to, and what of it is shown. */
export interface SourceToSee extends Pick<ReportSource, 'id' | 'of' | 'run'> {
  /** Whether its picture is shown, and whether that can be turned somewhere. */
  pictured: boolean;
  living: boolean;
}

/** The sources of a report with what it shows of them. */
export function sourcesToSee({ sources, blocks }: Pick<Report, 'sources' | 'blocks'>): SourceToSee[] {
  const figures = blocks.filter((b) => b.kind === 'figure');
  const pictured = new Set(figures.map((b) => b.source));
  const living = new Set(figures.filter((b) => b.living).map((b) => b.source));
  return sources.map(({ id, of, run }) => ({
    id,
    of,
    run,
    pictured: pictured.has(id),
    living: living.has(id),
  }));
}

/** How two that change a report at once are brought together; see `withDifferences`. */
export const reportForm: DocumentForm = {
  keyOfList: (name) => (['sources', 'blocks', 'glossary'].includes(name) ? 'id' : undefined),
  isRecord: (name) => ['template', 'brand', 'pictures', 'checks'].includes(name),
};

/** What a new report begins with, so that it can be filled and reordered. */
export function openingBlocks(freshId: () => string): Block[] {
  const heading = (text: string, role: Extract<Block, { kind: 'heading' }>['role']): Block => ({
    id: freshId(),
    kind: 'heading',
    readers: null,
    text,
    level: 1,
    role,
  });
  return [heading('Summary', 'summary'), heading('Results', 'results'), heading('Conclusion', 'conclusion')];
}

import { unusedName } from '../model/unused-name.ts';
import type { Block } from './blocks/registry.ts';
import { showsSource } from './blocks/registry.ts';
import type { Brand } from './brand.ts';
import type { GlossaryTerm } from './glossary.ts';
import { withSourceRenamed } from './live-words.ts';
import type { Report, ReportSource } from './report.ts';
import type { ReportTemplate } from './template.ts';

/** Everything that can be changed of a report. */
export type ReportEdit =
  | { type: 'report.front'; change: Partial<Pick<Report, 'name' | 'subtitle' | 'author' | 'date'>> }
  | { type: 'report.template'; change: Partial<ReportTemplate> }
  | { type: 'report.brand'; change: Partial<Brand> }
  | { type: 'report.checks'; change: Partial<Report['checks']> }
  | { type: 'report.pictures'; change: Partial<Report['pictures']> }
  /** Behind a block, or behind all; with the source it shows, where that is a new one. */
  | { type: 'block.add'; block: Block; after: string | null; source?: ReportSource }
  | { type: 'block.change'; id: string; change: Partial<Block> }
  | { type: 'block.remove'; id: string }
  /** To the place of another block, both as they stand before. */
  | { type: 'block.move'; id: string; to: string }
  | { type: 'source.rename'; id: string; name: string }
  | { type: 'source.run'; id: string; run: string | null }
  /** Keys of what is seen of sources from now on. */
  | { type: 'source.seen'; seen: Readonly<Record<string, string>> }
  /** What has changed of a source was looked at. */
  | { type: 'source.compared'; id: string }
  | { type: 'term.keep'; term: GlossaryTerm }
  | { type: 'term.remove'; id: string };

export const reportEditsSaid: Record<ReportEdit['type'], string> = {
  'report.front': 'change what stands in front',
  'report.template': 'change the template',
  'report.brand': 'change how it looks',
  'report.checks': 'change what is checked',
  'report.pictures': 'change how pictures are drawn',
  'block.add': 'add to the report',
  'block.change': 'change the report',
  'block.remove': 'take it out of the report',
  'block.move': 'move it in the report',
  'source.rename': 'rename a source',
  'source.run': 'show another run',
  'source.seen': 'refresh',
  'source.compared': 'look at what has changed',
  'term.keep': 'explain a term',
  'term.remove': 'explain a term no more',
};

export function withReportEdit(report: Report, edit: ReportEdit): Report {
  switch (edit.type) {
    case 'report.front':
      return { ...report, ...edit.change };
    case 'report.template':
      return { ...report, template: { ...report.template, ...edit.change } };
    case 'report.brand':
      return { ...report, brand: { ...report.brand, ...edit.change } };
    case 'report.checks':
      return { ...report, checks: { ...report.checks, ...edit.change } };
    case 'report.pictures':
      return { ...report, pictures: { ...report.pictures, ...edit.change } };
    case 'block.add': {
      const { block, after, source } = edit;
      const place = after === null ? -1 : report.blocks.findIndex((b) => b.id === after);
      const blocks = report.blocks.toSpliced(place < 0 ? report.blocks.length : place + 1, 0, block);
      return source ? { ...report, blocks, sources: [...report.sources, source] } : { ...report, blocks };
    }
    case 'block.change':
      return {
        ...report,
        blocks: report.blocks.map((b) => (b.id === edit.id ? ({ ...b, ...edit.change } as Block) : b)),
      };
    case 'block.remove':
      return withoutUnusedSources({ ...report, blocks: report.blocks.filter((b) => b.id !== edit.id) });
    case 'block.move': {
      const moved = report.blocks.find((b) => b.id === edit.id);
      const to = report.blocks.findIndex((b) => b.id === edit.to);
      if (!moved || to < 0) return report;
      return { ...report, blocks: report.blocks.filter((b) => b !== moved).toSpliced(to, 0, moved) };
    }
    case 'source.rename':
      return withSourceRenamed(report, edit.id, edit.name);
    case 'source.run':
      return withSources(report, (s) => (s.id === edit.id ? { ...s, run: edit.run } : s));
    case 'source.seen':
      return withSources(report, (s) => {
        const seen = Object.hasOwn(edit.seen, s.id) ? edit.seen[s.id] : s.seen;
        return seen === s.seen ? s : { ...s, seen, before: s.before ?? s.seen };
      });
    case 'source.compared':
      return withSources(report, (s) => (s.id === edit.id ? { ...s, before: null } : s));
    case 'term.keep': {
      const { term } = edit;
      const known = report.glossary.some((t) => t.id === term.id);
      return {
        ...report,
        glossary: known
          ? report.glossary.map((t) => (t.id === term.id ? term : t))
          : [...report.glossary, term],
      };
    }
    case 'term.remove':
      return { ...report, glossary: report.glossary.filter((t) => t.id !== edit.id) };
  }
}

const withSources = (report: Report, change: (source: ReportSource) => ReportSource): Report => ({
  ...report,
  sources: report.sources.map(change),
});

/** Sources that nothing shows any more go: nobody would refresh them. */
function withoutUnusedSources(report: Report): Report {
  const used = new Set(report.blocks.flatMap((b) => (showsSource(b) ? [b.source] : [])));
  return { ...report, sources: report.sources.filter((s) => used.has(s.id)) };
}

/** The source of something in a report: the one it has, or a new one under a name of its own. */
export function sourceFor(
  report: Report,
  of: ReportSource['of'],
  name: string,
  freshId: () => string,
): { source: ReportSource; isNew: boolean } {
  const known = report.sources.find((s) => s.of.kind === of.kind && s.of.id === of.id && s.run === null);
  if (known) return { source: known, isNew: false };
  const taken = new Set(report.sources.map((s) => s.name.toLowerCase()));
  const own = unusedName(sayable(name), (n) => taken.has(n.toLowerCase()));
  return { source: { id: freshId(), name: own, of, run: null, seen: null, before: null }, isNew: true };
}

/** A name that can stand between braces. */
export const sayable = (name: string): string =>
  name.replace(/[{}:]/g, ' ').replace(/\s+/g, ' ').trim().slice(0, 200) || 'source';

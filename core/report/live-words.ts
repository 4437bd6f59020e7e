import type { TemplateValue } from '../language/template.ts';
import { literalPattern } from '../model/literal-pattern.ts';
import type { Block } from './blocks/registry.ts';
import { kindOf, showsSource } from './blocks/registry.ts';
import type { SourceFacts } from './facts.ts';
import type { Report, ReportSource } from './report.ts';

/** A value that can stand in a text of a report; what refers to a block says to which. */
export interface ReportWord extends TemplateValue {
  to?: string;
}

/**
 * All values that can stand between the braces of a text: `{max temperature of NAME}`, `{figure NAME}`.
 *
 * @param factsOf what was seen of a source; null where nothing was
 * @param numberOf what blocks are counted as
 */
export function wordsOfReport(
  { sources, blocks }: Pick<Report, 'sources' | 'blocks'>,
  factsOf: (source: ReportSource) => SourceFacts | null,
  numberOf: (block: string) => string | null,
): ReportWord[] {
  const words: ReportWord[] = [];
  const referred = new Set<string>();
  for (const block of blocks) {
    const { counted } = kindOf(block);
    const source = showsSource(block) && sources.find((s) => s.id === block.source);
    if (!counted || !source) continue;
    const name = `${counted.word} ${source.name}`;
    // The first of several is meant.
    if (referred.has(name)) continue;
    referred.add(name);
    words.push({ name, says: 'its number', unit: null, to: block.id, value: () => numberOf(block.id) });
  }
  for (const source of sources)
    for (const { name, says, unit, value } of factsOf(source)?.words ?? [])
      words.push({ name: `${name} of ${source.name}`, says, unit, value: () => value });
  return words;
}

/** A report in which a source is called otherwise, in every text that names it. */
export function withSourceRenamed(report: Report, id: string, name: string): Report {
  const before = report.sources.find((s) => s.id === id);
  if (!before || before.name === name) return report;
  const others = report.sources.filter((s) => s.id !== id).map((s) => s.name.toLowerCase());
  if (others.includes(name.toLowerCase()) || name.trim() === '') return report;
  const named = new RegExp(
    `(\\{[^{}]*?(?:of|${referringWords(report).join('|')}) )${literalPattern(before.name)}(?=\\s*(?:\\bin\\b[^{}]*)?(?::[^{}]*)?\\})`,
    'giu',
  );
  const said = (text: string): string => text.replace(named, (_, head: string) => head + name);
  return {
    ...report,
    sources: report.sources.map((s) => (s.id === id ? { ...s, name } : s)),
    blocks: report.blocks.map((block) => saidOtherwise(block, said)),
  };
}

const referringWords = ({ blocks }: Pick<Report, 'blocks'>): string[] => [
  ...new Set(blocks.flatMap((b) => kindOf(b).counted?.word ?? [])),
];

/** A block with every text of it that was written by hand said otherwise. */
function saidOtherwise(block: Block, said: (text: string) => string): Block {
  if (block.kind === 'text') return { ...block, text: said(block.text) };
  if (!('captions' in block)) return block;
  const captions = Object.fromEntries(
    Object.entries(block.captions).map(([reader, text]) => [reader, said(text)]),
  );
  return { ...block, captions };
}

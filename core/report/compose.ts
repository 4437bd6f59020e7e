import { filledPieces } from '../language/template.ts';
import type { Composing, SeenSource } from './blocks/block.ts';
import type { Block } from './blocks/registry.ts';
import { kindOf, showsSource } from './blocks/registry.ts';
import type { ComposedBlock, ComposedReport, ComposedSection, Inline } from './composed.ts';
import type { SourceFacts } from './facts.ts';
import { inWordsOf, termsIn } from './glossary.ts';
import { wordsOfReport } from './live-words.ts';
import { paragraphsOf } from './marked-text.ts';
import { provenanceOf } from './provenance.ts';
import type { Report } from './report.ts';
import type { SectionRole } from './template.ts';

/** What was seen of sources, by their ids; a text says why nothing was. */
export type SeenFacts = ReadonlyMap<string, SourceFacts | string>;

interface Section {
  heading: Extract<Block, { kind: 'heading' }> | null;
  blocks: Block[];
}

/** A report as the reader of its template reads it: what is for them, in their order and words. */
export function composeReport(report: Report, facts: SeenFacts): ComposedReport {
  const { template } = report;
  const { reader } = template;
  const sections = inOrderOf(template.order, sectionsOf(report.blocks.filter((b) => isFor(b, reader))));
  const numbers = new Map<string, string>();
  /** Blocks that a text refers to: they have a number in any case. */
  const referred = new Set<string>();
  const troubles: ComposedReport['troubles'] = [];
  const sources = new Map(report.sources.map((s) => [s.id, s]));
  const factsOf = (id: string): SourceFacts | null => {
    const found = facts.get(id);
    return found === undefined || typeof found === 'string' ? null : found;
  };
  const live = wordsOfReport(
    report,
    ({ id }) => factsOf(id),
    (block) => numbers.get(block) ?? null,
  );
  const fill = (text: string, block: string): Inline[] =>
    filledPieces(text, () => live).map(({ text: said, word, trouble }): Inline => {
      if (trouble !== null) {
        troubles.push({ block, says: trouble });
        return { text: said, trouble };
      }
      if (word === null) return { text: said };
      if (word.to === undefined) return { text: said, live: word.name };
      referred.add(word.to);
      if (numbers.has(word.to)) return { text: template.numbered ? said : lowercase(said), to: word.to };
      const why = `What “${word.name}” refers to is not shown to these readers.`;
      troubles.push({ block, says: why });
      return { text: said, trouble: why };
    });
  const at: Composing = {
    reader,
    template,
    source(id): SeenSource | null {
      const source = sources.get(id);
      if (!source) return null;
      const found = facts.get(id);
      return {
        name: source.name,
        key: source.seen,
        facts: factsOf(id),
        trouble: typeof found === 'string' ? found : null,
      };
    },
    numberOf: (block) => (template.numbered || referred.has(block) ? (numbers.get(block) ?? null) : null),
    words: fill,
    paragraphs: (text, block) => paragraphsOf(text, (words) => fill(words, block)),
    told: (text) => inWordsOf(reader, text, report.glossary),
  };
  // A first reading tells what can be shown, for only that is counted, and what is referred to.
  const shown = sections.flatMap(({ blocks }) =>
    blocks.filter((b) => kindOf(b).compose(b, at).kind !== 'missing'),
  );
  for (const [block, number] of numbersOf(shown)) numbers.set(block, number);
  troubles.length = 0;
  const composed = sections.map((section, i) =>
    composeSection(section, sectionNumber(sections, i, template.numbered), at),
  );
  for (const { blocks } of composed)
    for (const block of blocks)
      if (block.kind === 'missing') troubles.push({ block: block.id, says: block.says });
  const written = { reader, sections: composed };
  return {
    title: report.name,
    subtitle: report.subtitle,
    author: report.author,
    byline: [report.author, report.date].filter((l) => l !== ''),
    ...written,
    contents: template.contents ? contentsOf(composed) : [],
    figureList: template.figureList && template.numbered ? figuresOf(composed) : [],
    glossary: template.glossary
      ? termsIn([...textsOf(composed), ...spokenTerms(report, factsOf)], report.glossary)
      : [],
    provenance: template.provenance ? provenanceOf(report, factsOf) : [],
    troubles,
  };
}

const isFor = ({ readers }: Block, reader: Report['template']['reader']): boolean =>
  readers === null || readers.includes(reader);

/** Sections begin with headings of the first level. */
function sectionsOf(blocks: readonly Block[]): Section[] {
  const out: Section[] = [];
  for (const block of blocks) {
    if (block.kind === 'heading') out.push({ heading: block, blocks: [] });
    else if (out.length === 0) out.push({ heading: null, blocks: [block] });
    else out.at(-1)!.blocks.push(block);
  }
  return out;
}

/** Sections with those below them, by what they are for; what stands before the first heading stays in front. */
function inOrderOf(order: readonly SectionRole[], sections: readonly Section[]): Section[] {
  const groups: Section[][] = [];
  for (const section of sections) {
    if (section.heading?.level === 2 && groups.length > 0) groups.at(-1)!.push(section);
    else groups.push([section]);
  }
  const placeOf = ([{ heading }]: Section[]): number =>
    heading === null || heading.level === 2 ? -1 : order.indexOf(heading.role);
  return groups
    .filter(
      ([first]) => first.heading === null || first.heading.level === 2 || order.includes(first.heading.role),
    )
    .map((group, i) => ({ group, i }))
    .sort((a, b) => placeOf(a.group) - placeOf(b.group) || a.i - b.i)
    .flatMap(({ group }) => group);
}

/** How figures and tables are counted, by the ids of their blocks. */
function numbersOf(shown: readonly Block[]): Map<string, string> {
  const counts = new Map<string, number>();
  const numbers = new Map<string, string>();
  for (const block of shown) {
    const { counted } = kindOf(block);
    if (!counted) continue;
    const count = (counts.get(counted.as) ?? 0) + 1;
    counts.set(counted.as, count);
    numbers.set(block.id, `${counted.as} ${count}`);
  }
  return numbers;
}

/** As it stands within a sentence. */
const lowercase = (text: string): string => text[0].toLowerCase() + text.slice(1);

/** `2` or `2.1`; null where sections are not numbered. */
function sectionNumber(sections: readonly Section[], at: number, numbered: boolean): string | null {
  if (!numbered || sections[at].heading === null) return null;
  let [first, second] = [0, 0];
  for (const { heading } of sections.slice(0, at + 1)) {
    if (heading?.level === 1) [first, second] = [first + 1, 0];
    else if (heading) second++;
  }
  return sections[at].heading!.level === 1 ? `${first}` : `${first}.${second}`;
}

const composeSection = (
  { heading, blocks }: Section,
  number: string | null,
  at: Composing,
): ComposedSection => ({
  id: heading?.id ?? null,
  level: heading?.level ?? 1,
  number,
  title: heading?.text ?? '',
  blocks: blocks.map((block) => kindOf(block).compose(block, at)),
});

export const sectionTitle = ({ number, title }: Pick<ComposedSection, 'number' | 'title'>): string =>
  number === null ? title : `${number} ${title}`;

const contentsOf = (sections: readonly ComposedSection[]): ComposedReport['contents'] =>
  sections.flatMap((s) => (s.id === null ? [] : [{ id: s.id, level: s.level, text: sectionTitle(s) }]));

const figuresOf = (sections: readonly ComposedSection[]): ComposedReport['figureList'] =>
  sections.flatMap(({ blocks }) =>
    blocks.flatMap((b) =>
      'caption' in b && b.number !== null
        ? [{ id: b.id, text: `${b.number}. ${firstSentence(plainWords(b.caption))}` }]
        : [],
    ),
  );

/** The list of figures tells what is shown, and leaves the rest to the captions. */
const firstSentence = (text: string): string => /^.+?\.(?=\s|$)/su.exec(text)?.[0] ?? text;

export const plainWords = (words: readonly Inline[]): string => words.map((w) => w.text).join('');

/** Every text that a reader reads. */
export function textsOf(sections: readonly ComposedSection[]): string[] {
  const ofBlock = (block: ComposedBlock): string[] => {
    if (block.kind === 'text')
      return block.paragraphs.map((p) =>
        p.kind === 'paragraph' ? plainWords(p.words) : p.items.map((i) => plainWords(i.words)).join(' '),
      );
    if (block.kind === 'numbers') return block.items.map((i) => i.label);
    return 'caption' in block ? [plainWords(block.caption)] : [];
  };
  return sections.flatMap(({ title, blocks }) => [title, ...blocks.flatMap(ofBlock)]);
}

/** What captions would say in the words of the trade: terms that plain words took the place of are explained too. */
const spokenTerms = ({ blocks }: Report, factsOf: (id: string) => SourceFacts | null): string[] =>
  blocks.flatMap((block) => {
    const found = showsSource(block) ? factsOf(block.source) : null;
    return block.kind === 'figure' && found?.kind === 'scene' ? [found.captions.lay] : [];
  });

import { strToU8, type Zippable, zipSync } from 'fflate';
import { sectionTitle } from '#core/report/compose.ts';
import type { ComposedBlock, ComposedReport, Inline, Paragraph } from '#core/report/composed.ts';
import { ALWAYS } from './without-chance.ts';
import type { ReportToWrite, WriteReport } from './writer.ts';

/** Plain text in Markdown (GitHub's dialect for tables) with its pictures beside it, in a zip. */
export const writeMarkdown: WriteReport = async (what, signal) => {
  const files: Record<string, Uint8Array> = {};
  const lines = [...frontOf(what.report)];
  for (const section of what.report.sections) {
    if (section.id !== null)
      lines.push(
        `<a id="${section.id}"></a>`,
        `${'#'.repeat(section.level + 1)} ${escaped(sectionTitle(section))}`,
      );
    for (const block of section.blocks) {
      signal.throwIfAborted();
      lines.push(...(await blockLines(block, what, files)));
    }
  }
  lines.push(...endOf(what.report));
  const text = strToU8(`${lines.join('\n\n')}\n`);
  const packed: Zippable = { 'report.md': [text, { mtime: ALWAYS }] };
  // Pictures are compressed already.
  for (const [name, bytes] of Object.entries(files)) packed[name] = [bytes, { mtime: ALWAYS, level: 0 }];
  return zipSync(packed);
};

/** What has a meaning in Markdown means itself. */
const escaped = (text: string): string => text.replace(/[\\`*_{}[\]<>#+|~]/g, '\\$&').replace(/\n/g, ' ');

function frontOf({ title, subtitle, byline, contents }: ComposedReport): string[] {
  return [
    `# ${escaped(title)}`,
    ...(subtitle ? [`*${escaped(subtitle)}*`] : []),
    ...(byline.length > 0 ? [escaped(byline.join(' · '))] : []),
    ...(contents.length > 0
      ? [
          '## Contents',
          contents.map((c) => `${'  '.repeat(c.level - 1)}- [${escaped(c.text)}](#${c.id})`).join('\n'),
        ]
      : []),
  ];
}

async function blockLines(
  block: ComposedBlock,
  what: ReportToWrite,
  files: Record<string, Uint8Array>,
): Promise<string[]> {
  const anchor = `<a id="${block.id}"></a>`;
  const add = (name: string, bytes: Uint8Array): string => {
    const path = `pictures/${name}`;
    files[path] = bytes;
    return path;
  };
  const count = Object.keys(files).length + 1;
  switch (block.kind) {
    case 'text':
      return [anchor, ...block.paragraphs.map(paragraphText)];
    case 'figure': {
      const bytes = await what.picture(block.picture);
      const shown = bytes
        ? `![${escaped(block.alt)}](${add(`picture-${count}.png`, bytes)})`
        : '*not drawn yet*';
      return [anchor, shown, captionText(block)];
    }
    case 'chart': {
      const path = add(`chart-${count}.svg`, strToU8(block.chart.svg));
      return [anchor, `![${escaped(block.alt)}](${path})`, captionText(block)];
    }
    case 'table':
      return [anchor, captionText(block), tableText(block), ...block.notes.map(escaped)];
    case 'numbers':
      return [
        anchor,
        block.items
          .map(
            ({ label, said, note }) =>
              `- ${escaped(label)}: **${escaped(said)}**${note ? ` ${escaped(note)}` : ''}`,
          )
          .join('\n'),
      ];
    case 'missing':
      return [anchor, `> ${escaped(block.says)}`];
  }
}

const captionText = ({ number, caption }: { number: string | null; caption: readonly Inline[] }): string =>
  `${number === null ? '' : `**${number}.** `}${inlineText(caption)}`;

function tableText({ columns, rows }: Extract<ComposedBlock, { kind: 'table' }>): string {
  const line = (cells: readonly string[]): string => `| ${cells.map(escaped).join(' | ')} |`;
  return [
    line(columns.map((c) => c.name)),
    `| ${columns.map((c) => (c.align === 'right' ? '---:' : '---')).join(' | ')} |`,
    ...rows.map(line),
  ].join('\n');
}

function paragraphText(paragraph: Paragraph): string {
  if (paragraph.kind === 'paragraph') return inlineText(paragraph.words);
  return paragraph.items
    .map(
      ({ depth, words }, i) =>
        `${'   '.repeat(depth)}${paragraph.ordered ? `${i + 1}.` : '-'} ${inlineText(words)}`,
    )
    .join('\n');
}

const inlineText = (words: readonly Inline[]): string =>
  words
    .map(({ text, bold, italic, to, link }) => {
      let said = text === '\n' ? '  \n' : escaped(text);
      if (italic) said = `*${said}*`;
      if (bold) said = `**${said}**`;
      if (to !== undefined) return `[${said}](#${to})`;
      return link === undefined ? said : `[${said}](<${link.replace(/[<>\s]/g, encodeURIComponent)}>)`;
    })
    .join('');

function endOf({ figureList, glossary, provenance }: ComposedReport): string[] {
  return [
    ...(figureList.length > 0
      ? ['## Figures and tables', figureList.map((f) => `- [${escaped(f.text)}](#${f.id})`).join('\n')]
      : []),
    ...(glossary.length > 0
      ? [
          '## Glossary',
          ...glossary.map(
            ({ term, plain, meaning }) =>
              `**${escaped(plain === '' ? term : `${plain} (${term})`)}**: ${escaped(meaning)}`,
          ),
        ]
      : []),
    ...(provenance.length > 0
      ? [
          '## Where it comes from',
          ...provenance.flatMap(({ source, facts }) => [
            `### ${escaped(source)}`,
            facts
              .flatMap(({ label, values }) => values.map((value) => `- ${label}: ${escaped(value)}`))
              .join('\n'),
          ]),
        ]
      : []),
  ];
}

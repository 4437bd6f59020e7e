import { asFigure } from '../preflight/as-figure.ts';
import { preflight } from '../preflight/registry.ts';
import type { CheckedFigure, Finding, Place, Subjects } from '../preflight/rule.ts';
import { type SeenFacts, textsOf } from './compose.ts';
import type { ComposedReport } from './composed.ts';
import type { SceneFacts } from './facts.ts';
import type { Report } from './report.ts';

interface ShownFigure {
  /** Of the block, and of its source. */
  id: string;
  source: string;
  name: string;
  facts: SceneFacts;
}

/**
 * What should be known of a report before it leaves the house: of each figure that its reader sees, of all of them together,
 * and of its texts.
 *
 * @param stale ids of the sources that have changed since they were looked at
 */
export function reportFindings(
  report: Report,
  composed: ComposedReport,
  facts: SeenFacts,
  stale: ReadonlySet<string>,
): Finding[] {
  const figures = figuresIn(report, composed, facts);
  const checked = figures.map(
    ({ id, source, name, facts: { origin } }): CheckedFigure => ({
      id,
      name,
      scales: origin.scales.map(({ name: quantity, unit, low, high }) => ({
        name: quantity,
        quantity,
        unit,
        low,
        high,
      })),
      stale: stale.has(source),
    }),
  );
  return [
    ...preflight({ figures: checked, texts: textsIn(report, composed) }, report.checks),
    ...figures.flatMap((figure) => asFigure(figure.facts.findings, figure, report.checks.waived)),
  ];
}

/** Figures that the reader of a report sees, in their order. */
function figuresIn(report: Report, { sections }: ComposedReport, facts: SeenFacts): ShownFigure[] {
  const blocks = new Map(report.blocks.map((b) => [b.id, b]));
  return sections
    .flatMap((s) => s.blocks)
    .flatMap((shown): ShownFigure[] => {
      const block = shown.kind === 'figure' ? blocks.get(shown.id) : undefined;
      if (shown.kind !== 'figure' || block?.kind !== 'figure') return [];
      const found = facts.get(block.source);
      if (typeof found !== 'object' || found.kind !== 'scene') return [];
      const name = shown.number ?? report.sources.find((s) => s.id === block.source)?.name ?? found.scene;
      return [{ id: block.id, source: block.source, name, facts: found }];
    });
}

function textsIn(report: Report, composed: ComposedReport): Subjects['texts'] {
  const place = (name: string): Place => ({ kind: 'words', id: null, name });
  const { title, subtitle, author, sections, provenance } = composed;
  return {
    inHouse: report.checks.inHouse,
    pieces: [
      ...[title, subtitle, author].map((text) => ({ place: place('the front of the report'), text })),
      ...sections.flatMap((section) =>
        textsOf([section]).map((text) => ({
          place: place(section.title ? `the section ${section.title}` : 'the beginning of the report'),
          text,
        })),
      ),
      ...provenance.flatMap(({ source, facts }) =>
        facts.flatMap(({ values }) =>
          values.map((text) => ({ place: place(`the appendix on ${source}`), text })),
        ),
      ),
    ],
  };
}

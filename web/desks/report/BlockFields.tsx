import { RefreshCw, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { completionsIn, troublesIn } from '#core/language/template.ts';
import { type Block, kindOf, type SourceBlock, showsSource } from '#core/report/blocks/registry.ts';
import type { SceneFacts } from '#core/report/facts.ts';
import { type ReportWord, wordsOfReport } from '#core/report/live-words.ts';
import { type Reader, readers, readersSaid } from '#core/report/readers.ts';
import type { ReportSource } from '#core/report/report.ts';
import { sayable } from '#core/report/report-edits.ts';
import { sectionRoles } from '#core/report/template.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { useListed } from '#web/desks/shared/use-listed.ts';
import { ValuesField } from '#web/desks/shared/ValuesField.tsx';
import type { ListedRun } from '#web/server/run-sets.ts';
import { lookAt } from './look-at-sources.ts';
import { choose, editReport, useReport, useReportDesk } from './report-store.ts';
import { useComposed, useSeen } from './use-composed.ts';

/** What can be said of a block, beneath its line in the outline. */
export function BlockFields({ block }: { block: Block }) {
  const { blocks } = useReport();
  const change = (to: Partial<Block>, key: string | null = null): void =>
    editReport({ type: 'block.change', id: block.id, change: to }, key && `${block.id} ${key}`);
  return (
    <div className="flex flex-col gap-3">
      {block.kind === 'heading' && <HeadingFields block={block} change={change} />}
      {block.kind === 'text' && (
        <TextField
          label="Text"
          lines="paragraphs"
          value={block.text}
          placeholder="Write here. { offers numbers and references, *stars* make it slanted, - begins a list."
          onChange={(text) => change({ text }, 'text')}
        />
      )}
      {showsSource(block) && <SourceFields block={block} change={change} />}
      <ForWhom block={block} change={change} />
      <button
        type="button"
        className="quiet h-7 self-start text-sm"
        onClick={() => {
          choose(blocks[blocks.findIndex((b) => b.id === block.id) - 1]?.id ?? null);
          editReport({ type: 'block.remove', id: block.id });
        }}
      >
        <Trash2 size={14} /> Take it out
      </button>
    </div>
  );
}

type Change = (to: Partial<Block>, key?: string | null) => void;

interface Fields<B extends Block> {
  block: B;
  change: Change;
}

function HeadingFields({ block, change }: Fields<Extract<Block, { kind: 'heading' }>>) {
  return (
    <>
      <input
        aria-label="Heading"
        className="field w-full"
        dir="auto"
        value={block.text}
        onChange={(e) => change({ text: e.target.value }, 'text')}
      />
      <div className="flex flex-wrap items-center gap-1.5">
        <Pill on={block.level === 1} onClick={() => change({ level: 1 })}>
          section
        </Pill>
        <Pill on={block.level === 2} onClick={() => change({ level: 2 })}>
          below the one before
        </Pill>
      </div>
      {block.level === 1 && (
        <label className="flex items-center gap-2">
          <span className="text-soft">What it is for</span>
          <select
            className="field"
            value={block.role}
            title="Templates put sections in order by this"
            onChange={(e) => change({ role: e.target.value as typeof block.role })}
          >
            {sectionRoles.map((role) => (
              <option key={role}>{role}</option>
            ))}
          </select>
        </label>
      )}
    </>
  );
}

/** Words that can stand in texts of the report. */
function useWords(): ReportWord[] {
  const report = useReport();
  const seen = useSeen();
  return wordsOfReport(
    report,
    ({ id }) => {
      const found = seen.get(id);
      return found === undefined || typeof found === 'string' ? null : found;
    },
    () => null,
  );
}

interface TextProps {
  label: string;
  lines: boolean | 'paragraphs';
  value: string;
  placeholder: string;
  onChange(text: string): void;
}

function TextField({ label, lines, value, placeholder, onChange }: TextProps) {
  const words = useWords();
  return (
    <ValuesField
      label={label}
      lines={lines}
      value={value}
      placeholder={placeholder}
      completions={(text, caret) => completionsIn(text, caret, () => words)}
      troubles={troublesIn(value, () => words)}
      onChange={onChange}
    />
  );
}

function SourceFields({ block, change }: Fields<SourceBlock>) {
  const { sources, template } = useReport();
  const { sections } = useComposed();
  const source = sources.find((s) => s.id === block.source);
  const facts = useReportDesk((s) => (source?.seen ? s.facts.get(source.seen) : undefined));
  const shown = sections.flatMap((s) => s.blocks).find((b) => b.id === block.id);
  const own = shown && 'caption' in shown ? shown.caption.map((w) => w.text).join('') : '';
  if (!source) return <p className="text-warn">What this showed is gone. Take it out, or undo.</p>;
  return (
    <>
      {'captions' in block && (own !== '' || block.captions[template.reader] !== undefined) && (
        <Caption
          reader={template.reader}
          byHand={block.captions[template.reader]}
          told={own}
          onChange={(text) => {
            const { [template.reader]: _, ...others } = block.captions;
            const captions = text === undefined ? others : { ...others, [template.reader]: text };
            change({ captions } as Partial<Block>, 'caption');
          }}
        />
      )}
      {block.kind === 'figure' && (
        <div className="flex items-center gap-1.5">
          <Pill on={block.width === 'full'} onClick={() => change({ width: 'full' })}>
            as wide as the page
          </Pill>
          <Pill on={block.width === 'half'} onClick={() => change({ width: 'half' })}>
            half of it
          </Pill>
        </div>
      )}
      {block.kind === 'figure' && (
        <Tick
          label="Readers of the page (HTML) can turn it"
          checked={block.living}
          onChange={(living) => change({ living })}
        />
      )}
      {block.kind === 'figure' && facts?.kind === 'scene' && (
        <label className="flex flex-col gap-1">
          <span className="text-soft">For those who cannot see it</span>
          <textarea
            className="field h-auto w-full py-1 leading-snug"
            rows={2}
            placeholder={facts.alt}
            value={block.alt ?? ''}
            onChange={(e) => change({ alt: e.target.value === '' ? null : e.target.value }, 'alt')}
          />
        </label>
      )}
      {block.kind === 'chart' && facts?.kind === 'scene' && facts.charts.length > 1 && (
        <label className="flex items-center gap-2">
          <span className="text-soft">Chart</span>
          <select
            className="field min-w-0 flex-1"
            value={block.chart ?? facts.charts[0].id}
            onChange={(e) => change({ chart: e.target.value })}
          >
            {facts.charts.map((c, i) => (
              <option key={c.id} value={c.id}>
                {c.title || c.series.map((s) => s.name).join(', ') || `chart ${i + 1}`}
              </option>
            ))}
          </select>
        </label>
      )}
      {block.kind === 'numbers' && facts?.kind === 'scene' && (
        <ChosenGauges facts={facts} gauges={block.gauges} onChange={(gauges) => change({ gauges })} />
      )}
      <LinkedTo source={source} lacking={facts?.kind === 'scene' ? facts.lacking : []} />
    </>
  );
}

interface CaptionProps {
  reader: Reader;
  /** What was written for this reader; absent where it tells itself. */
  byHand: string | undefined;
  told: string;
  onChange(text: string | undefined): void;
}

/** The caption for the reader of now: it tells itself, until somebody writes it. */
function Caption({ reader, byHand, told, onChange }: CaptionProps) {
  if (byHand === undefined)
    return (
      <div className="flex flex-col items-start gap-1.5">
        <p className="text-soft">{told}</p>
        <button type="button" className="quiet h-7 text-sm" onClick={() => onChange(told)}>
          Write the caption for {readersSaid[reader]}
        </button>
      </div>
    );
  return (
    <div className="flex flex-col items-start gap-1.5">
      <div className="w-full">
        <TextField
          label={`Caption for ${readersSaid[reader]}`}
          lines
          value={byHand}
          placeholder="Caption"
          onChange={onChange}
        />
      </div>
      <button type="button" className="quiet h-7 text-sm" onClick={() => onChange(undefined)}>
        Let it tell itself again
      </button>
    </div>
  );
}

interface GaugesProps {
  facts: SceneFacts;
  gauges: readonly string[] | null;
  onChange(gauges: string[] | null): void;
}

function ChosenGauges({ facts, gauges, onChange }: GaugesProps) {
  const all = facts.readings.map((r) => r.id);
  const chosen = new Set(gauges ?? all);
  return (
    <fieldset className="flex flex-col gap-0.5">
      <legend className="sr-only">Which numbers</legend>
      {facts.readings.map(({ id, name }) => (
        <Tick
          key={id}
          label={name}
          checked={chosen.has(id)}
          onChange={(on) => {
            const now = all.filter((one) => (one === id ? on : chosen.has(one)));
            onChange(now.length === all.length ? null : now);
          }}
        />
      ))}
    </fieldset>
  );
}

/** What a block is linked to: by which name, of which run, and looked at anew. */
function LinkedTo({ source, lacking }: { source: ReportSource; lacking: readonly string[] }) {
  const looking = useReportDesk((s) => s.looking);
  const [name, setName] = useState(source.name);
  const runs = useListed<ListedRun>('/api/runs/listed');
  const rename = (): void => {
    const to = sayable(name);
    editReport({ type: 'source.rename', id: source.id, name: to });
    setName(to);
  };
  return (
    <fieldset className="flex flex-col gap-2 rounded-lg border border-rule p-2.5">
      <legend className="px-1 text-xs text-soft">linked to the {source.of.kind}</legend>
      <label className="flex items-center gap-2">
        <span className="text-soft">Called</span>
        <input
          className="field min-w-0 flex-1"
          title="Texts of the report name it so"
          value={name}
          onChange={(e) => setName(e.target.value)}
          onBlur={rename}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
      </label>
      {source.of.kind !== 'set' && (
        <label className="flex items-center gap-2">
          <span className="text-soft">Of</span>
          <select
            className="field min-w-0 flex-1"
            value={source.run ?? ''}
            onChange={(e) => {
              editReport({ type: 'source.run', id: source.id, run: e.target.value || null });
              void lookAt([source.id]);
            }}
          >
            <option value="">its own run</option>
            {runs.map((run) => (
              <option key={run.id} value={run.id}>
                {run.name}
              </option>
            ))}
          </select>
        </label>
      )}
      {lacking.length > 0 && (
        <ul aria-label="What this run does not have" className="list-disc pl-5 text-sm text-warn">
          {lacking.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      )}
      <button
        type="button"
        className="quiet h-7 self-start text-sm"
        disabled={looking?.quality === 'draft'}
        onClick={() => void lookAt([source.id])}
      >
        <RefreshCw size={13} /> Refresh
      </button>
    </fieldset>
  );
}

function ForWhom({ block, change }: Fields<Block>) {
  const all = block.readers === null;
  const toggle = (reader: Reader): void => {
    const now = all ? [reader] : readers.filter((r) => (r === reader) !== block.readers!.includes(r));
    change({ readers: now.length === 0 || now.length === readers.length ? null : now } as Partial<Block>);
  };
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <span className="text-soft">For</span>
      <Pill on={all} onClick={() => change({ readers: null })}>
        all readers
      </Pill>
      {readers.map((reader) => (
        <Pill key={reader} on={!all && block.readers!.includes(reader)} onClick={() => toggle(reader)}>
          {reader}
        </Pill>
      ))}
      <span className="sr-only">{kindOf(block).name}</span>
    </div>
  );
}

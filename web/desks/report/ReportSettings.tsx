import { ArrowUp, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { sameValue } from '#core/model/document-changes.ts';
import { type Brand, brandFonts, contrastTroubles, type KeptBrand } from '#core/report/brand.ts';
import { type GlossaryTerm, shippedTerms } from '#core/report/glossary.ts';
import { readersSaid } from '#core/report/readers.ts';
import {
  type ReportTemplate,
  type SectionRole,
  sectionRoles,
  shippedTemplates,
} from '#core/report/template.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { FoldedSection } from '#web/desks/stage/FoldedSection.tsx';
import { KeptOfKind } from './KeptOfKind.tsx';
import { editReport, useReport } from './report-store.ts';

/** What holds for the whole report: for whom it is, its front, its terms, and how it looks. */
export function ReportSettings() {
  return (
    <>
      <Template />
      <Front />
      <Glossary />
      <Looks />
    </>
  );
}

const extras: {
  key: keyof ReportTemplate & ('contents' | 'figureList' | 'glossary' | 'provenance' | 'numbered' | 'scales');
  says: string;
}[] = [
  { key: 'contents', says: 'contents' },
  { key: 'figureList', says: 'list of figures and tables' },
  { key: 'numbered', says: 'sections and figures numbered' },
  { key: 'scales', says: 'where scales end, in captions' },
  { key: 'glossary', says: 'glossary' },
  { key: 'provenance', says: 'where everything comes from' },
];

function Template() {
  const { template } = useReport();
  const [open, setOpen] = useState(true);
  const change = (to: Partial<ReportTemplate>): void => editReport({ type: 'report.template', change: to });
  return (
    <FoldedSection label="For whom" title="For whom" aside={template.name} open={open} onOpen={setOpen}>
      <div className="flex flex-col gap-2.5 px-2 py-2">
        <div className="flex flex-wrap gap-1.5">
          {Object.values(shippedTemplates).map((one) => (
            <Pill
              key={one.name}
              on={template.name === one.name}
              title={`In the words of ${readersSaid[one.reader]}`}
              onClick={() => change(one)}
            >
              {one.name}
            </Pill>
          ))}
        </div>
        <fieldset className="flex flex-col gap-0.5">
          <legend className="sr-only">What there is beside the sections</legend>
          {extras.map(({ key, says }) => (
            <Tick key={key} label={says} checked={template[key]} onChange={(on) => change({ [key]: on })} />
          ))}
        </fieldset>
        <SectionOrder order={template.order} onChange={(order) => change({ order })} />
        <KeptOfKind<ReportTemplate>
          kind="template"
          what="template"
          isOn={(one) => one.name === template.name}
          onChoose={change}
          named={(name) => ({ ...template, name })}
        />
      </div>
    </FoldedSection>
  );
}

/** Which sections there are, and in which order. */
function SectionOrder({
  order,
  onChange,
}: {
  order: readonly SectionRole[];
  onChange(order: SectionRole[]): void;
}) {
  const others = sectionRoles.filter((role) => !order.includes(role));
  const swapped = (at: number): SectionRole[] => order.with(at, order[at - 1]).with(at - 1, order[at]);
  return (
    <fieldset>
      <legend className="mb-0.5 text-soft">Sections, in this order</legend>
      <ol>
        {order.map((role, i) => (
          <li key={role} className="flex items-center">
            <Tick label={role} checked onChange={() => onChange(order.filter((r) => r !== role))} />
            <button
              type="button"
              className="mark ml-auto size-6"
              disabled={i === 0}
              aria-label={`${role} before ${order[i - 1] ?? ''}`}
              onClick={() => onChange(swapped(i))}
            >
              <ArrowUp size={14} />
            </button>
          </li>
        ))}
        {others.map((role) => (
          <li key={role} className="text-soft">
            <Tick label={role} checked={false} onChange={() => onChange([...order, role])} />
          </li>
        ))}
      </ol>
    </fieldset>
  );
}

const fronts = [
  { key: 'subtitle', label: 'Below the title' },
  { key: 'author', label: 'By' },
  { key: 'date', label: 'Date' },
] as const;

function Front() {
  const report = useReport();
  const [open, setOpen] = useState(false);
  return (
    <FoldedSection label="Front" title="Front" open={open} onOpen={setOpen}>
      <div className="grid grid-cols-[auto_1fr] items-center gap-x-3 gap-y-1.5 px-2 py-2">
        {fronts.map(({ key, label }) => (
          <label key={key} className="contents">
            <span className="text-soft">{label}</span>
            <input
              className="field w-full"
              dir="auto"
              value={report[key]}
              onChange={(e) => editReport({ type: 'report.front', change: { [key]: e.target.value } }, key)}
            />
          </label>
        ))}
      </div>
    </FoldedSection>
  );
}

function Glossary() {
  const { glossary } = useReport();
  const [open, setOpen] = useState(false);
  const keep = (term: GlossaryTerm): void => editReport({ type: 'term.keep', term }, `term ${term.id}`);
  return (
    <FoldedSection
      label="Terms"
      title="Terms"
      aside={`${glossary.length} of your own`}
      open={open}
      onOpen={setOpen}
    >
      <div className="flex flex-col gap-3 px-2 py-2">
        <p className="text-soft">
          Where a report is for everybody, plain words take the place of terms. {shippedTerms.length} terms of
          the trade are known; yours go before them.
        </p>
        {glossary.map((term) => (
          <div key={term.id} className="flex items-start gap-2">
            <div className="flex min-w-0 flex-1 flex-col gap-1">
              <div className="flex gap-1.5">
                <input
                  aria-label="Term"
                  className="field min-w-0 flex-1"
                  value={term.term}
                  onChange={(e) => e.target.value.trim() && keep({ ...term, term: e.target.value })}
                />
                <input
                  aria-label="In plain words"
                  className="field min-w-0 flex-1"
                  placeholder="in plain words"
                  value={term.plain}
                  onChange={(e) => keep({ ...term, plain: e.target.value })}
                />
              </div>
              <input
                aria-label="What it means"
                className="field w-full"
                placeholder="what it means"
                value={term.meaning}
                onChange={(e) => keep({ ...term, meaning: e.target.value })}
              />
            </div>
            <button
              type="button"
              className="mark"
              aria-label={`Explain ${term.term} no more`}
              onClick={() => editReport({ type: 'term.remove', id: term.id })}
            >
              <Trash2 size={15} />
            </button>
          </div>
        ))}
        <button
          type="button"
          className="quiet h-7 self-start text-sm"
          onClick={() => keep({ id: freshId('term'), term: 'new term', plain: '', meaning: '' })}
        >
          Add a term
        </button>
      </div>
    </FoldedSection>
  );
}

const colours = [
  { key: 'ink', says: 'words' },
  { key: 'paper', says: 'page' },
  { key: 'accent', says: 'links and rules' },
  { key: 'backdrop', says: 'front' },
] as const;

const fontsSaid: Record<Brand['heading'], string> = { plain: 'without serifs', book: 'with serifs' };

function Looks() {
  const { brand, pictures } = useReport();
  const widths = [...new Set([960, 1280, 1600, 1920, 2560, 3840, pictures.width])].sort((a, b) => a - b);
  const [open, setOpen] = useState(false);
  const change = (to: Partial<Brand>, key: string | null = null): void =>
    editReport({ type: 'report.brand', change: to }, key);
  return (
    <FoldedSection label="How it looks" title="How it looks" open={open} onOpen={setOpen}>
      <div className="flex flex-col gap-3 px-2 py-2">
        {(['heading', 'body'] as const).map((which) => (
          <div key={which} className="flex flex-wrap items-center gap-1.5">
            <span className="w-20 text-soft">{which === 'heading' ? 'Headings' : 'Text'}</span>
            {brandFonts.map((font) => (
              <Pill key={font} on={brand[which] === font} onClick={() => change({ [which]: font })}>
                {fontsSaid[font]}
              </Pill>
            ))}
          </div>
        ))}
        <div className="flex flex-wrap gap-x-4 gap-y-1.5">
          {colours.map(({ key, says }) => (
            <label key={key} className="flex items-center gap-1.5">
              <input
                type="color"
                className="size-7"
                value={brand[key]}
                onChange={(e) => change({ [key]: e.target.value }, `brand ${key}`)}
              />
              {says}
            </label>
          ))}
        </div>
        {contrastTroubles(brand).map((trouble) => (
          <p key={trouble} role="alert" className="text-sm text-warn">
            {trouble}
          </p>
        ))}
        <Logo logo={brand.logo} onChange={(logo) => change({ logo })} />
        <label className="flex items-center gap-2">
          <span className="text-soft">Margins of paper</span>
          <input
            type="number"
            className="field w-20"
            min={5}
            max={50}
            value={brand.margin}
            onChange={(e) => {
              const margin = Number(e.target.value);
              if (margin >= 5 && margin <= 50) change({ margin }, 'brand margin');
            }}
          />
          mm
        </label>
        <label className="flex items-center gap-2">
          <span className="text-soft">Figures</span>
          <select
            className="field"
            value={pictures.width}
            onChange={(e) =>
              editReport({ type: 'report.pictures', change: { width: Number(e.target.value) } })
            }
          >
            {widths.map((width) => (
              <option key={width} value={width}>
                {width} pixels across
              </option>
            ))}
          </select>
        </label>
        <KeptOfKind<KeptBrand>
          kind="brand"
          what="house style"
          isOn={({ name: _, ...one }) => sameValue(one, brand)}
          onChoose={({ name: _, ...one }) => change(one)}
          named={(name) => ({ ...brand, name })}
        />
      </div>
    </FoldedSection>
  );
}

function Logo({ logo, onChange }: { logo: string | null; onChange(logo: string | null): void }) {
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    setTrouble(null);
    if (!/^image\/(png|jpeg|webp)$/.test(file.type) || file.size > 1_000_000)
      return setTrouble('The logo must be a PNG, JPEG or WebP of at most 1 MB.');
    const bytes = new Uint8Array(await file.arrayBuffer());
    let binary = '';
    for (const byte of bytes) binary += String.fromCharCode(byte);
    onChange(`data:${file.type};base64,${btoa(binary)}`);
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      {logo && <img src={logo} alt="The logo" className="h-8 max-w-32 rounded bg-white object-contain p-1" />}
      <label className="quiet h-7 cursor-pointer text-sm">
        {logo ? 'Another logo' : 'Logo'}
        <input
          type="file"
          accept="image/png,image/jpeg,image/webp"
          className="sr-only"
          onChange={(e) => void take(e.target.files?.[0])}
        />
      </label>
      {logo && (
        <button type="button" className="quiet h-7 text-sm" onClick={() => onChange(null)}>
          Without
        </button>
      )}
      {trouble && (
        <p role="alert" className="text-sm text-warn">
          {trouble}
        </p>
      )}
    </div>
  );
}

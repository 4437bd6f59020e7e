import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import {
  ChartLine,
  ChevronDown,
  Copy,
  CornerDownRight,
  Eye,
  EyeOff,
  Ghost,
  GripVertical,
  TextCursorInput,
  Trash2,
} from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { fieldUnit } from '#core/language/phrase.ts';
import type { SentencePiece } from '#core/language/sentence.ts';
import { sayReport } from '#core/ops/chain/report.ts';
import { understood } from '#core/ops/chain/understood.ts';
import type { Layer, Scale } from '#core/scene/document.ts';
import { layerLabel } from '#core/scene/layer-chain.ts';
import { layerSentence } from '#core/scene/layer-sentence.ts';
import { settingOf } from '#core/scene/setting.ts';
import { drawNumbersOfLine } from '#web/desks/gauges/draw-curves.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { useRoving } from '#web/desks/shared/roving.ts';
import { ChainEditor } from './ChainEditor.tsx';
import { Chooser } from './Chooser.tsx';
import { edit, useDesk, useRun, useScene, useSettled } from './desk-store.ts';
import { FieldChoices } from './FieldChoices.tsx';
import { FinishChoices } from './finishes/FinishChoices.tsx';
import { LookChoices } from './LookChoices.tsx';
import { addGhost, followLayer, takeLook } from './layer-edits.ts';
import { OptionWord } from './OptionWord.tsx';
import { PartChoices } from './PartChoices.tsx';
import { PlainChoices } from './PlainChoices.tsx';
import { SentenceInput } from './SentenceInput.tsx';
import { Ramp } from './scale/Ramp.tsx';
import { ScaleChoices } from './scale/ScaleChoices.tsx';

/** One line of the scene: its sentence, whose emphasised words edit it, and its fine settings beneath. */
export function LayerLine({ layer }: { layer: Layer }) {
  const scene = useScene();
  const run = useRun();
  const open = useDesk((s) => s.openLayer === layer.id);
  const sortable = useSortable({ id: layer.id });
  const pieces = layerSentence(layer, scene, run);
  const stops = useRoving<HTMLDivElement>('.word');
  return (
    <li
      ref={sortable.setNodeRef}
      style={{ transform: CSS.Translate.toString(sortable.transform), transition: sortable.transition }}
      className={`group border-b border-rule/70 ${sortable.isDragging ? 'relative z-10 bg-sheet shadow-lg' : ''}`}
      data-layer={layer.id}
    >
      <div
        ref={stops}
        className={`flex gap-1 py-2.5 pr-2 pl-1 ${open ? 'sticky top-0 z-10 bg-paper' : 'relative'}`}
      >
        <div className="flex flex-col items-center">
          <button
            type="button"
            className="mark size-7"
            onClick={() => edit({ type: 'layer.change', id: layer.id, change: { visible: !layer.visible } })}
            aria-pressed={layer.visible}
            aria-label={layer.visible ? 'Hide this line' : 'Show this line'}
          >
            {layer.visible ? <Eye size={16} /> : <EyeOff size={16} />}
          </button>
          <button
            type="button"
            {...sortable.attributes}
            {...sortable.listeners}
            className="absolute bottom-0.5 cursor-grab p-0.5 text-soft opacity-0 group-hover:opacity-70 focus-visible:opacity-100"
            aria-label="Move this line"
          >
            <GripVertical size={14} />
          </button>
        </div>
        <div
          className={`min-w-0 flex-1 font-book text-[16.5px] leading-[1.42] ${layer.visible ? '' : 'opacity-50'}`}
        >
          {layer.name !== null && <p className="font-sans text-xs font-semibold text-soft">{layer.name}</p>}
          {pieces.map((piece, i) => {
            // A comma stays with the word before it.
            const behind =
              piece.control && piece.text.length < 24
                ? /^[,.]/.exec(pieces[i + 1]?.text ?? '.')?.[0]
                : undefined;
            const after = i > 0 && pieces[i - 1].control && pieces[i - 1].text.length < 24;
            const glued = after ? piece.text.replace(/^[,.]/, '') : piece.text;
            return (
              <span key={i} className={behind ? 'whitespace-nowrap' : undefined}>
                <Piece piece={{ ...piece, text: glued }} layer={layer} />
                {behind}
              </span>
            );
          })}
        </div>
        <button
          type="button"
          className="mark size-7"
          aria-expanded={open}
          aria-label="Fine settings"
          title="Fine settings"
          onClick={() => useDesk.setState({ openLayer: open ? null : layer.id })}
        >
          <ChevronDown size={16} className={`transition ${open ? 'rotate-180' : ''}`} />
        </button>
      </div>
      <News layer={layer} />
      {open && <FineSettings layer={layer} />}
    </li>
  );
}

function Piece({ piece, layer }: { piece: SentencePiece; layer: Layer }) {
  const scene = useScene();
  const { control, text } = piece;
  if (!control) return <span>{text}</span>;
  switch (control.kind) {
    case 'parts':
      return (
        <Chooser word={text} label="Which parts">
          <PartChoices layer={layer} />
        </Chooser>
      );
    case 'field':
    case 'plain':
      return (
        <>
          <Chooser word={text} label="What it is coloured by">
            {control.kind === 'field' ? <FieldChoices layer={layer} /> : <PlainChoices layer={layer} />}
          </Chooser>
          {control.kind === 'plain' && <Swatch colour={(layer.colour as { colour: string }).colour} />}
        </>
      );
    case 'scale': {
      const scale = scene.scales.find((s) => layer.colour.kind === 'field' && s.id === layer.colour.scale);
      if (!scale) return <span>{text}</span>;
      return (
        <Chooser
          wide
          label="The colour scale"
          word={
            <>
              {text}
              <ScaleRamp scale={scale} />
            </>
          }
        >
          <ScaleChoices scale={scale} layer={layer} />
        </Chooser>
      );
    }
    case 'finish':
      return (
        <Chooser word={text} label="The finish" wide>
          <FinishChoices
            finish={layer.finish}
            none="plain colour"
            onChange={(finish, key = null) =>
              edit({ type: 'layer.change', id: layer.id, change: { finish } }, key && `${key}-${layer.id}`)
            }
          />
        </Chooser>
      );
    case 'opacity':
    case 'edges':
    case 'time':
      return (
        <Chooser word={text} label={`Change ${text}`} wide>
          <div className="flex flex-col gap-2.5">
            <LookChoices layer={layer} />
          </div>
        </Chooser>
      );
    case 'setting':
      return <span>{text}</span>;
    case 'option':
      return <OptionWord layer={layer} step={control.step} option={control.key} text={text} />;
  }
}

function ScaleRamp({ scale }: { scale: Scale }) {
  return <Ramp scale={useSettled(scale)} />;
}

function Swatch({ colour }: { colour: string }) {
  return (
    <span
      className="ml-1 inline-block h-3 w-5 rounded-sm border border-rule align-baseline"
      style={{ background: colour }}
    />
  );
}

interface DeedProps {
  title?: string;
  onDo(): void;
  children: ReactNode;
}

/** Something to do with a whole line, said small. */
function Deed({ title, onDo, children }: DeedProps) {
  return (
    <button
      type="button"
      className="flex items-center gap-1 rounded-md py-0.5 text-soft hover:text-accent"
      title={title}
      onClick={onDo}
    >
      {children}
    </button>
  );
}

/** What is folded away, so that one knows where to look for it. */
const sayMore = (dimension: number, steps: number): string =>
  `Edges, line width, ${dimension === 3 ? 'sides, ' : ''}${steps > 1 ? 'step, ' : ''}wipe, name`;

/** What is wanted most often stands before the fold. */
const isFirst = (key: string): boolean => key === 'opacity' || key === 'finish';

function FineSettings({ layer }: { layer: Layer }) {
  const [typing, setTyping] = useState(false);
  const run = useRun();
  const change = (c: Partial<Layer>, key: string | null = null) =>
    edit({ type: 'layer.change', id: layer.id, change: c }, key);
  const deformed = layer.chain.some((s) => !s.off && understood(s)?.operation.traits?.displaces);
  return (
    <div className="flex flex-col gap-2.5 pr-3 pb-3.5 pl-9">
      {typing && <SentenceInput layer={layer} onDone={() => setTyping(false)} />}
      <ChainEditor layer={layer} />
      <LookChoices layer={layer} wanted={isFirst} />
      <TakeLook layer={layer} />
      <details>
        <summary className="cursor-pointer text-sm text-soft hover:text-ink">
          {sayMore(run.dimension, run.steps.length)}
        </summary>
        <div className="mt-2.5 flex flex-col gap-2.5">
          <LookChoices layer={layer} wanted={(key) => !isFirst(key)} />
          <label className="flex items-center gap-3">
            <span className="w-16 text-soft">Name</span>
            <input
              className="field min-w-0 flex-1"
              placeholder="as its sentence says"
              value={layer.name ?? ''}
              onChange={(e) => change({ name: e.target.value || null }, `name-${layer.id}`)}
            />
          </label>
        </div>
      </details>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
        <Deed onDo={() => setTyping(!typing)}>
          <TextCursorInput size={14} /> As text
        </Deed>
        <Deed onDo={() => edit({ type: 'layer.duplicate', id: layer.id, newId: freshId('layer') })}>
          <Copy size={14} /> Duplicate
        </Deed>
        <Deed
          title="A new line that takes over this one, whatever becomes of it"
          onDo={() => followLayer(layer)}
        >
          <CornerDownRight size={14} /> Follow
        </Deed>
        {run.steps.length > 1 && (
          <Deed
            title="Its count, and the mean and sum of what it is coloured by, as curves over the steps"
            onDo={() => drawNumbersOfLine(layer)}
          >
            <ChartLine size={14} /> Numbers over the steps
          </Deed>
        )}
        {deformed && (
          <Deed
            title="The undeformed shape where it stands clear of this, as a line of its own"
            onDo={() => addGhost(layer)}
          >
            <Ghost size={14} /> Undeformed ghost
          </Deed>
        )}
        <Deed onDo={() => edit({ type: 'layer.remove', id: layer.id })}>
          <Trash2 size={14} /> Delete
        </Deed>
      </div>
    </div>
  );
}

/** Colours, opacity, edges and sides of another line, taken over at once. */
function TakeLook({ layer }: { layer: Layer }) {
  const scene = useScene();
  const others = scene.layers.filter((l) => l.id !== layer.id);
  if (others.length === 0) return null;
  return (
    <label className="flex items-center gap-3">
      <span className="w-20 shrink-0 text-soft">Look as</span>
      <select
        className="field h-7 min-w-0 flex-1"
        aria-label="Take the look of another line"
        value=""
        onChange={(e) => {
          const from = others.find((l) => l.id === e.target.value);
          if (from) takeLook(layer, from);
        }}
      >
        <option value="">another line …</option>
        {others.map((l) => (
          <option key={l.id} value={l.id}>
            {layerLabel(l, scene)}
          </option>
        ))}
      </select>
    </label>
  );
}

/** What the operations of a line have to say: counts, cut-away values, or why there is nothing to see. */
function News({ layer }: { layer: Layer }) {
  const run = useRun();
  const scene = useScene();
  const news = useDesk((s) => s.news[layer.id]);
  if (!news || !layer.visible) return null;
  const setting = settingOf(run, scene, layer);
  const options = (layer.chain.findLast((s) => (s.options as { field?: string }).field)?.options ??
    {}) as object;
  const lines = news.trouble
    ? [news.trouble]
    : sayReport(news.report, news.empty, { length: run.lengthUnit, field: fieldUnit(options, setting) });
  if (lines.length === 0) return null;
  return (
    <p
      role="status"
      data-testid="news"
      className={`pr-3 pb-2 pl-9 text-xs ${news.trouble || news.empty ? 'text-warn' : 'text-soft'}`}
    >
      {lines.join(' ')}
    </p>
  );
}

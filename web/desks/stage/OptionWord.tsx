import { useRef } from 'react';
import { quantityOf } from '#core/language/phrase.ts';
import type { Levels } from '#core/model/levels.ts';
import type { OptionControl } from '#core/ops/chain/operation.ts';
import { understood } from '#core/ops/chain/understood.ts';
import { movingRange } from '#core/ops/kernels/planes.ts';
import type { Layer } from '#core/scene/document.ts';
import { settingOf } from '#core/scene/setting.ts';
import { MovesMark } from '#web/desks/reel/KeyDot.tsx';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { Chooser } from './Chooser.tsx';
import { OptionControls } from './controls/OptionControls.tsx';
import { edit, useDesk, useRun, useScene } from './desk-store.ts';
import { roundTo } from './round-to.ts';

interface Props {
  layer: Layer;
  /** Id of the step of its chain. */
  step: string;
  option: string;
  text: string;
}

/** A word of a sentence that belongs to an operation: a number scrubs sideways, everything else opens its choices. */
export function OptionWord({ layer, step, option, text }: Props) {
  const scrub = useScrub(layer, step, option);
  const mark = <MovesMark of={['layers', layer.id, 'chain', step, option]} />;
  if (scrub)
    return (
      <>
        <ScrubWord text={text} {...scrub} layer={layer} step={step} option={option} />
        {mark}
      </>
    );
  return (
    <>
      <Chooser word={text} label={`Change ${text}`} wide>
        <OptionControls layer={layer} step={step} only={option} />
      </Chooser>
      {mark}
    </>
  );
}

interface Scrub {
  value: number;
  low: number;
  high: number;
  whole: boolean;
  locked: boolean;
  change(value: number): Record<string, unknown>;
}

/** How far a number can be dragged; null for words that are no single number. */
function useScrub(layer: Layer, step: string, option: string): Scrub | null {
  const run = useRun();
  const scene = useScene();
  const chainStep = layer.chain.find((s) => s.id === step);
  const known = chainStep ? understood(chainStep) : null;
  if (!known) return null;
  const { operation } = known;
  const options = known.options as Record<string, unknown>;
  const setting = settingOf(run, scene, layer);
  const locked = options.locked === true;
  const value = options[option];
  const plain = (v: number) => ({ [option]: v });
  const controls = operation.controls as OptionControl<Record<string, unknown>>[];
  const levels = controls.some((c) => c.kind === 'levels' && c.key === option) ? (value as Levels) : null;
  if (levels?.kind === 'list' && levels.values.length === 1) {
    const q = quantityOf(options, setting);
    if (!q) return null;
    return {
      value: levels.values[0],
      low: q.low,
      high: q.high,
      whole: false,
      locked,
      change: (v) => ({ [option]: { kind: 'list', values: [v] } }),
    };
  }
  if (typeof value !== 'number') return null;
  for (const control of controls) {
    if (control.when && !control.when(options, setting)) continue;
    if (control.kind === 'plane' && control.offset === option) {
      const [low, high] = movingRange(setting.bounds, options[control.key] as number[], control, options);
      return { value, low, high, whole: false, locked, change: plain };
    }
    if (control.kind === 'span' && (control.key === option || control.high === option)) {
      const q = quantityOf(options, setting);
      if (q) return { value, low: q.low, high: q.high, whole: false, locked: false, change: plain };
    }
    if (control.kind === 'number' && control.key === option && control.range) {
      const [low, high] = control.range(options, setting);
      return { value, low, high, whole: control.whole ?? false, locked: false, change: plain };
    }
  }
  return null;
}

function ScrubWord({ text, value, low, high, whole, locked, change, layer, step }: Scrub & Props) {
  const drag = useRef<{ x: number; value: number; key: string; moved: boolean } | null>(null);
  const put = (next: number, key: string) => {
    const fit = Math.min(high, Math.max(low, next));
    const rounded = whole ? Math.round(fit) : roundTo(fit, high - low);
    edit({ type: 'chain.change', id: layer.id, step, options: change(rounded) }, key);
  };
  return (
    <button
      type="button"
      className={`word ${locked ? '' : 'cursor-ew-resize'} touch-none`}
      title={locked ? 'Locked' : 'Drag sideways to change it; click for all settings'}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { x: e.clientX, value, key: freshId('scrub'), moved: false };
      }}
      onPointerMove={(e) => {
        const d = drag.current;
        if (!d || locked || (!d.moved && Math.abs(e.clientX - d.x) < 4)) return;
        d.moved = true;
        put(d.value + ((e.clientX - d.x) / 300) * (high - low), d.key);
      }}
      onPointerUp={() => {
        if (drag.current && !drag.current.moved) useDesk.setState({ openLayer: layer.id });
        drag.current = null;
      }}
      onKeyDown={(e) => {
        if (locked || (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight')) return;
        const stride = whole ? 1 : (high - low) / 100;
        put(value + (e.key === 'ArrowRight' ? stride : -stride), `keys-${layer.id}`);
      }}
    >
      {text}
    </button>
  );
}

import { parseQuantity } from '#core/model/quantity.ts';
import type { Layer } from '#core/scene/document.ts';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { NumberField } from '../Chooser.tsx';
import { useScene } from '../desk-store.ts';
import type { ControlProps } from './control-props.ts';
import { Row } from './VectorControls.tsx';

/** Edges of cells: whether, in which colour and how strong. */
export function EdgesControl({ control, options, set }: ControlProps<'edges'>) {
  const edges = options[control.key] as Layer['edges'];
  const change = (c: Partial<Layer['edges']>, key: string | null = null): void =>
    set({ [control.key]: { ...edges, ...c } }, key);
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5">
      <Tick label={control.label} checked={edges.shown} onChange={(shown) => change({ shown })} />
      {edges.shown && (
        <>
          {edges.by === null && (
            <input
              type="color"
              aria-label="Colour of the edges"
              className="h-6 w-8"
              value={edges.colour}
              onChange={(e) => change({ colour: e.target.value }, 'edges')}
            />
          )}
          <EdgeScale edges={edges} onChange={(by) => change({ by })} />
          <input
            type="range"
            aria-label="Opacity of the edges"
            className="w-16"
            min={0.05}
            max={1}
            step={0.05}
            value={edges.opacity}
            onChange={(e) => change({ opacity: Number(e.target.value) }, 'edges')}
          />
        </>
      )}
    </div>
  );
}

/** One colour, or a quantity on a colour scale of the scene. */
function EdgeScale({ edges, onChange }: { edges: Layer['edges']; onChange(by: Layer['edges']['by']): void }) {
  const { scales } = useScene();
  if (scales.length === 0) return null;
  return (
    <select
      aria-label="What the edges are coloured by"
      className="field h-7 max-w-36"
      value={edges.by?.scale ?? ''}
      onChange={(e) => {
        const scale = scales.find((s) => s.id === e.target.value);
        onChange(scale ? { ...parseQuantity(scale.quantity), scale: scale.id } : null);
      }}
    >
      <option value="">one colour</option>
      {scales.map((s) => (
        <option key={s.id} value={s.id}>
          by {s.name}
        </option>
      ))}
    </select>
  );
}

const first: Record<Layer['time']['kind'], Layer['time']> = {
  now: { kind: 'now' },
  fixed: { kind: 'fixed', step: 0 },
  later: { kind: 'later', by: -1 },
};

/** Which step a layer shows. */
export function LayerTimeControl({ control, options, setting, set }: ControlProps<'layer time'>) {
  const time = options[control.key] as Layer['time'];
  const put = (next: Layer['time']): void => set({ [control.key]: next });
  return (
    <Row label={control.label}>
      <select
        aria-label="Which step it shows"
        className="field h-7 min-w-0 flex-1"
        value={time.kind}
        onChange={(e) => put(first[e.target.value as Layer['time']['kind']])}
      >
        <option value="now">the step on show</option>
        <option value="fixed">always the same step</option>
        <option value="later">a step before or after it</option>
      </select>
      {time.kind === 'fixed' && (
        <NumberField
          label=""
          value={time.step}
          onChange={(v) =>
            put({ kind: 'fixed', step: Math.max(0, Math.min(setting.steps - 1, Math.round(v))) })
          }
        />
      )}
      {time.kind === 'later' && (
        <NumberField label="" value={time.by} onChange={(v) => put({ kind: 'later', by: Math.round(v) })} />
      )}
    </Row>
  );
}

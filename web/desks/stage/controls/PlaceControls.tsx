import { Crosshair } from 'lucide-react';
import type { Vector } from '#core/scene/camera.ts';
import { useDesk } from '../desk-store.ts';
import type { ControlProps } from './control-props.ts';
import { PlaneControl } from './PlaneControl.tsx';
import { AxisButtons, DirectionTriple, Row, Triple } from './VectorControls.tsx';

export function PlaneOfOptions({ control, options, setting, set }: ControlProps<'plane'>) {
  return (
    <PlaneControl
      normal={options[control.key] as Vector}
      offset={options[control.offset] as number}
      keys={[control.key, control.offset]}
      locked={options.locked === true}
      setting={setting}
      set={set}
    />
  );
}

export function DirectionControl({ control, options, set }: ControlProps<'direction'>) {
  const value = options[control.key] as Vector;
  const turn = (v: Vector): void => set({ [control.key]: v });
  return (
    <Row label={control.label}>
      <AxisButtons normal={value} onTurn={turn} />
      <DirectionTriple value={value} label={control.label} onChange={turn} />
    </Row>
  );
}

/** A place by its numbers, or by pointing at it. */
export function PlaceControl({ control, options, set }: ControlProps<'place'>) {
  const point = (): void =>
    useDesk.setState({
      pointing: {
        says: 'Click a place on the picture.',
        onPick: ({ place }) => {
          set({ [control.key]: place });
          return true;
        },
      },
    });
  return (
    <Row label={control.label}>
      <Triple
        value={options[control.key] as Vector}
        label={control.label}
        onChange={(v) => set({ [control.key]: v })}
      />
      <button
        type="button"
        className="mark size-7"
        title="Point at a place on the picture"
        aria-label={`Point at ${control.label.toLowerCase()}`}
        onClick={point}
      >
        <Crosshair size={15} />
      </button>
    </Row>
  );
}

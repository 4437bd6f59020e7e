import { Crosshair, ScanEye, Triangle } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { boundsCentre } from '#core/model/mesh.ts';
import { dot, unit, type Vector } from '#core/model/vectors.ts';
import type { OperationSetting } from '#core/ops/chain/operation.ts';
import { axisOf, distanceAlong, planeOfPoints, planeOnFace } from '#core/ops/kernels/planes.ts';
import { cameraAxes } from '#core/scene/camera.ts';
import { NumberField } from '../Chooser.tsx';
import { sceneNow, useDesk } from '../desk-store.ts';
import { roundTo } from '../round-to.ts';
import { AxisButtons, DirectionTriple, Row, Triple } from './VectorControls.tsx';

interface PlaneProps {
  normal: Vector;
  offset: number;
  keys: [string, string];
  /** How low and how high it is dragged. */
  range: [number, number];
  locked: boolean;
  setting: OperationSetting;
  set(change: Record<string, unknown>, key?: string | null): void;
}

/**
 * A plane: along an axis, facing the view, of three picked points, beside a picked face; by a direction, which stays as
 * it was typed, and a distance along it or a point on the plane.
 */
export function PlaneControl({ normal, offset, keys, range: [low, high], locked, setting, set }: PlaneProps) {
  const { bounds } = setting;
  const put = (n: Vector, o: number) => set({ [keys[0]]: n, [keys[1]]: o });
  const round = (v: number): number => roundTo(v, high - low || 1);
  const turn = (next: Vector) => {
    if (Math.hypot(...next) >= 1e-9) put(next, round(distanceAlong(next, boundsCentre(bounds))));
  };
  const n = unit(normal);
  const centre = boundsCentre(bounds);
  // Of the plane, what lies nearest to the middle of the run, until another point of it is typed.
  const [typed, setTyped] = useState<Vector>(centre);
  const isOn = Math.abs(dot(n, typed) - offset) <= 1e-9 * (Math.abs(offset) + high - low);
  const nearest = centre.map((v, k) => round(v + (offset - dot(n, centre)) * n[k])) as Vector;
  const byFace = () =>
    useDesk.setState({
      pointing: {
        says: 'Click a face; the plane lies on it.',
        onPick: ({ place, normal: face }) => {
          const on = planeOnFace(place, face);
          put(on.normal, round(on.offset));
          return true;
        },
      },
    });
  const byPoints = () => {
    const points: Vector[] = [];
    const says = (): string =>
      `Click ${['the first', 'the second', 'the third'][points.length]} of three points.`;
    const pointing = {
      says: says(),
      onPick: ({ place }: { place: Vector }): boolean => {
        points.push(place);
        if (points.length < 3) {
          useDesk.setState({ pointing: { ...pointing, says: says() } });
          return false;
        }
        const plane = planeOfPoints(points[0], points[1], points[2]);
        if (plane) put(plane.normal, round(plane.offset));
        else useDesk.setState({ trouble: 'The three points lie on one line; choose others.' });
        return true;
      },
    };
    useDesk.setState({ pointing });
  };
  return (
    <div className="flex flex-col gap-2">
      <div className="flex items-center gap-1.5">
        <span className="w-20 shrink-0 text-soft">Plane</span>
        <AxisButtons normal={normal} disabled={locked} onTurn={turn} />
        <PlaneButton
          disabled={locked}
          label="Turn the plane to face the view"
          onClick={() => turn(cameraAxes(sceneNow().camera).back.map((v) => roundTo(v, 1)) as Vector)}
        >
          <ScanEye size={15} />
        </PlaneButton>
        <PlaneButton disabled={locked} label="Lay the plane on a face" onClick={byFace}>
          <Crosshair size={15} />
        </PlaneButton>
        <PlaneButton disabled={locked} label="Plane through three points" onClick={byPoints}>
          <Triangle size={15} />
        </PlaneButton>
      </div>
      <Row label="Normal">
        <DirectionTriple value={normal} label="Normal" disabled={locked} onChange={turn} />
      </Row>
      <Row label="Through">
        <Triple
          value={isOn ? typed : nearest}
          label="Point of the plane"
          disabled={locked}
          onChange={(point) => {
            setTyped(point);
            set({ [keys[1]]: dot(n, point) });
          }}
        />
      </Row>
      <div className="flex items-center gap-2">
        <NumberField
          label={
            <span className="inline-block w-20 text-soft">
              {axisOf(normal) >= 0 ? `${'xyz'[axisOf(normal)]} =` : 'at'}
            </span>
          }
          value={offset}
          unit={setting.lengthUnit}
          onChange={(v) => !locked && set({ [keys[1]]: v })}
        />
        <input
          type="range"
          aria-label="Place of the plane"
          className="min-w-0 flex-1"
          disabled={locked}
          min={low}
          max={high}
          step={(high - low) / 400 || 1}
          value={offset}
          onChange={(e) => set({ [keys[1]]: round(Number(e.target.value)) }, 'slide-plane')}
        />
      </div>
      <p className="pl-[5.5rem] text-xs text-soft">
        from {round(low)} to {round(high)} {setting.lengthUnit ?? ''}
      </p>
    </div>
  );
}

function PlaneButton({
  label,
  disabled,
  onClick,
  children,
}: {
  label: string;
  disabled: boolean;
  onClick(): void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      className="mark size-7"
      disabled={disabled}
      aria-label={label}
      title={label}
      onClick={onClick}
    >
      {children}
    </button>
  );
}

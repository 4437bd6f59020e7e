import { useState } from 'react';
import type { RotatingFrame } from '#core/model/rotating-frame.ts';

interface Props {
  parts: string[];
  busy: boolean;
  /** What the button says. */
  act: string;
  onState(part: string, frame: RotatingFrame): void;
}

const directions: [string, [number, number, number]][] = [
  ['x', [1, 0, 0]],
  ['y', [0, 1, 0]],
  ['z', [0, 0, 1]],
];

/** States that the velocity of a part is relative to a frame that turns, so that the absolute one can be made. */
export function FrameStatement({ parts, busy, act, onState }: Props) {
  const [part, setPart] = useState(parts[0] ?? '');
  const [axis, setAxis] = useState('z');
  const [point, setPoint] = useState('0 0 0');
  const [speed, setSpeed] = useState('');
  const place = point
    .trim()
    .split(/[\s,;]+/)
    .map(Number);
  const turns = Number(speed);
  const ready =
    place.length === 3 && place.every(Number.isFinite) && speed.trim() !== '' && Number.isFinite(turns);
  return (
    <p className="mt-3 flex flex-wrap items-center gap-2">
      The velocity of
      <select
        className="field h-7"
        aria-label="Part with a relative velocity"
        value={part}
        onChange={(e) => setPart(e.target.value)}
      >
        {parts.map((p) => (
          <option key={p}>{p}</option>
        ))}
      </select>
      is relative to a frame that turns about
      <select
        className="field h-7"
        aria-label="Axis of the frame"
        value={axis}
        onChange={(e) => setAxis(e.target.value)}
      >
        {directions.map(([name]) => (
          <option key={name}>{name}</option>
        ))}
      </select>
      through
      <input
        className="field h-7 w-24"
        aria-label="A point of the axis"
        value={point}
        onChange={(e) => setPoint(e.target.value)}
      />
      at
      <input
        className="field h-7 w-20"
        aria-label="Speed of the frame"
        placeholder="speed"
        value={speed}
        onChange={(e) => setSpeed(e.target.value)}
      />
      turns a minute
      <button
        type="button"
        className="quiet h-8"
        disabled={busy || !ready}
        onClick={() =>
          onState(part, {
            axis: directions.find(([n]) => n === axis)![1],
            point: place as [number, number, number],
            rate: (turns * 2 * Math.PI) / 60,
          })
        }
      >
        {act}
      </button>
    </p>
  );
}

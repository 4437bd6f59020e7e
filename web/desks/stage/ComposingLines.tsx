import { composingGuides, type GuideLine, SAFE_MARGINS } from '#core/scene/composing-guides.ts';
import { useScene } from './desk-store.ts';

/** What a border keeps free at each side. */
const border = (m: number): GuideLine[] => [
  [m, m, 1 - m, m],
  [m, 1 - m, 1 - m, 1 - m],
  [m, m, m, 1 - m],
  [1 - m, m, 1 - m, 1 - m],
];

/** Lines over the picture for whoever composes it; no picture that is given out has them. */
export function ComposingLines({ width, height }: { width: number; height: number }) {
  const { guide, safe } = useScene().picture;
  const lines = composingGuides.find((g) => g.id === guide)?.lines(width / height) ?? [];
  const safeLines = safe ? [...border(SAFE_MARGINS.motion), ...border(SAFE_MARGINS.words)] : [];
  if (lines.length + safeLines.length === 0) return null;
  return (
    <svg
      aria-hidden
      data-testid="composing-lines"
      className="pointer-events-none absolute inset-0"
      width={width}
      height={height}
    >
      {/* Dark beside bright: seen on whatever lies behind. */}
      {['rgb(0 0 0 / 0.4)', 'rgb(255 255 255 / 0.75)'].map((stroke, i) =>
        [...lines, ...safeLines].map(([x0, y0, x1, y1], n) => (
          <line
            key={`${stroke} ${n}`}
            x1={x0 * width + i}
            y1={y0 * height + i}
            x2={x1 * width + i}
            y2={y1 * height + i}
            stroke={stroke}
            strokeDasharray={n < lines.length ? undefined : '6 4'}
          />
        )),
      )}
    </svg>
  );
}

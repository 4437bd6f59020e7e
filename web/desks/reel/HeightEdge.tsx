import { followPress } from './lane-drag.ts';

/** Heights the reel can have, in pixels; the picture above it keeps some of the window. */
const LEAST = 180;
const KEPT_ABOVE = 240;
const STEP = 28;

interface Props {
  height: number;
  onHeight(height: number): void;
}

/** The upper edge of the reel: dragged, or moved by the arrow keys, it makes room for more lanes. */
export function HeightEdge({ height, onHeight }: Props) {
  const most = () => Math.max(LEAST, window.innerHeight - KEPT_ABOVE);
  const set = (wanted: number) => onHeight(Math.min(most(), Math.max(LEAST, wanted)));
  return (
    // biome-ignore lint/a11y/useSemanticElements: a separator that is moved is no rule between paragraphs
    <div
      role="separator"
      aria-orientation="horizontal"
      aria-label="Height of the reel"
      aria-valuenow={height}
      aria-valuemin={LEAST}
      tabIndex={0}
      title="Drag it for more lanes, or fewer"
      className="absolute inset-x-0 -top-1 z-20 h-2 cursor-row-resize touch-none hover:bg-accent/30"
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        const foot = e.clientY + height;
        followPress(
          e,
          (_, { clientY }) => set(foot - clientY),
          () => undefined,
        );
      }}
      onKeyDown={(e) => {
        const by = { ArrowUp: STEP, ArrowDown: -STEP }[e.key];
        if (!by) return;
        e.preventDefault();
        e.stopPropagation();
        set(height + by);
      }}
    />
  );
}

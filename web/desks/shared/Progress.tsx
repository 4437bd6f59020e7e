interface Props {
  label: string;
  /** 0..1; null where nobody knows how far it is. */
  done: number | null;
  /** Seconds to go, when known. */
  remaining: number | null;
  /** How many jobs of others come first, while it waits. */
  ahead?: number;
  /** What the way out is called. */
  stops?: string;
  onCancel(): void;
}

/** Long work: how far, how long still, and a way out. */
export function Progress({ label, done, remaining, ahead = 0, stops = 'Cancel', onCancel }: Props) {
  const percent = done === null ? null : Math.round(done * 100);
  const rest = remaining !== null && remaining > 1 ? `about ${sayWait(remaining)}` : null;
  return (
    <div className="flex items-center gap-3" role="status">
      <div className="min-w-0 flex-1">
        <div className="mb-1 flex flex-wrap justify-between gap-x-3 text-sm">
          <span className="max-w-full truncate" title={label}>
            {label}
          </span>
          <span className="text-soft tabular-nums">
            {ahead > 0
              ? `waiting, ${ahead === 1 ? 'one other comes' : `${ahead} others come`} first`
              : [percent === null ? null : `${percent} %`, rest].filter(Boolean).join(', ')}
          </span>
        </div>
        <div className="h-1.5 overflow-hidden rounded-full bg-sunk">
          <div
            className={`h-full rounded-full bg-accent transition-[width] ${percent === null ? 'animate-pulse' : ''}`}
            style={{ width: `${percent ?? 100}%` }}
          />
        </div>
      </div>
      <button type="button" className="quiet h-8 shrink-0" onClick={onCancel}>
        {stops}
      </button>
    </div>
  );
}

function sayWait(seconds: number): string {
  if (seconds < 90) return `${Math.round(seconds)} s left`;
  return `${Math.round(seconds / 60)} min left`;
}

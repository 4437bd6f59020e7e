import { useRef, useState } from 'react';
import { problemFrom } from '#engine/server-requests.ts';
import { Row } from './VectorControls.tsx';

interface Props {
  label: string;
  /** Name of the file that is chosen; null while there is none. */
  now: string | null;
  accept: string;
  /** What is said while there is none. */
  hint: string;
  /** Reads and keeps a file; what it throws is told. */
  take(file: File, signal: AbortSignal): Promise<void>;
}

/** A file to be chosen, with what is wrong with the one that was. */
export function FileRow({ label, now, accept, hint, take }: Props) {
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const reading = useRef<AbortController | null>(null);
  const read = async (file: File): Promise<void> => {
    reading.current = new AbortController();
    const { signal } = reading.current;
    setBusy(true);
    setTrouble(null);
    try {
      await take(file, signal);
    } catch (error) {
      if (!signal.aborted) setTrouble(sayTrouble(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <div>
      <Row label={label}>
        {now && (
          <span className="min-w-0 flex-1 truncate" title={now}>
            {now}
          </span>
        )}
        <label className="quiet h-7 shrink-0 cursor-pointer">
          {busy ? 'Reading …' : now ? 'Another …' : 'Choose …'}
          <input
            type="file"
            className="sr-only"
            aria-label={label}
            accept={accept}
            disabled={busy}
            onChange={(e) => {
              const [file] = e.target.files ?? [];
              e.target.value = '';
              if (file) void read(file);
            }}
          />
        </label>
        {busy && (
          <button type="button" className="quiet h-7" onClick={() => reading.current?.abort()}>
            Stop
          </button>
        )}
      </Row>
      {trouble ? (
        <p role="alert" className="mt-1 text-xs text-warn">
          {trouble}
        </p>
      ) : (
        !now && <p className="mt-1 text-xs text-soft">{hint}</p>
      )}
    </div>
  );
}

function sayTrouble(error: unknown): string {
  const { reason, remedy } = problemFrom(error);
  return error instanceof Error && error.message === reason ? reason : `${reason}. ${remedy}`;
}

import { ChevronUp, File, Folder } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { FileProblem } from '#core/model/read-error.ts';
import { ask, problemFrom } from '#engine/server-requests.ts';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { sayBytes } from '#web/desks/shared/say-bytes.ts';
import type { FolderEntry } from '#web/pages/api/folders.ts';

interface Listing {
  path: string | null;
  parent: string | null;
  entries: FolderEntry[];
}

interface Props {
  onOpen(path: string): void;
  /** What is done with a whole folder. */
  word?: string;
  /** Files are seen, and are no choice. */
  foldersOnly?: boolean;
}

/** The folders the server may read; a file or a whole folder is opened without copying it. */
export function ServerFolder({ onOpen, word = 'Open all of this folder', foldersOnly = false }: Props) {
  const [listing, setListing] = useState<Listing | null>(null);
  const [problem, setProblem] = useState<FileProblem | null>(null);

  const go = async (path: string | null) => {
    try {
      setListing(await ask<Listing>(`/api/folders${path ? `?path=${encodeURIComponent(path)}` : ''}`));
      setProblem(null);
    } catch (error) {
      setProblem(problemFrom(error));
    }
  };
  useEffect(() => void go(null), []);

  return (
    <section aria-label="Folders of the server" className="rounded-xl border border-rule bg-sheet">
      <div className="flex items-center gap-2 border-b border-rule px-4 py-2">
        <button
          type="button"
          className="mark"
          disabled={!listing?.path}
          onClick={() => go(listing?.parent ?? null)}
          aria-label="Up one folder"
        >
          <ChevronUp size={17} />
        </button>
        <span className="min-w-0 flex-1 truncate text-soft">
          {listing?.path ?? 'Folders this server may read'}
        </span>
        {listing?.path && (
          <button type="button" className="quiet h-8" onClick={() => onOpen(listing.path!)}>
            {word}
          </button>
        )}
      </div>
      {problem && (
        <div className="p-3">
          <ProblemNote problem={problem} />
        </div>
      )}
      <ul className="max-h-64 overflow-y-auto p-1.5">
        {listing?.entries.map((entry) => (
          <li key={entry.path}>
            <button
              type="button"
              className="flex w-full items-center gap-2.5 rounded-md px-2.5 py-1 text-left hover:bg-sunk disabled:opacity-60"
              disabled={foldersOnly && !entry.folder}
              onClick={() => (entry.folder ? go(entry.path) : onOpen(entry.path))}
            >
              {entry.folder ? (
                <Folder size={16} className="text-accent" />
              ) : (
                <File size={16} className="text-soft" />
              )}
              <span className="min-w-0 flex-1 truncate">{entry.name}</span>
              {!entry.folder && <span className="text-soft tabular-nums">{sayBytes(entry.bytes)}</span>}
            </button>
          </li>
        ))}
        {listing?.entries.length === 0 && <li className="px-3 py-2 text-soft">Nothing here.</li>}
      </ul>
    </section>
  );
}

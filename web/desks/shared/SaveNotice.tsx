import type { ReactNode } from 'react';
import { sayList } from '#core/language/sentence.ts';
import type { DocumentSaver, SaveState } from './document-saver.ts';

interface Props<T extends object> {
  /** What is saved, in a word. */
  what: string;
  save: SaveState<T>;
  saver: DocumentSaver<T>;
}

/** What the person must know about how a document is kept: not saved, or changed elsewhere. */
export function SaveNotice<T extends object>({ what, save, saver }: Props<T>) {
  if (save.kind === 'conflict')
    return (
      <NoticeBar>
        <p className="min-w-0 flex-1">
          This {what} was changed elsewhere, perhaps in another tab, and both changed {sayList(save.places)}.
          Nothing is lost yet: choose what stays.
        </p>
        <button type="button" className="quiet h-8" onClick={() => saver.takeTheirs()}>
          Take the other
        </button>
        <button type="button" className="act h-8" onClick={() => saver.keepMine()}>
          Keep mine
        </button>
      </NoticeBar>
    );
  if (save.kind === 'failed')
    return (
      <NoticeBar>
        <p className="min-w-0 flex-1">
          Not saved: {save.reason} Keep this page open; it goes on trying, and nothing on it is lost.
        </p>
      </NoticeBar>
    );
  return null;
}

/** A bar across the desk with something that must be known. */
export function NoticeBar({ children }: { children: ReactNode }) {
  return (
    <div role="alert" className="flex items-center gap-3 border-b border-rule bg-accent-wash px-5 py-2">
      {children}
    </div>
  );
}

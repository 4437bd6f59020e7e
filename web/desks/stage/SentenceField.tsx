import { useEffect, useRef, useState } from 'react';
import type { NotRead } from '#core/language/sentence-reader.ts';
import { ProposalPills } from './ProposalPills.tsx';
import { type Proposal, proposedAt } from './sentence-proposals.ts';
import { withProposal } from './with-proposal.ts';

interface Props {
  label: string;
  placeholder: string;
  text: string;
  onText(text: string): void;
  /** Where it is not understood any more; null where all of it is. */
  notRead: NotRead | null;
  /** What it is understood as, where that is worth saying. */
  readAs?: string | null;
  /** What confirming it does: "Add". */
  confirmWord: string;
  onConfirm(): void;
  onDone(): void;
}

/**
 * A sentence to type. What is understood so far is plain, what is not is underlined, and below it stands what would be
 * understood there; Tab takes the first of these.
 */
export function SentenceField({
  label,
  placeholder,
  text,
  onText,
  notRead,
  readAs,
  confirmWord,
  onConfirm,
  onDone,
}: Props) {
  const [caret, setCaret] = useState(text.length);
  const [chosen, setChosen] = useState(0);
  const input = useRef<HTMLTextAreaElement>(null);
  const { proposals, because, byKey } = proposedAt(text, caret, notRead);
  const first = byKey ? proposals[chosen] : undefined;
  useEffect(() => setChosen(0), [text]);
  useEffect(() => input.current?.focus(), []);
  const take = (proposal: Proposal) => {
    input.current?.focus();
    // What only says what is wanted is no words to be put in.
    if (proposal.describes) return;
    const next = withProposal(text, proposal);
    onText(next);
    setCaret(next.length);
  };
  return (
    <div className="relative">
      <div className="relative font-book text-[16px] leading-[1.4]">
        <div
          aria-hidden="true"
          className="pointer-events-none absolute inset-0 px-2 py-1.5 break-words whitespace-pre-wrap text-transparent"
        >
          {notRead ? (
            <>
              {text.slice(0, notRead.at)}
              <span className="underline decoration-warn decoration-wavy underline-offset-4">
                {text.slice(notRead.at) || ' '}
              </span>
            </>
          ) : (
            text
          )}
        </div>
        <textarea
          ref={input}
          aria-label={label}
          aria-invalid={notRead !== null && text !== ''}
          rows={Math.max(2, Math.ceil(text.length / 34))}
          className="relative block w-full resize-none rounded-md border border-rule bg-transparent px-2 py-1.5 outline-none focus:border-accent"
          placeholder={placeholder}
          value={text}
          spellCheck={false}
          onChange={(e) => {
            onText(e.target.value.replace(/\n/g, ' '));
            setCaret(e.target.selectionStart);
          }}
          onSelect={(e) => setCaret(e.currentTarget.selectionStart)}
          onKeyDown={(e) => {
            if (e.key === 'Escape') onDone();
            else if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
              if (proposals.length === 0) return;
              e.preventDefault();
              const by = e.key === 'ArrowDown' ? 1 : -1;
              setChosen((chosen + by + proposals.length) % proposals.length);
            } else if (e.key === 'Tab' && first) {
              e.preventDefault();
              take(first);
            } else if (e.key === 'Enter') {
              e.preventDefault();
              if (!notRead) onConfirm();
              else if (first) take(first);
            }
            e.stopPropagation();
          }}
        />
      </div>
      {because && (
        <p role="alert" className="mt-1 text-xs text-warn">
          {because}
          {proposals.length > 0 && ' There could be:'}
        </p>
      )}
      {proposals.length > 0 && (
        <ProposalPills proposals={proposals} chosen={byKey ? chosen : -1} onTake={take} />
      )}
      {readAs && <p className="mt-1.5 text-xs text-soft">Read as: {readAs}</p>}
      <div className="mt-1.5 flex items-center gap-2 text-xs text-soft">
        <button type="button" className="quiet h-7" disabled={notRead !== null} onClick={onConfirm}>
          {confirmWord}
        </button>
        <button type="button" className="quiet h-7" onClick={onDone}>
          Leave
        </button>
        <span>Tab completes, Enter confirms</span>
      </div>
    </div>
  );
}

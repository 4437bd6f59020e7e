interface Props<P extends { text: string }> {
  proposals: readonly (P & { describes?: boolean })[];
  /** Which of them is taken by Tab. */
  chosen: number;
  onTake(proposal: P): void;
}

/** What would be understood where somebody types. */
export function ProposalPills<P extends { text: string }>({ proposals, chosen, onTake }: Props<P>) {
  return (
    <div
      role="listbox"
      tabIndex={-1}
      aria-label="What would be understood"
      className="mt-1 flex flex-wrap gap-1"
    >
      {proposals.map((p, i) => (
        <button
          key={p.text}
          type="button"
          role="option"
          aria-selected={i === chosen}
          className={`rounded-full border px-2 py-0.5 text-xs ${i === chosen ? 'border-accent bg-accent-wash' : 'border-rule hover:border-soft'} ${p.describes ? 'italic text-soft' : ''}`}
          onClick={() => onTake(p)}
        >
          {p.text}
        </button>
      ))}
    </div>
  );
}

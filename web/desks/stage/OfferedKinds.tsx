interface Kind {
  id: string;
  name: string;
  purpose: string;
}

/** Kinds of something to begin with, each with what it is for. */
export function OfferedKinds<K extends Kind>({
  kinds,
  onChoose,
}: {
  kinds: readonly K[];
  onChoose(kind: K): void;
}) {
  return (
    <div className="grid grid-cols-2 items-start gap-x-1 gap-y-0.5">
      {kinds.map((kind) => (
        <button
          key={kind.id}
          type="button"
          className="rounded-md px-2 py-1 text-left hover:bg-sunk"
          onClick={() => onChoose(kind)}
        >
          <span className="block font-medium">{kind.name}</span>
          <span className="block text-xs leading-tight text-soft">{kind.purpose}</span>
        </button>
      ))}
    </div>
  );
}

import type { Lacking } from '#core/scene/likely-names.ts';
import type { Renames } from '#core/scene/rename-in-scene.ts';

const kinds = { field: 'fields', part: 'parts' } as const;

/** What is likely meant by all that is lacking. */
export function likelyNames(lacking: readonly Lacking[]): Renames {
  const names: Renames = { fields: {}, parts: {} };
  for (const { kind, asked, likely } of lacking) if (likely) names[kinds[kind]][asked] = likely;
  return names;
}

interface Props {
  lacking: readonly Lacking[];
  names: Renames;
  onNames(names: Renames): void;
}

/** What is called otherwise elsewhere, or is not there: each with what is meant by it. */
export function NamesMeant({ lacking, names, onNames }: Props) {
  return (
    <ul className="flex flex-col gap-2">
      {lacking.map((l) => (
        <li key={`${l.kind} ${l.asked}`} className="flex flex-wrap items-center gap-x-3 gap-y-1">
          <span className="max-w-56 min-w-32 flex-1 truncate text-right">
            <span className="text-soft">{l.kind === 'field' ? 'quantity ' : 'part '}</span>
            <span className="font-medium">{l.name}</span>
          </span>
          <span className="text-soft">is now</span>
          <select
            aria-label={`${l.name} is now`}
            className="field w-40 flex-1"
            value={names[kinds[l.kind]][l.asked] ?? ''}
            onChange={(e) => {
              const { [l.asked]: _, ...others } = names[kinds[l.kind]];
              const own = e.target.value ? { ...others, [l.asked]: e.target.value } : others;
              onNames({ ...names, [kinds[l.kind]]: own });
            }}
          >
            <option value="">not there any more</option>
            {l.offered.map((o) => (
              <option key={o.value} value={o.value}>
                {o.name}
              </option>
            ))}
          </select>
        </li>
      ))}
    </ul>
  );
}

import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { ask } from '#engine/server-requests.ts';
import { type Removal, useRemoving } from './removing.tsx';
import { useRoving } from './roving.ts';

interface Listed {
  id: string;
  name: string;
  /** ISO 8601. */
  changed: string;
}

interface ListProps<T extends Listed> {
  title: string;
  kind: Removal['kind'];
  first: readonly T[];
  /** Where all are asked for. */
  address: string;
  /** Where one is opened, without its id. */
  page: string;
  none: string;
  /** What the tip of the bin says. */
  bin: string;
  says(one: T): string;
}

/** Documents of a kind, to be opened and deleted. */
export function DocumentList<T extends Listed>({
  title,
  kind,
  first,
  address,
  page,
  none,
  bin,
  says,
}: ListProps<T>) {
  const [all, setAll] = useState(first);
  const list = useRoving<HTMLUListElement>();
  const { remove, notice } = useRemoving(({ id }, removed) => {
    if (removed) setAll((known) => known.filter((one) => one.id !== id));
    else
      ask<T[]>(address)
        .then(setAll)
        .catch(() => undefined);
  });
  return (
    <section aria-label={title} className="min-w-0">
      <h2 className="head mb-3">{title}</h2>
      {notice}
      {all.length === 0 && <p className="text-soft">{none}</p>}
      <ul ref={list} className="flex flex-col gap-2">
        {all.map((one) => (
          <li
            key={one.id}
            className="group relative rounded-xl border border-rule bg-sheet hover:border-soft"
          >
            <a href={`${page}/${one.id}`} className="block px-4 py-3 pr-12">
              <span className="block truncate font-medium">{one.name}</span>
              <span className="text-soft">
                {says(one)},{' '}
                {new Date(one.changed).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}
              </span>
            </a>
            <button
              type="button"
              className="mark absolute top-1/2 right-2 -translate-y-1/2 opacity-0 group-hover:opacity-100 focus-visible:opacity-100"
              onClick={() => remove({ kind, id: one.id, name: one.name })}
              aria-label={`Delete ${one.name}`}
              title={bin}
            >
              <Trash2 size={16} />
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

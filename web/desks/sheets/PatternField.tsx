import { likelyPattern, namePattern } from '#core/sets/name-pattern.ts';
import { editSet, useRunSet } from './set-store.ts';

/** How many names are shown as they are read. */
const SHOWN = 4;

/** Parameters out of the names of the runs, by a pattern; what it reads is shown as one types. */
export function PatternField({ names }: { names: readonly string[] }) {
  const { pattern } = useRunSet();
  const read = pattern === '' ? null : namePattern(pattern);
  const fits = read && typeof read !== 'string' ? names.filter((n) => read.read(n) !== null).length : 0;
  const likely = likelyPattern(names);
  const set = (to: string): void => editSet({ type: 'set.pattern', pattern: to }, 'pattern');
  return (
    <div className="flex flex-col gap-2">
      <label>
        <span className="head block">Names are made as</span>
        <input
          className="field w-full"
          placeholder="oven_{fan}rpm_{vent}"
          spellCheck={false}
          value={pattern}
          aria-invalid={typeof read === 'string'}
          onChange={(e) => set(e.target.value)}
          onKeyDown={(e) => e.stopPropagation()}
        />
      </label>
      {likely && likely !== pattern && (
        <button type="button" className="quiet h-8 self-start text-sm" onClick={() => set(likely)}>
          Take {likely}
        </button>
      )}
      {read === null && (
        <p className="text-sm text-soft">
          What stands in braces becomes a column: its name goes between them. {'{}'} is passed over.
        </p>
      )}
      {typeof read === 'string' && (
        <p role="alert" className="text-sm text-warn">
          {read}
        </p>
      )}
      {read && typeof read !== 'string' && (
        <>
          <p className="text-sm text-soft" role="status">
            Fits {fits} of {names.length} names.
          </p>
          <ul className="flex flex-col gap-1 text-sm" aria-label="Names as they are read">
            {names.slice(0, SHOWN).map((name) => {
              const values = read.read(name);
              return (
                <li key={name}>
                  <span className="block truncate text-soft">{name}</span>
                  {values ? (
                    <span className="tabular-nums">
                      {read.parameters.map((p, i) => `${p} ${values[i]}`).join(', ')}
                    </span>
                  ) : (
                    <span className="text-warn">is not made so</span>
                  )}
                </li>
              );
            })}
          </ul>
        </>
      )}
    </div>
  );
}

import { useDesk } from './desk-store.ts';
import type { SceneSaver } from './scene-saver.ts';

/** What the person must know about how the scene is kept: not saved, changed elsewhere, or repaired. */
export function SaveNotice({ saver }: { saver: SceneSaver }) {
  const save = useDesk((s) => s.save);
  const repairs = useDesk((s) => s.repairs);
  if (save.kind === 'conflict')
    return (
      <Bar>
        <p className="min-w-0 flex-1">
          This scene was changed elsewhere, perhaps in another tab, and both changed {listed(save.places)}.
          Nothing is lost yet: choose what stays.
        </p>
        <button type="button" className="quiet h-8" onClick={() => saver.takeTheirs()}>
          Take the other
        </button>
        <button type="button" className="act h-8" onClick={() => saver.keepMine()}>
          Keep mine
        </button>
      </Bar>
    );
  if (save.kind === 'failed')
    return (
      <Bar>
        <p className="min-w-0 flex-1">
          Not saved: {save.reason} Keep this page open; it goes on trying, and nothing on it is lost.
        </p>
      </Bar>
    );
  if (repairs.length > 0)
    return (
      <Bar>
        <div className="min-w-0 flex-1">
          <p>The saved scene did not fit and was repaired. What it was is kept among its earlier states.</p>
          <ul className="max-h-24 list-disc overflow-y-auto pl-5 text-sm">
            {repairs.map((repair) => (
              <li key={repair}>{repair}</li>
            ))}
          </ul>
        </div>
        <button type="button" className="quiet h-8" onClick={() => useDesk.setState({ repairs: [] })}>
          Good
        </button>
      </Bar>
    );
  return null;
}

const listed = (places: string[]): string =>
  places.length < 2 ? places.join('') : `${places.slice(0, -1).join(', ')} and ${places[places.length - 1]}`;

function Bar({ children }: { children: React.ReactNode }) {
  return (
    <div role="alert" className="flex items-center gap-3 border-b border-rule bg-accent-wash px-5 py-2">
      {children}
    </div>
  );
}

import { type Checks, viewings } from '#core/scene/things/checks.ts';
import { edit, useScene } from '#web/desks/stage/desk-store.ts';
import { InHouseField } from './InHouseField.tsx';

const change = (to: Partial<Checks>): void => edit({ type: 'setting.change', thing: 'checks', change: to });

/** What a scene is checked for: how it is looked at, and which words stay in the house. */
export function CheckedFor() {
  const { checks } = useScene();
  return (
    <div className="flex flex-col gap-2 border-t border-rule pt-3 text-sm">
      <label className="flex items-center justify-between gap-2">
        Looked at
        <select
          className="field h-7 w-52"
          value={checks.seen}
          onChange={(e) => change({ seen: e.target.value as Checks['seen'] })}
        >
          {Object.entries(viewings).map(([id, { label }]) => (
            <option key={id} value={id}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <InHouseField words={checks.inHouse} onWords={(inHouse) => change({ inHouse })} />
    </div>
  );
}

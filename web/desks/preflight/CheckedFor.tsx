import { type Checks, checks as declared, viewings } from '#core/scene/things/checks.ts';
import { edit, useScene } from '#web/desks/stage/desk-store.ts';

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
      <label className="flex items-center justify-between gap-2">
        Stays in the house
        <input
          className="field h-7 w-52"
          placeholder="names, a comma between"
          key={checks.inHouse.join()}
          defaultValue={checks.inHouse.join(', ')}
          onBlur={(e) => {
            const inHouse = e.target.value
              .split(',')
              .map((word) => word.trim())
              .filter((word) => word !== '');
            const { success } = declared.schema.safeParse({ ...checks, inHouse });
            if (success && inHouse.join() !== checks.inHouse.join()) change({ inHouse });
          }}
        />
      </label>
    </div>
  );
}

import { Replace } from 'lucide-react';
import { useMemo, useState } from 'react';
import { endsOfScales } from '#core/scene/scale-ends.ts';
import { ask } from '#engine/server-requests.ts';
import { OtherRunForm } from '#web/desks/shared/OtherRunForm.tsx';
import { Chooser } from './Chooser.tsx';
import { keptSceneNow, useDesk, useKeptScene, useRun } from './desk-store.ts';

const NO_RULES = { fields: {}, parts: {} };

/** The same views of another run: the scene and its shots are made anew there, and these stay as they are. */
export function OnOtherRun() {
  const [open, setOpen] = useState(false);
  return (
    <Chooser
      word={<Replace size={17} />}
      label="The same views of another run"
      look="mark"
      side="bottom"
      wide
      open={open}
      onOpen={setOpen}
    >
      <h2 className="head mb-2">The same views of another run</h2>
      <Form />
    </Chooser>
  );
}

function Form() {
  const run = useRun();
  const scene = useKeptScene();
  const { id, runId, shots, spreads } = useDesk();
  const open = useMemo(
    () => shots.flatMap((s) => (s.document ? [{ ...s, document: s.document }] : [])),
    [shots],
  );
  const scenes = useMemo(() => [scene, ...open.map((s) => s.document)], [scene, open]);
  const ends = useMemo(() => endsOfScales(scene, run, spreads), [scene, run, spreads]);
  return (
    <>
      <OtherRunForm
        run={run}
        runId={runId}
        scenes={scenes}
        ends={ends}
        rules={NO_RULES}
        act={
          open.length === 0
            ? 'Make this scene'
            : `Make this scene and ${open.length === 1 ? 'its shot' : `its ${open.length} shots`}`
        }
        onChoose={async ({ id: other, on }) => {
          const made = await ask<{ id: string }>(`/api/scenes/${id}/on-run`, {
            method: 'POST',
            json: {
              run: other,
              document: on(keptSceneNow()),
              shots: open.map((s) => ({ id: s.id, document: on(s.document) })),
            },
          });
          location.href = `/scene/${made.id}`;
        }}
      />
      <p className="mt-3 text-xs text-soft">This scene stays as it is.</p>
    </>
  );
}

import { useEffect, useState } from 'react';
import { bodyEndings } from '#core/formats/surfaces/body-endings.ts';
import { runBounds } from '#core/model/run.ts';
import type { Enclosure } from '#core/scene/enclosure.ts';
import { type FromFile, sizeTrouble } from '#core/scene/scenery/from-file.ts';
import { bodiesOf, loadBodies } from '#stage/scenery/enclosed-bodies.ts';
import { useRun } from '../desk-store.ts';
import { takeBodyFile } from '../scenery/add-scenery.ts';
import type { ControlProps } from './control-props.ts';
import { FileRow } from './FileRow.tsx';

/** A file of bodies that goes with the scene, with what is to be known of it: what was left out, and whether its size fits. */
export function BodyFileControl({ control, options, set }: ControlProps<'body file'>) {
  const run = useRun();
  const now = options[control.key] as Enclosure | null;
  const [, setLoaded] = useState(0);
  useEffect(() => {
    if (now && !bodiesOf(now)) void loadBodies([now]).then(() => setLoaded((n) => n + 1));
  }, [now]);
  const file = now && bodiesOf(now);
  const trouble = file && sizeTrouble(options as unknown as FromFile, file.bodies, run, runBounds(run));
  return (
    <div>
      <FileRow
        label={control.label}
        now={now?.name ?? null}
        accept={bodyEndings.join()}
        hint="STL, OBJ, PLY, glTF or GLB, all of it in one file."
        take={async (chosen, signal) => {
          const change = await takeBodyFile(chosen, signal);
          if (!signal.aborted) set({ ...change });
        }}
      />
      {trouble && <p className="mt-1 text-xs text-warn">{trouble}</p>}
      {file && file.notes.length > 0 && (
        <p className="mt-1 text-xs text-soft">In this file {file.notes.join('; ')}.</p>
      )}
    </div>
  );
}

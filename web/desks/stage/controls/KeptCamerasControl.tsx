import { RefreshCw, Trash2 } from 'lucide-react';
import { sameJson } from '#core/model/same-json.ts';
import { Choice } from '../Chooser.tsx';
import { edit, sceneNow, useScene } from '../desk-store.ts';
import { KeepUnderName } from '../KeepUnderName.tsx';
import type { ControlProps } from './control-props.ts';

/** Views of the scene kept under names: to go back to, to set to what is seen now, to delete; and the present one to keep. */
export function KeptCamerasControl({ control }: ControlProps<'kept cameras'>) {
  const { cameras, camera: now } = useScene();
  const keep = (as: string): void =>
    edit({ type: 'camera.keep', camera: { name: as, camera: sceneNow().camera } });
  return (
    <fieldset>
      <legend className="head mb-1">{control.label}</legend>
      {cameras.map(({ name: kept, camera }) => (
        <div key={kept} className="flex items-center">
          <Choice
            chosen={sameJson(camera, now)}
            onChoose={() => edit({ type: 'setting.change', thing: 'camera', change: camera })}
          >
            {kept}
          </Choice>
          <button
            type="button"
            className="mark size-7"
            aria-label={`Let ${kept} show what is seen now`}
            title="Let it show what is seen now"
            onClick={() => keep(kept)}
          >
            <RefreshCw size={14} />
          </button>
          <button
            type="button"
            className="mark size-7"
            aria-label={`Delete ${kept}`}
            title="Delete"
            onClick={() => edit({ type: 'camera.remove', name: kept })}
          >
            <Trash2 size={14} />
          </button>
        </div>
      ))}
      <KeepUnderName
        label="Name of the camera"
        hint="Keep this view as …"
        says={(name) => (cameras.some((c) => c.name === name) ? 'Replace' : 'Keep view')}
        onKeep={keep}
      />
    </fieldset>
  );
}

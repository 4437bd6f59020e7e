import { Plus } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { operations } from '#core/ops/registry.ts';
import { settingOf } from '#core/scene/setting.ts';
import { useRun, useScene } from './desk-store.ts';
import { addLayer } from './layer-edits.ts';
import { SentenceInput } from './SentenceInput.tsx';

/** A new line of the scene: typed as a sentence, or begun with an operation. */
export function AddLine() {
  const [open, setOpen] = useState(false);
  const run = useRun();
  const scene = useScene();
  const setting = settingOf(run, scene);
  const fitting = operations.filter((o) => !o.fits || o.fits(setting));
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="mx-3 my-2.5 inline-flex items-center gap-2 rounded-full px-2 py-1 font-medium text-accent hover:bg-accent-wash">
        <Plus size={16} /> Add a line
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="right"
          align="start"
          sideOffset={8}
          collisionPadding={12}
          className="card z-50 max-h-[86vh] w-[380px] overflow-y-auto p-3"
        >
          <SentenceInput layer={null} onDone={() => setOpen(false)} />
          <p className="head mt-3 mb-1">or begin with</p>
          <div className="grid grid-cols-2 items-start gap-x-1 gap-y-0.5">
            {fitting.map((operation) => (
              <button
                key={operation.id}
                type="button"
                className="rounded-md px-2 py-1 text-left hover:bg-sunk"
                onClick={() => {
                  addLayer(operation);
                  setOpen(false);
                }}
              >
                <span className="block font-medium">{operation.name}</span>
                <span className="block text-xs leading-tight text-soft">{operation.purpose}</span>
              </button>
            ))}
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

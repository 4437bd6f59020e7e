import { Plus } from 'lucide-react';
import { Popover } from 'radix-ui';
import { use, useState } from 'react';
import { operations } from '#core/ops/registry.ts';
import { type Beginning, readyBeginnings } from '#core/scene/ready-beginnings.ts';
import { settingOf } from '#core/scene/setting.ts';
import { useRun, useScene } from './desk-store.ts';
import { FindingContext } from './finding-context.ts';
import { addLayer, addSentence } from './layer-edits.ts';
import { OfferedKinds } from './OfferedKinds.tsx';
import { SentenceInput } from './SentenceInput.tsx';

/** A new line of the scene: typed as a sentence, or begun with an operation or a question of the trade. */
export function AddLine() {
  const [open, setOpen] = useState(false);
  const run = useRun();
  const scene = useScene();
  const setting = settingOf(run, scene);
  const fitting = operations.filter((o) => (!o.fits || o.fits(setting)) && !o.traits?.ofLines);
  const ready = readyBeginnings.filter((r) => r.begin(setting) !== null);
  const { range } = use(FindingContext);
  const [waiting, setWaiting] = useState(false);
  const ask = async (begun: Beginning): Promise<void> => {
    let said = typeof begun === 'string' ? begun : null;
    if (typeof begun !== 'string') {
      setWaiting(true);
      const found = await range(begun.quantity.field);
      setWaiting(false);
      said = found && begun.sentence(found.min, found.max);
    }
    if (said) addSentence(said);
    setOpen(false);
  };
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
          <SentenceInput layer={null} onDone={() => setOpen(false)} onAsk={(begun) => void ask(begun)} />
          {waiting && (
            <p role="status" className="sticky top-0 mt-1 bg-accent-wash px-2 py-1 text-xs">
              Computes it for the whole run, to choose a value ...
            </p>
          )}
          <p className="head mt-3 mb-1">or begin with</p>
          <OfferedKinds
            kinds={fitting}
            onChoose={(operation) => {
              addLayer(operation);
              setOpen(false);
            }}
          />
          {ready.length > 0 && (
            <>
              <p className="head mt-3 mb-1">or ask of the flow</p>
              <OfferedKinds kinds={ready} onChoose={({ begin }) => void ask(begin(setting)!)} />
            </>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

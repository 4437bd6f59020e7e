import { Plus } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { measures } from '#core/measure/registry.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import { settingOf } from '#core/scene/setting.ts';
import { edit, useDesk, useRun, useScene } from '#web/desks/stage/desk-store.ts';
import { OfferedKinds } from '#web/desks/stage/OfferedKinds.tsx';
import { AskSentence, type AskSentenceProps } from './AskSentence.tsx';
import { gaugeOf } from './draw-curves.ts';

/** A new number: asked in a sentence, or begun with a kind of measure. */
export function AddGauge() {
  const [open, setOpen] = useState(false);
  const run = useRun();
  const scene = useScene();
  const setting = settingOf(run, scene);
  const offered = measures.flatMap((m) => {
    const example = m.example(setting);
    return example && !('at' in readAsk(example, scene, run))
      ? [{ id: m.id, name: m.name, purpose: m.purpose, example }]
      : [];
  });
  const add = (sentence: string): void => {
    const gauge = gaugeOf(sentence, run);
    if (!gauge) return;
    edit({ type: 'gauge.add', gauge });
    useDesk.setState({ openGauge: gauge.id });
    setOpen(false);
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="mx-3 my-2.5 inline-flex items-center gap-2 rounded-full px-2 py-1 font-medium text-accent hover:bg-accent-wash">
        <Plus size={16} /> Ask for a number
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="right"
          align="start"
          sideOffset={8}
          collisionPadding={12}
          className="card z-50 max-h-[86vh] w-[400px] overflow-y-auto p-3"
          onCloseAutoFocus={(e) => e.preventDefault()}
        >
          <AskField begin="" confirmWord="Ask" onAsk={add} onDone={() => setOpen(false)} />
          <p className="head mt-3 mb-1">or begin with</p>
          <OfferedKinds kinds={offered} onChoose={({ example }) => add(example)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** A question to type, about the scene of the desk. */
export function AskField(props: Omit<AskSentenceProps, 'run' | 'scene'>) {
  return <AskSentence {...props} run={useRun()} scene={useScene()} />;
}

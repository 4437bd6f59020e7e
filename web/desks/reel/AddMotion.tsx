import { Plus } from 'lucide-react';
import { useState } from 'react';
import { begun, readMotion, sayMotion } from '#core/motion/beginnings/read-motion.ts';
import { type AnyBeginning, beginnings, settingOfReel } from '#core/motion/beginnings/registry.ts';
import { shippedLooks } from '#core/scene/looks/registry.ts';
import { spanOfReel } from '#core/scene/things/reel.ts';
import { Chooser } from '#web/desks/stage/Chooser.tsx';
import type { AnyControl, Options } from '#web/desks/stage/controls/control-props.ts';
import { Controls } from '#web/desks/stage/controls/OneControl.tsx';
import { edit, useDesk, useKeptScene, useRun } from '#web/desks/stage/desk-store.ts';
import { SentenceField } from '#web/desks/stage/SentenceField.tsx';

/** A choice among more than so many is made in the sentence, which completes what is typed. */
const MOST_CHOICES = 6;

/** Motions in plain words: chosen from a list, or typed; they become ordinary keys. */
export function AddMotion() {
  const [open, setOpen] = useState(false);
  const isPointing = useDesk((s) => s.pointing !== null);
  return (
    <Chooser
      look="quiet h-8 shrink-0"
      word={
        <>
          <Plus size={15} /> Add a motion
        </>
      }
      label="Add a motion"
      wide
      open={open}
      // What is pointed at on the picture is for the motion that is being made.
      onOpen={(wanted) => (wanted || useDesk.getState().pointing === null) && setOpen(wanted)}
      away={isPointing}
    >
      <MotionField onDone={() => setOpen(false)} />
    </Chooser>
  );
}

function MotionField({ onDone }: { onDone(): void }) {
  const scene = useKeptScene();
  const run = useRun();
  const shots = useDesk((s) => s.shots);
  const [text, setText] = useState('');
  const [lacking, setLacking] = useState<string | null>(null);
  const views = shots.flatMap(({ name, document }) => (document ? [{ name, camera: document.camera }] : []));
  const setting = settingOfReel(scene, run, { views, looks: shippedLooks });
  const read = readMotion(text, setting);
  const choose = (beginning: AnyBeginning) => {
    const options = beginning.defaults(setting);
    if (typeof options === 'string') return setLacking(options);
    setLacking(null);
    setText(
      sayMotion({ beginning, options, span: { ...spanOfReel(scene.reel), ease: beginning.ease } }, setting),
    );
  };
  const set = (change: object) =>
    setText((now) => {
      const read = readMotion(now, setting);
      return 'at' in read ? now : sayMotion({ ...read, options: { ...read.options, ...change } }, setting);
    });
  const add = () => {
    if ('at' in read) return;
    edit({ type: 'reel.begin', beginning: begun(read, setting) });
    onDone();
  };
  return (
    <div className="flex flex-col gap-3">
      <SentenceField
        label="A motion in plain words"
        placeholder="from 2 s to 5 s sweep section 1 from x = 0 to 0.8 m"
        text={text}
        onText={setText}
        notRead={'at' in read ? read : null}
        confirmWord="Add"
        onConfirm={add}
        onDone={onDone}
      />
      {lacking && (
        <p role="alert" className="text-xs text-warn">
          {lacking}
        </p>
      )}
      {!('at' in read) && (
        <Controls
          controls={read.beginning.controls(setting) as AnyControl[]}
          options={read.options as Options}
          setting={setting}
          set={set}
          only={(c) => c.kind !== 'choice' || c.choices.length <= MOST_CHOICES}
        />
      )}
      <ul aria-label="Motions" className="grid grid-cols-2 gap-x-3 gap-y-0.5">
        {beginnings.map((b) => (
          <li key={b.id}>
            <button
              type="button"
              title={b.purpose}
              className="w-full rounded-md px-2 py-1 text-left hover:bg-sunk"
              onClick={() => choose(b)}
            >
              {b.name}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

import { useState } from 'react';
import { nameCompletions } from '#core/batch/batch-names.ts';
import type { BatchSettings } from '#core/batch/batch-settings.ts';
import { sayList } from '#core/language/sentence.ts';
import { filmWriters } from '#stage/films/registry.ts';
import { pictureWriters } from '#stage/pictures/registry.ts';
import { PassesPills } from '#web/desks/give-out/QualityFields.tsx';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { sayBytes } from '#web/desks/shared/say-bytes.ts';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { ValuesField } from '#web/desks/shared/ValuesField.tsx';
import { Chooser } from '#web/desks/stage/Chooser.tsx';
import type { BatchPreview } from '#web/server/batch-preview.ts';
import type { ListedShot } from '#web/server/listed-shots.ts';
import { editSet, useRunSet } from '../set-store.ts';
import {
  FormatsField,
  LooksField,
  ScalesField,
  SizesField,
  StepsField,
  scaleWords,
} from './BatchChoices.tsx';
import { BatchesAtWork, saidFiles, useBatches } from './BatchesAtWork.tsx';
import { LackingList } from './LackingList.tsx';
import { ShotChoices } from './ShotChoices.tsx';
import { useBatchPreview, useLacking } from './use-preview.ts';

interface Props {
  /** Id of the set. */
  id: string;
  /** Ids of the runs that are shown, in their order. */
  shown: readonly string[];
  /** All shots there are. */
  shots: readonly ListedShot[];
}

/** The pictures that are made of all runs of a set: which, told beforehand, and those under way. */
export function BatchPanel({ id, shown, shots }: Props) {
  const set = useRunSet();
  const { batch: settings, marked } = set;
  const [again, setAgain] = useState(false);
  const change = (to: Partial<BatchSettings>, key: string | null = null): void =>
    editSet({ type: 'set.batch', change: to }, key);
  const runs = settings.runs === 'marked' ? shown.filter((run) => marked.includes(run)) : shown;
  const asked = { set: id, settings, runs, folder: set.name, again };
  const work = useBatches(id, set.watch?.on === true);
  const through = work.works.filter((b) => b.state !== 'running').length;
  const { told: preview, problem } = useBatchPreview(asked, through);
  const { told: lacking } = useLacking(asked);
  const there = settings.shots.filter((shot) => shots.some((s) => s.id === shot));
  const named = (one: string): string => shots.find((s) => s.id === one)?.name ?? one;
  return (
    <section aria-label="Pictures of every run" className="flex flex-col gap-3 border-t border-rule p-5">
      <h2 className="head">Pictures of every run</h2>
      <p className="font-book text-[17px] leading-relaxed">
        <Chooser
          word={
            there.length === 0
              ? 'Choose shots'
              : there.length === 1
                ? `“${named(there[0])}”`
                : `${there.length} shots`
          }
          label="Which shots"
          wide
        >
          <ShotChoices shots={shots} chosen={there} onChoose={(to) => change({ shots: to })} />
        </Chooser>{' '}
        of{' '}
        <Chooser
          word={
            settings.runs === 'marked'
              ? runs.length === 1
                ? 'the marked run'
                : `the ${runs.length} marked runs`
              : shown.length === 1
                ? 'the run shown'
                : `all ${shown.length} runs shown`
          }
          label="Which runs"
        >
          <div className="flex gap-1.5">
            <Pill on={settings.runs === 'shown'} onClick={() => change({ runs: 'shown' })}>
              all shown
            </Pill>
            <Pill on={settings.runs === 'marked'} onClick={() => change({ runs: 'marked' })}>
              those marked
            </Pill>
          </div>
        </Chooser>
        , steps{' '}
        <Chooser word={settings.steps} label="Which steps">
          <StepsField value={settings.steps} onChange={(steps) => change({ steps }, 'steps')} />
        </Chooser>
        , in{' '}
        <Chooser word={saidSizes(settings.sizes)} label="In which sizes">
          <SizesField value={settings.sizes} onChange={(sizes) => change({ sizes })} />
        </Chooser>{' '}
        as{' '}
        <Chooser word={saidFormats(settings)} label="In which formats" wide>
          <FormatsField value={settings} onChange={change} />
        </Chooser>
        , in{' '}
        <Chooser word={saidLooks(settings.looks)} label="In which looks">
          <LooksField value={settings.looks} onChange={(looks) => change({ looks })} />
        </Chooser>
        ,{' '}
        <Chooser word={`${settings.passes} passes`} label="How long each is worked on">
          <div className="flex flex-col gap-2">
            <div className="flex gap-1">
              <PassesPills passes={settings.passes} onPasses={(passes) => change({ passes })} />
            </div>
            <Tick
              label="transparent background"
              checked={settings.transparent}
              onChange={(transparent) => change({ transparent })}
            />
          </div>
        </Chooser>
        ; scales{' '}
        <Chooser
          word={
            Object.keys(settings.scaleOf).length > 0 ? 'as chosen for each' : scaleWords[settings.scales].name
          }
          label="Where colour scales begin and end"
        >
          <ScalesField value={settings} onChange={change} quantities={preview?.scales ?? []} />
        </Chooser>
        .
      </p>
      <div>
        <p className="head mb-1">Named</p>
        <ValuesField
          label="Names of the files"
          value={settings.names}
          lines={false}
          placeholder="{run}/{shot}"
          completions={(text, caret) => nameCompletions(text, caret, preview?.items ?? [])}
          troubles={[]}
          onChange={(names) => change({ names }, 'names')}
        />
      </div>
      {settings.shots.length > 0 && (
        <>
          {lacking && <LackingList lacking={lacking} />}
          {preview && <Preview preview={preview} />}
          {problem && <ProblemNote problem={problem} />}
          <Tick label="also make again what is current" checked={again} onChange={setAgain} />
          <button
            type="button"
            className="act"
            disabled={!preview || preview.files === 0}
            onClick={() => work.act('POST', '/api/batches', asked)}
          >
            {preview && preview.files > 0 ? `Make ${saidFiles(preview.files, preview.films)}` : 'Make them'}
          </button>
        </>
      )}
      <BatchesAtWork {...work} />
    </section>
  );
}

const saidSizes = (sizes: BatchSettings['sizes']): string =>
  sizes.length === 0 ? 'no size' : sizes.map((s) => `${s.width} × ${s.height}`).join(' and ');

function saidFormats({ formats, films }: BatchSettings): string {
  const nameIn = (writers: readonly { id: string; name: string }[]) => (id: string) =>
    writers.find((w) => w.id === id)?.name ?? id;
  const pictures = formats.map(nameIn(pictureWriters));
  const moving = films.map(nameIn(filmWriters));
  if (pictures.length + moving.length === 0) return 'no format';
  return [
    ...(pictures.length > 0 ? [sayList(pictures)] : []),
    ...(moving.length > 0 ? [`films as ${sayList(moving)}`] : []),
  ].join(', and ');
}

const saidLooks = (looks: readonly (string | null)[]): string =>
  looks.length === 0
    ? 'no look'
    : looks.length > 2
      ? `${looks.length} looks`
      : looks.map((l) => l ?? 'the look of the shot').join(' and ');

/** What it comes to: how many, how long, how large, where, and what the first are called. */
function Preview({ preview }: { preview: BatchPreview }) {
  const { drawings, files, films, seconds, bytes, first, troubles, folder } = preview;
  return (
    <div role="status" className="flex flex-col gap-1.5 text-sm">
      <p>
        {saidFiles(files, films)}
        {files !== drawings && ` of ${drawings} drawings`}
        {files > 0 &&
          (seconds === null
            ? '; how long they take is known after the first'
            : `, about ${saidTime(seconds)}${bytes === null ? '' : ` and ${sayBytes(bytes)}`}`)}
        .
      </p>
      {files > 0 && (
        <div className="text-xs text-soft">
          <p className="break-all">{folder}</p>
          <ul aria-label="Names of the first files" className="pl-3">
            {first.map((name) => (
              <li key={name} className="break-all">
                {name}
              </li>
            ))}
            {files > first.length && <li>…</li>}
          </ul>
        </div>
      )}
      {troubles.map((trouble) => (
        <p key={trouble} role="alert" className="text-warn">
          {trouble}
        </p>
      ))}
    </div>
  );
}

function saidTime(seconds: number): string {
  if (seconds < 90) return `${Math.max(1, Math.round(seconds))} s`;
  const minutes = seconds / 60;
  return minutes < 90 ? `${Math.round(minutes)} min` : `${(minutes / 60).toFixed(1)} h`;
}

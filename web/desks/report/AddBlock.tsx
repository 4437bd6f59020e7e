import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { BlockKind } from '#core/report/blocks/block.ts';
import { type Block, blockKinds } from '#core/report/blocks/registry.ts';
import type { ReportSource } from '#core/report/report.ts';
import { sourceFor } from '#core/report/report-edits.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { useListed } from '#web/desks/shared/use-listed.ts';
import { Chooser } from '#web/desks/stage/Chooser.tsx';
import type { ListedShot } from '#web/server/listed-shots.ts';
import type { ListedSet } from '#web/server/run-sets.ts';
import type { SavedScene } from '#web/server/saved-scenes.ts';
import { choose, editReport, reportNow, useReportDesk } from './report-store.ts';

/** Something new for the report, behind what is chosen. */
export function AddBlock() {
  const [open, setOpen] = useState(false);
  const [kind, setKind] = useState<BlockKind<Block> | null>(null);
  const done = (): void => {
    setOpen(false);
    setKind(null);
  };
  return (
    <div className="px-2 pt-2">
      <Chooser
        word={
          <>
            <Plus size={15} /> Add to the report
          </>
        }
        label="Add to the report"
        look="quiet h-8 text-sm"
        open={open}
        onOpen={(on) => {
          setOpen(on);
          setKind(null);
        }}
        side="bottom"
        wide
      >
        {kind === null ? (
          <ul>
            {blockKinds.map((one) => (
              <li key={one.kind}>
                <button
                  type="button"
                  className="flex w-full flex-col rounded-md px-2 py-1 text-left hover:bg-sunk"
                  onClick={() => {
                    if (one.of !== null) return setKind(one);
                    add(one.plain(freshId('block'), ''));
                    done();
                  }}
                >
                  <span className="font-medium">{one.name}</span>
                  <span className="text-xs text-soft">{one.about}</span>
                </button>
              </li>
            ))}
          </ul>
        ) : (
          <ChooseSource
            kind={kind}
            onChoose={(of, name) => {
              const { source, isNew } = sourceFor(reportNow(), of, name, () => freshId('source'));
              add(kind.plain(freshId('block'), source.id), isNew ? source : undefined);
              done();
            }}
          />
        )}
      </Chooser>
    </div>
  );
}

function add(block: Block, source?: ReportSource): void {
  editReport({ type: 'block.add', block, after: useReportDesk.getState().chosen, source });
  choose(block.id);
}

interface ChooseProps {
  kind: BlockKind<Block>;
  onChoose(of: ReportSource['of'], name: string): void;
}

/** The shot, scene or set that is shown. */
function ChooseSource({ kind, onChoose }: ChooseProps) {
  const [typed, setTyped] = useState('');
  const wanted = typed.trim().toLowerCase();
  const isNear = (...names: string[]): boolean => names.some((n) => n.toLowerCase().includes(wanted));
  return (
    <div className="flex flex-col gap-3">
      <input
        aria-label="Names that have"
        className="field w-full"
        placeholder="names that have …"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
      />
      {kind.of === 'set' ? (
        <Sets isNear={isNear} onChoose={onChoose} />
      ) : (
        <Shots kind={kind.kind as Block['kind']} isNear={isNear} onChoose={onChoose} />
      )}
    </div>
  );
}

interface ListProps {
  isNear(...names: string[]): boolean;
  onChoose: ChooseProps['onChoose'];
}

function Shots({ kind, isNear, onChoose }: ListProps & { kind: Block['kind'] }) {
  const shots = useListed<ListedShot>('/api/shots?all');
  const scenes = useListed<SavedScene>('/api/scenes');
  // A shot of charts has no picture of its own.
  const fitting = shots.filter((s) => kind !== 'figure' || s.kind !== 'charts');
  const nearShots = fitting.filter((s) => isNear(s.name, s.sceneName, s.runName));
  const nearScenes = scenes.filter((s) => isNear(s.name, s.runName));
  return (
    <>
      {nearShots.length > 0 && (
        <section aria-label="Shots">
          <h3 className="head mb-1">Shots</h3>
          <ul className="max-h-64 overflow-y-auto">
            {nearShots.map(({ id, name, sceneName }) => (
              <li key={id}>
                <button
                  type="button"
                  className="flex w-full items-center gap-3 rounded-md px-2 py-1 text-left hover:bg-sunk"
                  onClick={() => onChoose({ kind: 'shot', id }, name)}
                >
                  <img
                    src={`/api/shots/${id}/thumbnail`}
                    alt=""
                    className="h-10 w-16 rounded bg-sunk object-cover"
                  />
                  <span className="min-w-0">
                    <span className="block truncate font-medium">{name}</span>
                    <span className="block truncate text-xs text-soft">{sceneName}</span>
                  </span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
      <section aria-label="Scenes">
        <h3 className="head mb-1">Scenes as they are</h3>
        <ul className="max-h-64 overflow-y-auto">
          {nearScenes.map(({ id, name, runName, thumbnail }) => (
            <li key={id}>
              <button
                type="button"
                className="flex w-full items-center gap-3 rounded-md px-2 py-1 text-left hover:bg-sunk"
                onClick={() => onChoose({ kind: 'scene', id }, name)}
              >
                {thumbnail ? (
                  <img src={thumbnail} alt="" className="h-10 w-16 rounded bg-sunk object-cover" />
                ) : (
                  <span className="h-10 w-16 rounded bg-sunk" />
                )}
                <span className="min-w-0">
                  <span className="block truncate font-medium">{name}</span>
                  <span className="block truncate text-xs text-soft">{runName}</span>
                </span>
              </button>
            </li>
          ))}
        </ul>
        {nearScenes.length + nearShots.length === 0 && (
          <p className="px-2 text-soft">Nothing has that in its name. Shots are kept on the Stage.</p>
        )}
      </section>
    </>
  );
}

function Sets({ isNear, onChoose }: ListProps) {
  const sets = useListed<ListedSet>('/api/sets').filter((s) => isNear(s.name));
  return (
    <ul aria-label="Sets of runs" className="max-h-72 overflow-y-auto">
      {sets.map(({ id, name, runs }) => (
        <li key={id}>
          <button
            type="button"
            className="flex w-full items-baseline gap-2 rounded-md px-2 py-1 text-left hover:bg-sunk"
            onClick={() => onChoose({ kind: 'set', id }, name)}
          >
            <span className="truncate font-medium">{name}</span>
            <span className="ml-auto shrink-0 text-xs text-soft">
              {runs === 1 ? '1 run' : `${runs} runs`}
            </span>
          </button>
        </li>
      ))}
      {sets.length === 0 && (
        <li className="px-2 text-soft">
          There is no set of runs by that name. Sets are made on the Sheets desk.
        </li>
      )}
    </ul>
  );
}

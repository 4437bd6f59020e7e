import type { ScalesWish } from '#core/batch/batch-settings.ts';
import type { RunTable } from '#core/sets/run-table.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { Tick } from '#web/desks/shared/Tick.tsx';
import { Chooser } from '#web/desks/stage/Chooser.tsx';
import type { EndsOfBatch } from '#web/server/batches-of-set.ts';
import type { ListedShot } from '#web/server/listed-shots.ts';
import { scaleWords } from '../batch/BatchChoices.tsx';
import { ShotChoices } from '../batch/ShotChoices.tsx';
import { columnsInOrder } from '../columns-in-order.ts';
import { editSet, useRunSet } from '../set-store.ts';
import { saidEnds } from './said-ends.ts';

/** Widths of pictures, in pixels. */
const widths = [240, 320, 480, 720] as const;

interface Props {
  table: RunTable;
  shots: readonly ListedShot[];
  shot: ListedShot | null;
  ends: readonly EndsOfBatch[];
}

/** What a contact sheet shows, said in a sentence whose words change it. */
export function SheetSentence({ table, shots, shot, ends }: Props) {
  const { sheet } = useRunSet();
  const change = (to: Partial<typeof sheet>): void => editSet({ type: 'set.sheet', change: to });
  const labels = labelsOf(table, sheet.labels);
  return (
    <p className="min-w-0 flex-1">
      <Chooser word={shot ? `“${shot.name}”` : 'Choose a shot'} label="Which shot" side="bottom" wide>
        <ShotChoices
          shots={shots}
          chosen={shot ? [shot.id] : []}
          onChoose={(to) => change({ shot: to[to.length - 1] ?? null })}
        />
      </Chooser>{' '}
      of each run; colour scales{' '}
      <Chooser word={scaleWords[sheet.scales].name} label="Where colour scales begin and end" side="bottom">
        <div className="flex flex-col gap-3">
          {(Object.keys(scaleWords) as ScalesWish[]).map((wish) => (
            <div key={wish}>
              <Pill on={sheet.scales === wish} onClick={() => change({ scales: wish })}>
                {scaleWords[wish].name}
              </Pill>
              <p className="mt-0.5 text-sm text-soft">{scaleWords[wish].says}</p>
            </div>
          ))}
        </div>
      </Chooser>
      <span className="text-soft">{sheet.scales === 'each' ? '' : saidEnds(ends)}</span>; below them{' '}
      <Chooser
        word={labels.length === 0 ? 'the name' : ['the name', ...labels.map((c) => c.name)].join(', ')}
        label="What is said below each"
        side="bottom"
      >
        <div className="flex flex-col">
          {columnsInOrder(table).map(({ key, name }) => (
            <Tick
              key={key}
              label={name}
              checked={labels.some((c) => c.key === key)}
              onChange={(on) =>
                change({
                  labels: columnsInOrder(table)
                    .map((c) => c.key)
                    .filter((k) => (k === key ? on : labels.some((c) => c.key === k))),
                })
              }
            />
          ))}
        </div>
      </Chooser>
      ;{' '}
      <Chooser word={`${sheet.width} pixels`} label="How wide each is" side="bottom">
        <div className="flex flex-wrap gap-1.5">
          {widths.map((width) => (
            <Pill key={width} on={sheet.width === width} onClick={() => change({ width })}>
              {width}
            </Pill>
          ))}
        </div>
      </Chooser>{' '}
      wide.
    </p>
  );
}

/** Columns that are said below each picture: all inputs unless others are chosen. */
export const labelsOf = (table: RunTable, chosen: readonly string[] | null) =>
  columnsInOrder(table).filter((c) => (chosen ? chosen.includes(c.key) : c.role === 'input'));

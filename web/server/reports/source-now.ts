import { and, eq } from 'drizzle-orm';
import type { RunDescription } from '#core/model/run.ts';
import type { LiveWord, SetFacts } from '#core/report/facts.ts';
import type { Report, ReportSource } from '#core/report/report.ts';
import type { Scene } from '#core/scene/document.ts';
import { onOtherRun } from '#core/scene/on-other-run.ts';
import { repairScene } from '#core/scene/repair-scene.ts';
import { tableOfSet } from '#core/sets/run-set.ts';
import type { RunColumn } from '#core/sets/run-table.ts';
import { columnsInOrder } from '#web/desks/sheets/columns-in-order.ts';
import { sayValue } from '#web/desks/sheets/say-value.ts';
import { NotFound } from '../answer.ts';
import { database, scenes, shots } from '../database.ts';
import { openedRun, stampOf } from '../opened-run.ts';
import { isThere } from '../removed.ts';
import { listedRuns, openSet } from '../run-sets.ts';

/** Grows when facts are made otherwise, so that all are made anew. */
const FORM = 2;

/** What a source of a report is at this moment, with the key of its facts. */
export type SourceNow = { key: string } & (
  | {
      kind: 'scene';
      scene: Scene;
      runId: string;
      run: RunDescription;
      /** Of its film, in seconds, where that is shown. */
      film: number | null;
    }
  | { kind: 'set'; facts: SetFacts }
);

export type LinkedSource = Pick<ReportSource, 'of' | 'run'>;

/**
 * @throws NotFound, ReadError where it or its run is gone
 */
export async function sourceNow(source: LinkedSource, pictures: Report['pictures']): Promise<SourceNow> {
  if (source.of.kind === 'set') {
    const facts = await setFacts(source.of.id);
    return { kind: 'set', facts, key: stampOf([FORM, facts]) };
  }
  const kept = await keptScene(source.of);
  const runId = source.run ?? kept.run;
  const { run, stamp } = await openedRun(runId, 'the sources of the report');
  const { scene: own } = repairScene(kept.document);
  const scene = runId === kept.run ? own : onOtherRun(own, run, { fields: {}, parts: {} });
  const key = stampOf([FORM, scene, kept.film, stamp, pictures]);
  return { kind: 'scene', key, scene, runId, run, film: kept.film };
}

/** The scene of a shot, or one as it is kept. */
export const keptScene = ({ kind, id }: ReportSource['of']): Promise<KeptScene> =>
  kind === 'shot' ? shotScene(id) : ownScene(id);

interface KeptScene {
  document: unknown;
  run: string;
  film: number | null;
}

async function shotScene(id: string): Promise<KeptScene> {
  const db = await database();
  const [row] = await db
    .select({ document: shots.document, run: scenes.run, film: shots.filmTime })
    .from(shots)
    .innerJoin(scenes, eq(scenes.id, shots.scene))
    .where(and(eq(shots.id, id), isThere(shots), isThere(scenes)));
  if (!row) throw new NotFound('The shot is no longer there.');
  return row;
}

async function ownScene(id: string): Promise<KeptScene> {
  const db = await database();
  const [row] = await db
    .select({ document: scenes.document, run: scenes.run })
    .from(scenes)
    .where(and(eq(scenes.id, id), isThere(scenes)));
  if (!row) throw new NotFound('The scene is no longer there.');
  return { ...row, film: null };
}

async function setFacts(id: string): Promise<SetFacts> {
  const { document } = await openSet(id);
  const table = tableOfSet(document, await listedRuns(document.measures.map((m) => m.sentence)));
  const columns = columnsInOrder(table);
  return {
    kind: 'set',
    name: document.name,
    columns: columns.map(({ name, unit, role }) => ({ name, unit, role })),
    rows: table.rows.map(({ name }, row) => ({
      run: name,
      cells: columns.map((c) => sayValue(c.values[row])),
    })),
    words: [
      { name: 'runs', says: 'how many there are', unit: null, value: table.rows.length },
      ...columns.flatMap(extremesOf),
    ],
    findings: table.findings,
  };
}

/** Where the numbers of a column end. */
function extremesOf({ name, unit, values, numeric }: RunColumn): LiveWord[] {
  const known = values.filter((v): v is number => typeof v === 'number');
  if (!numeric || known.length === 0) return [];
  const word = (says: string, value: number): LiveWord => ({
    name: `${says} ${name}`,
    says: `${says} of all runs`,
    unit,
    value,
  });
  return [word('lowest', Math.min(...known)), word('highest', Math.max(...known))];
}

import type { Opened, OpenedPicture, OpenedTable } from '#core/formats/format.ts';
import { baseName, stem } from '#core/formats/series.ts';
import { QUAD } from '#core/model/cell-types.ts';
import type { FileProblem } from '#core/model/read-error.ts';
import type { RunPart, RunTable } from '#core/model/run.ts';
import type { RunPlan } from '#core/model/run-plan.ts';
import { fieldStatistics } from '#core/model/statistics.ts';
import { fileProblem } from '#core/model/store-error.ts';
import { type ArraySink, storeMesh } from './read-step.ts';

/** What a plan holds beside its steps: tables and pictures. */
export interface RestRecord {
  tables: RunTable[];
  pictures: Omit<RunPart, 'steps'>[];
  problems: FileProblem[];
}

export interface RestHost {
  open(path: string): Promise<Opened>;
  /** The bytes of a file as they are. */
  bytes(path: string): Promise<Uint8Array>;
  sink: ArraySink;
}

/** Reads tables and pictures into the store; what cannot be read is told of. */
export async function readRest(plan: RunPlan, host: RestHost): Promise<RestRecord> {
  const out: RestRecord = { tables: [], pictures: [], problems: [] };
  const each = async (paths: string[], read: (path: string) => Promise<void>): Promise<void> => {
    for (const path of paths) await read(path).catch((error) => out.problems.push(fileProblem(path, error)));
  };
  await each(plan.tables, async (path) => {
    const opened = await host.open(path);
    if (opened.kind === 'table') out.tables.push(await storeTable(stem(path), opened, plan, host.sink));
  });
  await each(plan.pictures, async (path) => {
    out.pictures.push(await storePicture(path, (await host.open(path)) as OpenedPicture, host));
  });
  return out;
}

async function storeTable(
  name: string,
  table: OpenedTable,
  plan: RunPlan,
  sink: ArraySink,
): Promise<RunTable> {
  const reading = plan.reading ?? table.guess;
  const out: RunTable = { name, rows: table.rows, time: null, columns: [] };
  for (const [i, column] of table.columns.entries()) {
    if (!column.numeric) continue;
    const values = table.numbers(i);
    if (reading.as === 'history' && reading.time === i) out.time = out.columns.length;
    const finite = (v: number | undefined): number | null => (v === undefined || Number.isNaN(v) ? null : v);
    out.columns.push({
      name: column.name,
      unit: column.unit,
      values: await sink.put(values),
      first: finite(values[0]),
      last: finite(values[values.length - 1]),
      statistics: fieldStatistics(values, 1).components[0],
    });
  }
  return out;
}

/** A picture lies in the plane of x and y: a unit for each pixel, or as its world file says. */
async function storePicture(
  path: string,
  opened: OpenedPicture,
  host: RestHost,
): Promise<Omit<RunPart, 'steps'>> {
  const corners = opened.corners.flat();
  const mesh = await storeMesh(
    {
      points: Float64Array.from(corners),
      types: Uint8Array.of(QUAD),
      offsets: Uint32Array.of(0, 4),
      connectivity: Uint32Array.of(0, 1, 2, 3),
    },
    [0, 0, 0],
    host.sink,
  );
  return {
    name: baseName(path),
    kind: 'picture',
    meshes: [mesh],
    frame: null,
    picture: { type: opened.type, bytes: await host.sink.put(await host.bytes(path)) },
  };
}

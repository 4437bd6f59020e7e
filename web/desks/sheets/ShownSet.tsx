import type { RunTable } from '#core/sets/run-table.ts';
import type { SetView } from '#core/sets/set-view.ts';
import type { RowGroup } from '#core/sets/shown-rows.ts';
import type { ListedShot } from '#web/server/listed-shots.ts';
import type { ListedRun } from '#web/server/run-sets.ts';
import { ContactSheet } from './contact/ContactSheet.tsx';
import { RunsTable } from './RunsTable.tsx';
import { RelationsView } from './relations/RelationsView.tsx';
import { ResponseView } from './response/ResponseView.tsx';

interface Props {
  /** Id of the set. */
  id: string;
  as: SetView;
  table: RunTable;
  groups: readonly RowGroup[];
  /** By their ids. */
  runs: ReadonlyMap<string, ListedRun>;
  /** Null while they are asked for. */
  shots: readonly ListedShot[] | null;
}

/** The runs of a set, in one of the ways in which they can be looked at. */
export function ShownSet({ id, as, table, groups, runs, shots }: Props) {
  const rows = groups.flatMap((g) => g.rows);
  switch (as) {
    case 'table':
      return <RunsTable table={table} groups={groups} runs={runs} />;
    case 'response':
      return <ResponseView table={table} rows={rows} runs={runs} />;
    case 'relations':
      return <RelationsView table={table} rows={rows} />;
    default:
      return shots && <ContactSheet id={id} as={as} table={table} rows={rows} runs={runs} shots={shots} />;
  }
}

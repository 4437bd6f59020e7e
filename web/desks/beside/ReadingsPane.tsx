import { useEffect, useState } from 'react';
import { scenePanes } from '#core/beside/side-by-side.ts';
import type { Box } from '#core/beside/side-layout.ts';
import { useBeside, useSide } from './beside-store.ts';
import { boxStyle } from './box-style.ts';
import { type ReadingsTable, readingsTable } from './readings-table.ts';
import type { SideController } from './side-controller.ts';

/** What the gauges of all scenes read at the time on show. */
export function ReadingsPane({ box, controller }: { box: Box; controller: SideController }) {
  const side = useSide();
  const runs = useBeside((s) => s.runs);
  const [table, setTable] = useState<ReadingsTable | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const panes = scenePanes(side);
  const asked = JSON.stringify(
    panes.map((p) => [p.run, p.title, p.scene.step, p.scene.gauges, p.scene.sets, p.scene.quantities]),
  );
  useEffect(() => {
    let isWanted = true;
    readingsTable(panes, controller).then(
      (found) => isWanted && setTable(found),
      (error: Error) => isWanted && setTrouble(error.message),
    );
    return () => {
      isWanted = false;
    };
  }, [asked, runs, controller]);
  return (
    <div className="absolute overflow-auto bg-sheet p-3 text-sm" style={boxStyle(box)}>
      {trouble && <p role="alert">{trouble}</p>}
      {table && table.rows.length === 0 && (
        <p className="text-soft">No scene here has a gauge that reads a number.</p>
      )}
      {table && table.rows.length > 0 && (
        <table aria-label="Readings of all scenes" className="w-full border-collapse">
          <thead>
            <tr className="border-b border-rule text-left align-bottom text-soft">
              <th className="py-1 pr-3 font-medium">gauge</th>
              {table.titles.map((title, i) => (
                <th key={i} className="px-2 py-1 text-right font-medium">
                  {title}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {table.rows.map(({ name, cells }) => (
              <tr key={name} className="border-b border-rule/60">
                <th className="py-1 pr-3 text-left font-normal">{name}</th>
                {cells.map((cell, i) => (
                  <td key={i} className="px-2 py-1 text-right tabular-nums">
                    {cell ?? '–'}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

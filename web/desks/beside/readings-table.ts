import type { ScenePane } from '#core/beside/side-by-side.ts';
import { gaugeLabel, givesCurve } from '#core/scene/gauge-label.ts';
import { isReading } from '#core/scene/reading.ts';
import { sayValueRead } from '#core/scene/say-reading.ts';
import { titleOf, useBeside } from './beside-store.ts';
import type { SideController } from './side-controller.ts';

/** What gauges read in several scenes. */
export interface ReadingsTable {
  /** Of the scenes. */
  titles: string[];
  /** A gauge a row; null where a scene does not have it, or there is nothing to read. */
  rows: { name: string; cells: (string | null)[] }[];
}

/** What the gauges of scenes read at their steps; those that are called alike stand in one row. */
export async function readingsTable(
  panes: readonly ScenePane[],
  controller: SideController,
): Promise<ReadingsTable> {
  const { runs } = useBeside.getState();
  const there = panes.filter((p) => runs.has(p.run));
  const rows = new Map<string, (string | null)[]>();
  for (const [at, { run: id, scene }] of there.entries()) {
    const source = controller.sourceOf(id);
    const run = await source.withRanges(scene);
    const gauges = scene.gauges.filter((g) => !givesCurve(g));
    const readings = await source.gauges.readings(gauges, scene, scene.step, `beside ${at}`);
    for (const gauge of gauges) {
      const name = gaugeLabel(gauge, scene, run);
      const cells = rows.get(name) ?? there.map(() => null);
      const found = readings[gauge.id];
      cells[at] = isReading(found) ? sayValueRead(found) : null;
      rows.set(name, cells);
    }
  }
  return {
    titles: there.map((p) => titleOf(p, runs)),
    rows: [...rows].map(([name, cells]) => ({ name, cells })),
  };
}

import { quoteIfNeeded } from '#core/language/sentence.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Gauge, Scene } from '#core/scene/document.ts';
import { gaugeLabel, givesCurve } from '#core/scene/gauge-label.ts';
import { quantitiesOf } from '#core/scene/setting.ts';
import type { KnownRun } from '#web/server/known-runs.ts';
import { type Drawable, gaugeOf, partsOf } from './draw-curves.ts';

/** A curve that could be drawn, told before anything is measured. */
export interface OfferedCurve {
  name: string;
  unit: string | null;
  /** Where it comes from. */
  group: 'gauges' | 'histories' | 'quantities' | 'other runs';
  /** Null where it cannot be had after all. */
  make(): Drawable | null;
}

/** What is asked of every quantity, with all it is asked of. */
const statistics = ['average', 'maximum', 'minimum', 'integral', 'deviation', 'sum'] as const;

/** Every curve that could be drawn of a scene and its run; nothing of it is measured before it is chosen. */
export function offeredCurves(
  scene: Scene,
  run: RunDescription,
  others: readonly KnownRun[] = [],
): OfferedCurve[] {
  const several = run.steps.length > 1;
  const gauges = scene.gauges.flatMap((gauge): OfferedCurve[] =>
    several || givesCurve(gauge)
      ? [
          ...partsOf(gauge).map(
            (part): OfferedCurve => ({
              name:
                part === 'value'
                  ? gaugeLabel(gauge, scene, run)
                  : `${gaugeLabel(gauge, scene, run)}, ${part}`,
              unit: null,
              group: 'gauges',
              make: () => ({ of: { kind: 'gauge', gauge: gauge.id, part } }),
            }),
          ),
          ...(several && givesCurve(gauge) ? [overSteps(gauge, scene, run)] : []),
        ]
      : [],
  );
  const histories = run.tables.flatMap((table) =>
    table.columns.flatMap((column, i): OfferedCurve[] =>
      i === table.time
        ? []
        : [
            {
              name: run.tables.length > 1 ? `${column.name} of ${table.name}` : column.name,
              unit: column.unit,
              group: 'histories',
              make: () => ({ of: { kind: 'column', table: table.name, column: column.name } }),
            },
          ],
    ),
  );
  const places = [
    'everything',
    ...[...scene.sets, ...run.sets].map((s) => `the set ${quoteIfNeeded(s.name)}`),
    ...(run.parts.length > 1 ? run.parts.map((p) => quoteIfNeeded(p.name)) : []),
  ];
  const quantities = several
    ? quantitiesOf(run).flatMap((quantity) =>
        statistics.flatMap((what) =>
          places.map((place): OfferedCurve => {
            const sentence = `${what} of ${quoteIfNeeded(quantity.name)} over ${place}`;
            return {
              name: `${what} of ${quantity.name} over ${place.replaceAll('"', '')}`,
              unit: what === 'integral' ? null : quantity.unit,
              group: 'quantities',
              make: () => {
                const gauge = gaugeOf(sentence, run);
                return gauge && { gauge, of: { kind: 'gauge', gauge: gauge.id, part: partsOf(gauge)[0] } };
              },
            };
          }),
        ),
      )
    : [];
  const ofOthers = others.flatMap(({ name: other, histories: tables }) =>
    tables.flatMap(({ table, columns }) =>
      columns.map(
        ({ name, unit }): OfferedCurve => ({
          name: `${name}${table === other ? '' : ` of ${table}`}, in the run ${other}`,
          unit,
          group: 'other runs',
          make: () => ({ of: { kind: 'column', table, column: name, run: other } }),
        }),
      ),
    ),
  );
  return [...gauges, ...histories, ...quantities, ...ofOthers];
}

/** The curves a gauge reads at all the steps, as a picture over them. */
const overSteps = (gauge: Gauge, scene: Scene, run: RunDescription): OfferedCurve => ({
  name: `${gaugeLabel(gauge, scene, run)}, at every step`,
  unit: null,
  group: 'gauges',
  make: () => ({ of: { kind: 'gauge', gauge: gauge.id, part: 'value', everyStep: true } }),
});

/** Those in which every word that is typed begins a word. */
export function matching(offered: readonly OfferedCurve[], typed: string): OfferedCurve[] {
  const wanted = typed.toLowerCase().split(/\s+/).filter(Boolean);
  if (wanted.length === 0) return offered.filter(({ group }) => group === 'gauges' || group === 'histories');
  return offered.filter(({ name }) => {
    const words = name.toLowerCase().split(/[\s,_-]+/);
    return wanted.every((w) => words.some((word) => word.startsWith(w)));
  });
}

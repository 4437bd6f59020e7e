import { sayNumber } from '../../language/sentence.ts';
import { chartDrawn } from '../../scene/charts/chart-drawn.ts';
import { rule } from '../rule.ts';

/** An axis of a chart that leaves out some of what its curves have. */
export const chartCut = rule({
  id: 'chart cut',
  name: 'cut axis of a chart',
  severity: 'moderate',
  of: 'scene',
  find: ({ scene, run, step, curves }) =>
    scene.charts.flatMap((chart) => {
      const drawn = chartDrawn(chart, curves, scene, run, step).curves;
      const name = chart.title ?? drawn.map((c) => c.name).join(', ');
      const place = { kind: 'chart' as const, id: chart.id, name: name || 'a chart' };
      const mend = (says: string, change: object) => ({
        mend: { says, edits: [{ type: 'chart.change' as const, id: chart.id, change }] },
      });
      const all = drawn.flatMap(({ data }) => (data.sheet ? [] : [data]));
      const beyond = all.reduce((n, { x }) => n + count(x, (v) => isBeyond(v, chart)), 0);
      const total = all.reduce((n, { x }) => n + x.length, 0);
      const bare =
        chart.logUp || chart.logAlong
          ? all.reduce(
              (n, { x, y }) =>
                n +
                (chart.logUp ? count(y, (v) => v <= 0) : 0) +
                (chart.logAlong ? count(x, (v) => v <= 0) : 0),
              0,
            )
          : 0;
      return [
        ...(beyond > 0
          ? [
              {
                place,
                says: `“${place.name}” is cut${chart.from === null ? '' : ` from ${sayNumber(chart.from)}`}${chart.to === null ? '' : ` to ${sayNumber(chart.to)}`}: ${beyond} of ${total} values are not shown.`,
                remedy: 'Show all of it, or say so where the chart is shown.',
                ...mend('Show all of it', { from: null, to: null }),
              },
            ]
          : []),
        ...(bare > 0
          ? [
              {
                place,
                says: `“${place.name}”: ${bare} values have no logarithm and are not shown.`,
                remedy: 'Space its axes evenly.',
                ...mend('Space it evenly', { logUp: false, logAlong: false }),
              },
            ]
          : []),
      ];
    }),
});

const isBeyond = (v: number, { from, to }: { from: number | null; to: number | null }): boolean =>
  (from !== null && v < from) || (to !== null && v > to);

function count(values: ArrayLike<number>, of: (value: number) => boolean): number {
  let n = 0;
  for (let i = 0; i < values.length; i++) if (of(values[i])) n++;
  return n;
}

import { z } from '../../model/schema.ts';
import {
  type BlockKind,
  captioned,
  captionedBase,
  chartOf,
  idSchema,
  isMissing,
  missing,
  seenFacts,
  sourceName,
} from './block.ts';

const schema = z.object({
  ...captionedBase,
  kind: z.literal('chart'),
  /** Id of a chart of its scene; null for the first. */
  chart: idSchema.nullable(),
});

/** A chart of a scene, with its curves as they were measured. */
export const chart: BlockKind<z.infer<typeof schema>> = {
  kind: 'chart',
  name: 'Chart',
  about: 'a chart of a scene',
  counted: { word: 'chart', as: 'Figure' },
  of: 'scene',
  schema,
  plain: (id, source) => ({ id, kind: 'chart', readers: null, source, chart: null, captions: {} }),
  says: ({ source }, at) => `Chart of ${sourceName(source, at)}`,
  compose(block, at) {
    const seen = seenFacts(block, 'scene', at);
    if (isMissing(seen)) return seen;
    const found = chartOf(seen.facts, block.chart);
    if (!found)
      return missing(block.id, `${seen.name} has no such chart. Choose another, or make one in Gauges.`);
    const curves = found.series.map((s) => s.name).join(', ');
    const said = `${found.title || curves}: ${found.up} over ${found.along}`;
    return {
      kind: 'chart',
      ...captioned(block, `${said}.`, at),
      alt: at.told(`Chart. ${said}. ${found.series.map(sayEnds).join(' ')}`.trim()),
      chart: found,
    };
  },
};

/** From where to where a curve goes, for those who cannot see it. */
function sayEnds({ name, x, y }: { name: string; x: number[]; y: (number | null)[] }): string {
  const values = y.filter((v): v is number => v !== null);
  if (values.length === 0) return `${name} has no values.`;
  const number = (value: number): string => String(Number(value.toPrecision(4)));
  const [low, high] = values.reduce(
    ([a, b], v) => [Math.min(a, v), Math.max(b, v)],
    [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY],
  );
  return `${name}: ${x.length} values from ${number(values[0])} to ${number(values.at(-1)!)}, lowest ${number(low)}, highest ${number(high)}.`;
}

import { type Phrase, phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { boundsCentre, boundsDiagonal } from '../../model/mesh.ts';
import { z } from '../../model/schema.ts';
import { add, times, unit, type Vector } from '../../model/vectors.ts';
import { gaugeLabel } from '../gauge-label.ts';
import { isReading, type Reading } from '../reading.ts';
import { sayValueRead } from '../say-reading.ts';
import type { AnnotationKind, AnnotationSetting } from './annotation.ts';
import { arrowHead } from './dimension.ts';
import type { Shape, Spot } from './drawing.ts';
import { movedAside, sayAside } from './hook-options.ts';
import {
  type Lettering,
  letteringControls,
  letteringSchema,
  letteringSuffixes,
  plainLettering,
  textBlock,
} from './lettering-options.ts';
import { filledIn, needsOfText } from './template.ts';

export interface GaugeReading extends Lettering {
  /** Id of the gauge. */
  gauge: string;
  /** With values in braces; empty for what the gauge asks and reads. */
  text: string;
  /** Whether an arrow shows which direction counts as positive, or that of a vector. */
  arrow: boolean;
  /** From where it is measured to the middle of the words, in heights of the picture; null to have it found. */
  aside: [number, number] | null;
}

const p = phrasesOf<GaugeReading>();
const lettering: Lettering = { ...plainLettering, size: 2.4, ground: 'plate' };
const plain: GaugeReading = { gauge: '', text: '', arrow: true, aside: null, ...lettering };

/** Length of the arrow, as a share of what is on show. */
const ARROW = 0.16;

/** Where an extreme is, and else the middle of what was measured. */
const placeOf = ({ place, on }: Reading): Vector => (place ?? boundsCentre(on.bounds)) as Vector;

/** The direction that counts as positive; of a vector that is read whole its own. */
function directionOf({ positive, value }: Reading): Vector | null {
  const along = positive ?? (Array.isArray(value) && value.length === 3 ? value : null);
  return along && Math.hypot(...along) > 0 ? unit(along as unknown as Vector) : null;
}

function readingOf(o: GaugeReading, s: Pick<AnnotationSetting, 'readings'>): Reading | null {
  const found = s.readings[o.gauge];
  return isReading(found) ? found : null;
}

/** What a gauge reads, where it is measured, with the direction that counts as positive. */
export const gaugeReading: AnnotationKind<GaugeReading, 'reading'> = {
  id: 'reading',
  name: 'the reading of a gauge',
  offered: 'Gauge',
  purpose: 'what a gauge reads, where it measures, with an arrow for its sign',
  schema: z.object({
    gauge: z.string().max(200),
    text: z.string().max(500),
    arrow: z.boolean(),
    aside: z.tuple([boundedNumber().min(-5).max(5), boundedNumber().min(-5).max(5)]).nullable(),
    ...letteringSchema,
  }),
  plain,
  defaults: (_, scene) => ({ ...plain, gauge: scene.gauges[0]?.id ?? '' }),
  opening: 'Reading of ',
  phrase: p.styled(
    ({ gauge }, s) => [words(`Reading of ${s.gauges?.find((g) => g.value === gauge)?.text ?? 'no gauge'}`)],
    p.row(
      p.oneOf(p.named('gauge', 'gauges'), p.row(p.text('nothing'), p.fixed('gauge', ''))),
      p.suffixes(
        { usual: { text: '' }, phrase: p.row(p.text('as '), p.quoted('text')) },
        { usual: { arrow: true }, phrase: p.row(p.text('without arrow'), p.fixed('arrow', false)) },
        {
          usual: { aside: null },
          phrase: sayAside as Phrase<GaugeReading>,
        },
        ...letteringSuffixes<GaugeReading>(lettering),
      ),
    ),
  ),
  controls: [
    { kind: 'named', key: 'gauge', label: 'Gauge', of: 'gauges' },
    { kind: 'template', key: 'text', label: 'Text' },
    { kind: 'tick', key: 'arrow', label: 'Arrow for its sign, line between places' },
    ...letteringControls<GaugeReading>(),
  ],
  text: 'text',
  knows(o, run, scene) {
    const told = needsOfText(o.text, run, scene);
    return { ...told, gauges: [...(told.gauges ?? []), ...(o.gauge === '' ? [] : [o.gauge])] };
  },
  layout(o, s) {
    const reading = o.arrow ? readingOf(o, s) : null;
    if (reading?.between) return wayBetween(reading.between, o, s);
    const along = reading && directionOf(reading);
    if (!reading || !along) return null;
    const from = placeOf(reading);
    const way = ARROW * boundsDiagonal(s.bounds);
    const [a, b] = [s.project(from), s.project(add(from, times(along, way)))];
    if (!a || !b) return null;
    const [begin, tip]: [Spot, Spot] = [
      [a.x, a.y],
      [b.x, b.y],
    ];
    const direction: Spot = [tip[0] - begin[0], tip[1] - begin[1]];
    const length = Math.hypot(...direction);
    // Seen along itself an arrow is no arrow.
    if (length < s.unit) return null;
    const head = Math.min(2.2 * s.unit, length / 2);
    const neck: Spot = [
      tip[0] - (direction[0] / length) * head * 0.8,
      tip[1] - (direction[1] / length) * head * 0.8,
    ];
    const shapes: Shape[] = [
      { kind: 'line', spots: [begin, neck], width: 0.5 * s.unit, ink: o.ink, halo: true },
      arrowHead(tip, direction, head, o.ink),
    ];
    if (reading.positive)
      shapes.push({
        kind: 'text',
        letters: 'plain',
        text: '+',
        x: tip[0] + (direction[0] / length) * 1.6 * s.unit,
        y: tip[1] + (direction[1] / length) * 1.6 * s.unit,
        size: 2.4 * s.unit,
        weight: 600,
        align: 'center',
        ink: o.ink,
        halo: true,
      });
    return { shapes, box: null };
  },
  hang(o, s) {
    const gauge = s.scene.gauges.find((g) => g.id === o.gauge);
    const reading = readingOf(o, s);
    const anchor = reading && s.project(placeOf(reading));
    if (!gauge || !anchor) return null;
    const text =
      o.text === ''
        ? `${gaugeLabel(gauge, s.scene, s.run)}\n${sayValueRead(reading)}`
        : filledIn(o.text, { ...s, here: null });
    return {
      anchor,
      block: textBlock(text, o, s, 'center'),
      offset: o.aside,
      ink: o.ink,
      lineWidth: 0.22 * s.unit,
    };
  },
  moved: (_, by, s) => movedAside(by, s),
};

/** A line from place to place, with a dot at each of them; nothing where one of them lies behind the camera. */
function wayBetween(places: readonly number[][], { ink }: GaugeReading, s: AnnotationSetting) {
  const seen = places.map((place) => s.project(place as unknown as Vector));
  if (seen.some((at) => at === null)) return null;
  const spots = seen.map((at): Spot => [at!.x, at!.y]);
  const dots = spots.map(
    ([x, y]): Shape => ({ kind: 'disc', x, y, radius: 0.7 * s.unit, fill: ink, rim: null }),
  );
  const way: Shape = { kind: 'line', spots, width: 0.4 * s.unit, ink, halo: true };
  return { shapes: [way, ...dots], box: null };
}

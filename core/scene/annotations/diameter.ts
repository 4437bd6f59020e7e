import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { usualFormat } from '../../language/template.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { boundsDiagonal } from '../../model/mesh.ts';
import { z } from '../../model/schema.ts';
import { add, times, type Vector } from '../../model/vectors.ts';
import type { AnnotationKind } from './annotation.ts';
import {
  arrowHead,
  circleThrough,
  dimensionLettering,
  dimensionWords,
  measuredHere,
  projected,
} from './dimension.ts';
import type { Shape } from './drawing.ts';
import {
  type Lettering,
  letteringControls,
  letteringSchema,
  letteringSuffixes,
} from './lettering-options.ts';
import { placesSchema, usualPlaces } from './measured-places.ts';

export interface Diameter extends Lettering {
  text: string;
  /** Three places on a circle. */
  places: Vector[];
  /** Where along the diameter the words stand, from the first place on. */
  along: number;
}

const p = phrasesOf<Diameter>();
const plain: Diameter = {
  text: '⌀ {value}',
  places: [
    [1, 0, 0],
    [0, 1, 0],
    [-1, 0, 0],
  ],
  along: 0.5,
  ...dimensionLettering,
};

/** The diameter of the circle through three places. */
export const diameter: AnnotationKind<Diameter, 'diameter'> = {
  id: 'diameter',
  name: 'the diameter',
  offered: 'Diameter',
  purpose: 'of the circle through three places on a rim',
  schema: z.object({
    text: z.string().max(500),
    places: placesSchema(3),
    along: boundedNumber().min(-2).max(3),
    ...letteringSchema,
  }),
  plain,
  defaults: ({ bounds, lengthUnit }) => ({
    ...plain,
    text: `⌀ {value:${usualFormat(boundsDiagonal(bounds))}}${lengthUnit ? ` ${lengthUnit}` : ''}`,
    places: usualPlaces(bounds, 3),
  }),
  opening: 'Diameter ',
  phrase: p.styled(
    () => [words('Diameter of a circle')],
    p.row(
      p.quoted('text'),
      p.text(' through '),
      p.places('places', null, 3),
      p.suffixes(
        { usual: { along: plain.along }, phrase: p.row(p.text('words at '), p.share('along')) },
        ...letteringSuffixes<Diameter>(dimensionLettering),
      ),
    ),
  ),
  controls: [
    { kind: 'template', key: 'text', label: 'Text' },
    { kind: 'places', key: 'places', label: 'Places on the rim', names: ['first', 'second', 'third'] },
    { kind: 'number', key: 'along', label: 'Words at', range: () => [0, 1] },
    ...letteringControls<Diameter>(),
  ],
  text: 'text',
  here: (o, run) =>
    measuredHere(2 * (circleThrough(o.places)?.radius ?? Number.NaN), 'the diameter', run.lengthUnit),
  layout(o, s) {
    const circle = circleThrough(o.places);
    if (!circle) return null;
    const { centre, radius, axes } = circle;
    const at = (turn: number): Vector =>
      add(centre, add(times(axes[0], radius * Math.cos(turn)), times(axes[1], radius * Math.sin(turn))));
    const rim = projected(
      Array.from({ length: 65 }, (_, i) => at((i * Math.PI) / 32)),
      s,
    );
    if (!rim) return null;
    const [from, to] = [rim[0], rim[32]];
    const way = Math.hypot(to[0] - from[0], to[1] - from[1]);
    const thin = { kind: 'line', width: 0.2 * s.unit, ink: o.ink, halo: true } as const;
    const head = Math.min(1.6 * s.unit, way / 4);
    const shapes: Shape[] = [
      { ...thin, spots: rim },
      { ...thin, spots: [from, to] },
      arrowHead(from, [from[0] - to[0], from[1] - to[1]], head, o.ink),
      arrowHead(to, [to[0] - from[0], to[1] - from[1]], head, o.ink),
    ];
    const said = dimensionWords(
      o.text,
      diameter.here!(o, s.run),
      o,
      [from[0] + o.along * (to[0] - from[0]), from[1] + o.along * (to[1] - from[1])],
      s,
    );
    return { shapes: [...shapes, ...said.shapes], box: said.box };
  },
  moved(o, by, { project }) {
    const circle = circleThrough(o.places);
    const ends =
      circle && [1, -1].map((t) => project(add(circle.centre, times(circle.axes[0], t * circle.radius))));
    if (!ends?.[0] || !ends[1]) return {};
    const [x, y] = [ends[1].x - ends[0].x, ends[1].y - ends[0].y];
    const share = o.along + (by.x * x + by.y * y) / (x * x + y * y || 1);
    return { along: Math.min(3, Math.max(-2, share)) };
  },
};

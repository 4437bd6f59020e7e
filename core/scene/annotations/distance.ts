import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { usualFormat } from '../../language/template.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { boundsDiagonal } from '../../model/mesh.ts';
import { z } from '../../model/schema.ts';
import { lengthOf, subtract, type Vector } from '../../model/vectors.ts';
import type { AnnotationKind } from './annotation.ts';
import { arrowHead, dimensionLettering, dimensionWords, measuredHere, projected } from './dimension.ts';
import type { Shape, Spot } from './drawing.ts';
import {
  type Lettering,
  letteringControls,
  letteringSchema,
  letteringSuffixes,
} from './lettering-options.ts';
import { placesSchema, usualPlaces } from './measured-places.ts';

export interface Distance extends Lettering {
  text: string;
  /** Two places, in the coordinates of the files. */
  places: Vector[];
  /** How far to the side the line is drawn, in hundredths of the picture's height. */
  aside: number;
}

const p = phrasesOf<Distance>();
const plain: Distance = {
  text: '{value}',
  places: [
    [0, 0, 0],
    [1, 0, 0],
  ],
  aside: 4,
  ...dimensionLettering,
};

const lengthBetween = ([a, b]: readonly Vector[]): number => lengthOf(subtract(b, a));

/** The way between two places, with a line beside it. */
export const distance: AnnotationKind<Distance, 'distance'> = {
  id: 'distance',
  name: 'the distance',
  offered: 'Distance',
  purpose: 'a dimension line between two places',
  schema: z.object({
    text: z.string().max(500),
    places: placesSchema(2),
    aside: boundedNumber().min(-100).max(100),
    ...letteringSchema,
  }),
  plain,
  defaults: (s) => ({
    ...plain,
    text: `{value:${usualFormat(boundsDiagonal(s.bounds))}}${s.lengthUnit ? ` ${s.lengthUnit}` : ''}`,
    places: usualPlaces(s.bounds, 2),
  }),
  opening: 'Distance ',
  phrase: p.styled(
    () => [words('Distance between two places')],
    p.row(
      p.quoted('text'),
      p.text(' between '),
      p.places('places', null, 2),
      p.suffixes(
        { usual: { aside: plain.aside }, phrase: p.row(p.number('aside', 'percent'), p.text(' aside')) },
        ...letteringSuffixes<Distance>(dimensionLettering),
      ),
    ),
  ),
  controls: [
    { kind: 'template', key: 'text', label: 'Text' },
    { kind: 'places', key: 'places', label: 'Places', names: ['from', 'to'] },
    { kind: 'number', key: 'aside', label: 'Line aside', unit: 'percent', range: () => [-20, 20] },
    ...letteringControls<Distance>(),
  ],
  text: 'text',
  here: (o, run) => measuredHere(lengthBetween(o.places), 'the distance', run.lengthUnit),
  layout(o, s) {
    const ends = projected(o.places, s);
    if (!ends) return null;
    const [a, b] = ends;
    const way = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (way < 1) return null;
    const along: Spot = [(b[0] - a[0]) / way, (b[1] - a[1]) / way];
    // To the right of the way from the first to the second.
    const side: Spot = [-along[1] * o.aside * s.unit, along[0] * o.aside * s.unit];
    const moved = (spot: Spot, share = 1): Spot => [spot[0] + share * side[0], spot[1] + share * side[1]];
    const [from, to] = [moved(a), moved(b)];
    const thin = { kind: 'line', width: 0.2 * s.unit, ink: o.ink, halo: true } as const;
    const head = Math.min(1.6 * s.unit, way / 3);
    const beyond = o.aside === 0 ? 1 : 1 + 1.2 / Math.abs(o.aside);
    const lines: Shape[] = [
      ...(o.aside === 0 ? [] : [a, b].map((end): Shape => ({ ...thin, spots: [end, moved(end, beyond)] }))),
      { ...thin, spots: [from, to] },
      arrowHead(from, [-along[0], -along[1]], head, o.ink),
      arrowHead(to, along, head, o.ink),
    ];
    const said = dimensionWords(
      o.text,
      distance.here!(o, s.run),
      o,
      [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2],
      s,
    );
    return { shapes: [...lines, ...said.shapes], box: said.box };
  },
  moved(o, by, { height, project }) {
    const [a, b] = o.places.map(project);
    if (!a || !b) return {};
    const way = Math.hypot(b.x - a.x, b.y - a.y) || 1;
    // Only what is across the line moves it.
    const across = (by.y * (b.x - a.x) - by.x * (b.y - a.y)) / way;
    return { aside: o.aside + (100 * across) / height };
  },
};

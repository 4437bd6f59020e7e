import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { add, dot, lengthOf, subtract, times, unit, type Vector } from '../../model/vectors.ts';
import type { AnnotationKind } from './annotation.ts';
import { angleAt, dimensionLettering, dimensionWords, measuredHere, projected } from './dimension.ts';
import type { Shape } from './drawing.ts';
import {
  type Lettering,
  letteringControls,
  letteringSchema,
  letteringSuffixes,
} from './lettering-options.ts';
import { placesSchema, usualPlaces } from './measured-places.ts';

export interface Angle extends Lettering {
  text: string;
  /** A place on one side, the corner, a place on the other side. */
  places: Vector[];
  /** Where the arc is drawn, as a share of the shorter side. */
  reach: number;
}

const p = phrasesOf<Angle>();
const plain: Angle = {
  text: '{value:.1f}°',
  places: [
    [1, 0, 0],
    [0, 0, 0],
    [0, 1, 0],
  ],
  reach: 0.55,
  ...dimensionLettering,
};

/** Places along the arc between two sides, at a distance from the corner. */
function arcOf([a, corner, b]: readonly Vector[], radius: number): Vector[] {
  const [u, v] = [unit(subtract(a, corner)), subtract(b, corner)];
  const across = unit(subtract(v, times(u, dot(u, v))));
  const turn = (angleAt([a, corner, b]) * Math.PI) / 180;
  return Array.from({ length: 33 }, (_, i) => {
    const t = (turn * i) / 32;
    return add(corner, add(times(u, radius * Math.cos(t)), times(across, radius * Math.sin(t))));
  });
}

/** The angle at a corner between two places. */
export const angle: AnnotationKind<Angle, 'angle'> = {
  id: 'angle',
  name: 'the angle',
  offered: 'Angle',
  purpose: 'between two places, seen from a third',
  schema: z.object({
    text: z.string().max(500),
    places: placesSchema(3),
    reach: boundedNumber().min(0.05).max(3),
    ...letteringSchema,
  }),
  plain,
  defaults: ({ bounds }) => ({ ...plain, places: usualPlaces(bounds, 3) }),
  opening: 'Angle ',
  phrase: p.styled(
    () => [words('Angle at a corner')],
    p.row(
      p.quoted('text'),
      p.text(' between '),
      p.places('places', null, 3),
      p.suffixes(
        { usual: { reach: plain.reach }, phrase: p.row(p.text('arc at '), p.share('reach')) },
        ...letteringSuffixes<Angle>(dimensionLettering),
      ),
    ),
  ),
  controls: [
    { kind: 'template', key: 'text', label: 'Text' },
    { kind: 'places', key: 'places', label: 'Places', names: ['one side', 'corner', 'other side'] },
    { kind: 'number', key: 'reach', label: 'Arc at', range: () => [0.1, 1.5] },
    ...letteringControls<Angle>(),
  ],
  text: 'text',
  here: (o) => measuredHere(angleAt(o.places), 'the angle', '°'),
  layout(o, s) {
    const [a, corner, b] = o.places;
    const near = Math.min(lengthOf(subtract(a, corner)), lengthOf(subtract(b, corner)));
    const spots = projected([...o.places, ...arcOf(o.places, o.reach * near)], s);
    if (!spots || near === 0) return null;
    const [from, middle, to, ...arc] = spots;
    const thin = { kind: 'line', width: 0.2 * s.unit, ink: o.ink, halo: true } as const;
    const shapes: Shape[] = [
      { ...thin, spots: [from, middle, to] },
      { ...thin, spots: arc },
    ];
    const said = dimensionWords(o.text, angle.here!(o, s.run), o, arc[16], s);
    return { shapes: [...shapes, ...said.shapes], box: said.box };
  },
  moved(o, by, { project, box }) {
    const corner = project(o.places[1]);
    if (!corner) return {};
    const from = { x: box.x + box.width / 2 - corner.x, y: box.y + box.height / 2 - corner.y };
    const way = Math.hypot(from.x, from.y) || 1;
    // Nearer to the corner or further from it.
    const share = 1 + (from.x * by.x + from.y * by.y) / way ** 2;
    return { reach: Math.min(3, Math.max(0.05, o.reach * share)) };
  },
};

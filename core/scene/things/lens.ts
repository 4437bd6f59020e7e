import { type Phrase, phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import type { Bounds } from '../../model/mesh.ts';
import { z } from '../../model/schema.ts';
import type { Vector } from '../../model/vectors.ts';
import { cameraAxes, fitCamera, viewDirections } from '../camera.ts';
import { cameraBetween, withProjection } from '../camera-moves.ts';
import type { SceneThing } from './declaration.ts';

/** From where, in which direction and how wide the picture is taken. */
export interface Camera {
  position: Vector;
  target: Vector;
  up: Vector;
  projection: 'perspective' | 'parallel';
  /** Vertical opening angle in degrees, for perspective. */
  fieldOfView: number;
  /** Height of the picture at the target in model units, for parallel projection. */
  height: number;
}

const p = phrasesOf<Camera>();
const vector = z.tuple([boundedNumber(), boundedNumber(), boundedNumber()]);

/** `perspective of 28°`; read, it says both. */
const projection: Phrase<Camera> = p.row(
  p.choice('projection', [
    { text: 'perspective', value: 'perspective' },
    { text: 'parallel', value: 'parallel' },
  ]),
  p.text(' of '),
  p.number('fieldOfView', 'angle'),
);

export const lens: SceneThing<Camera, 'camera'> = {
  id: 'camera',
  name: 'the camera',
  line: 'lens',
  schema: z.object({
    position: vector,
    target: vector,
    up: vector,
    projection: z.enum(['perspective', 'parallel']),
    fieldOfView: boundedNumber().min(1).max(150),
    height: boundedNumber().min(1e-12),
  }),
  plain: {
    position: [3, -4, 2.5],
    target: [0, 0, 0],
    up: [0, 0, 1],
    projection: 'perspective',
    fieldOfView: 28,
    height: 2,
  },
  defaults({ bounds, dimension }, aspect) {
    const flat = dimension === 2;
    const { from, up } = flat ? flatView(bounds) : viewDirections.oblique;
    return fitCamera(bounds, [...from], [...up], aspect, {
      projection: flat ? 'parallel' : 'perspective',
      fieldOfView: 28,
    });
  },
  opening: 'Seen from ',
  phrase: p.styled(
    (camera) => [
      {
        text:
          camera.projection === 'parallel'
            ? 'Parallel view'
            : `Perspective of ${Math.round(camera.fieldOfView)}°`,
        control: { kind: 'setting', thing: 'camera' },
      },
      words(`, ${sayDirection(camera)}`),
    ],
    p.row(
      p.vector('position'),
      p.text(' towards '),
      p.vector('target'),
      p.suffixes(
        { usual: {}, phrase: p.row(p.text('up '), p.vector('up')) },
        { usual: {}, phrase: projection },
        { usual: {}, phrase: p.row(p.number('height'), p.text(' high')) },
      ),
    ),
  ),
  controls: [
    {
      kind: 'choice',
      key: 'projection',
      label: 'Lens',
      choices: [
        { value: 'perspective', label: 'Perspective' },
        { value: 'parallel', label: 'Parallel' },
      ],
      also: (to, _, camera) => withProjection(camera, to as Camera['projection']),
    },
    {
      kind: 'number',
      key: 'fieldOfView',
      label: 'Opening',
      unit: 'angle',
      range: () => [2, 120],
      when: (o) => o.projection === 'perspective',
      // What lies at the target keeps its size.
      also: (angle, _, camera) =>
        withProjection(
          { ...withProjection(camera, 'parallel'), fieldOfView: angle as number },
          'perspective',
        ),
    },
  ],
  blend: cameraBetween,
};

/** A flat run is seen along its thin axis. */
function flatView(b: Bounds): (typeof viewDirections)[keyof typeof viewDirections] {
  const size = [b[1] - b[0], b[3] - b[2], b[5] - b[4]];
  const thin = size.indexOf(Math.min(...size));
  if (thin === 2) return viewDirections.above;
  return thin === 1 ? viewDirections.front : viewDirections.right;
}

/** Where the camera stands, by the axes that matter most; above and below by what is up in the picture. */
function sayDirection(camera: Camera): string {
  const names = ['x', 'y', 'z'];
  const { back } = cameraAxes(camera);
  const upright = camera.up.findIndex((v) => Math.abs(v) > 0.9);
  const above = Math.sign(camera.up[upright] ?? 1);
  const strong = back
    .map((v, k) => ({ v, k }))
    .filter(({ v }) => Math.abs(v) > 0.25)
    .sort((a, b) => Math.abs(b.v) - Math.abs(a.v))
    .map(({ v, k }) =>
      k === upright && Math.abs(v) < 0.97
        ? v * above > 0
          ? 'above'
          : 'below'
        : `${v > 0 ? '+' : '−'}${names[k]}`,
    );
  return `from ${strong.join(', ')}`;
}

import { type Phrase, phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import type { Bounds } from '../../model/mesh.ts';
import { z } from '../../model/schema.ts';
import type { Vector } from '../../model/vectors.ts';
import { vectorSchema } from '../../ops/kernels/planes.ts';
import { cameraAxes, fitCamera, focalLength, straight, viewDirections } from '../camera.ts';
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
  /** How far it is turned about its own axis, clockwise as seen from behind it, in degrees. */
  roll: number;
  /**
   * How far the picture is moved aside behind the lens, to the right and upwards, in percent of its height; only in
   * perspective. Edges that are upright stay parallel, however high the camera looks.
   */
  shiftAcross: number;
  shiftRise: number;
}

const p = phrasesOf<Camera>();

/** In degrees. */
const openings: [number, number] = [2, 120];

const aside = (): [number, number] => [-50, 50];

/** What changes with the opening: what lies at the target keeps its size. */
const opened = (angle: unknown, _: unknown, camera: Camera): Partial<Camera> =>
  withProjection({ ...withProjection(camera, 'parallel'), fieldOfView: angle as number }, 'perspective');

const inPerspective = ({ projection }: Camera): boolean => projection === 'perspective';

/** What is not as with a plain lens, for a reader. */
function movementsOf({ roll, shiftAcross, shiftRise, projection }: Camera): string[] {
  const moved = projection === 'perspective' && (shiftAcross !== 0 || shiftRise !== 0);
  return [roll !== 0 ? `rolled by ${Math.round(roll)}°` : '', moved ? 'shifted' : ''].filter(Boolean);
}

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
  // Where it stands and what it looks at are the model's; what lies at the target keeps its size.
  style: {
    // The lens stays that of the scene, unless a look says something of it.
    usual: null,
    keep: ({ projection, fieldOfView }) => ({ projection, fieldOfView }),
    wear: ({ projection, fieldOfView }, now) =>
      projection === 'parallel'
        ? withProjection(now, 'parallel')
        : { ...now, ...opened(fieldOfView ?? now.fieldOfView, null, now) },
  },
  version: 2,
  migrations: { 1: (old) => ({ ...straight, ...old }) },
  schema: z.object({
    position: vectorSchema,
    target: vectorSchema,
    up: vectorSchema,
    projection: z.enum(['perspective', 'parallel']),
    fieldOfView: boundedNumber().min(1).max(150),
    height: boundedNumber().min(1e-12),
    roll: boundedNumber().min(-180).max(180),
    shiftAcross: boundedNumber().min(-100).max(100),
    shiftRise: boundedNumber().min(-100).max(100),
  }),
  plain: {
    position: [3, -4, 2.5],
    target: [0, 0, 0],
    up: [0, 0, 1],
    projection: 'perspective',
    fieldOfView: 28,
    height: 2,
    ...straight,
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
            : `Perspective of ${Math.round(focalLength(camera.fieldOfView))} mm`,
        control: { kind: 'setting', thing: 'camera' },
      },
      words([`, ${sayDirection(camera)}`, ...movementsOf(camera)].join(', ')),
    ],
    p.row(
      p.vector('position'),
      p.text(' towards '),
      p.vector('target'),
      p.suffixes(
        { usual: {}, phrase: p.row(p.text('up '), p.vector('up')) },
        { usual: {}, phrase: projection },
        { usual: {}, phrase: p.row(p.number('height'), p.text(' high')) },
        { usual: { roll: 0 }, phrase: p.row(p.text('rolled by '), p.number('roll', 'angle')) },
        {
          usual: { shiftAcross: 0 },
          phrase: p.row(p.text('shifted by '), p.number('shiftAcross', 'percent'), p.text(' across')),
        },
        {
          usual: { shiftRise: 0 },
          phrase: p.row(p.text('shifted by '), p.number('shiftRise', 'percent'), p.text(' upwards')),
        },
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
      kind: 'focal length',
      key: 'fieldOfView',
      label: 'Focal length',
      range: () => openings,
      when: inPerspective,
      also: opened,
    },
    {
      kind: 'number',
      key: 'fieldOfView',
      label: 'Opening',
      unit: 'angle',
      range: () => openings,
      when: inPerspective,
      also: opened,
    },
    { kind: 'number', key: 'roll', label: 'Roll', unit: 'angle', round: true, range: () => [-180, 180] },
    {
      kind: 'number',
      key: 'shiftAcross',
      label: 'Shift across',
      unit: 'percent',
      range: aside,
      when: inPerspective,
    },
    {
      kind: 'number',
      key: 'shiftRise',
      label: 'Shift upwards',
      unit: 'percent',
      range: aside,
      when: inPerspective,
    },
    { kind: 'place', key: 'position', label: 'Stands at', called: 'place' },
    { kind: 'place', key: 'target', label: 'Looks at', called: 'target' },
    { kind: 'kept cameras', key: 'up', label: 'Kept cameras' },
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

import { phrasesOf, type Suffix } from '../../language/phrase.ts';
import { sayQuantity, words } from '../../language/sentence.ts';
import type { FinishValues } from '../../light/finish.ts';
import { finish as newFinish } from '../../light/finish.ts';
import { type FinishOf, ownLike } from '../../light/own-finish.ts';
import { type Body, type BodyFile, type BodyMaterial, boundsOfBodies } from '../../model/body.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { type Bounds, boundsDiagonal, boundsSize } from '../../model/mesh.ts';
import { z } from '../../model/schema.ts';
import { convertUnit } from '../../model/units.ts';
import type { Vector } from '../../model/vectors.ts';
import { type Enclosure, enclosurePhrase, enclosureSchema } from '../enclosure.ts';
import { freePlace, turnToViewer } from './free-place.ts';
import {
  type Placed,
  placedControls,
  placedShape,
  placedSuffixes,
  placePhrase,
  plainPlaced,
} from './placed.ts';
import { metreOf, type PieceBody, PLAIN, type SceneryKind } from './scenery-kind.ts';

/** Units a file of bodies may be in. */
export const fileUnits = ['m', 'mm', 'cm', 'in', 'ft'] as const;
type FileUnit = (typeof fileUnits)[number];

export interface FromFile {
  file: Enclosure | null;
  /** What its coordinates are in. */
  unit: FileUnit;
  /** Times as large as the file says. */
  times: number;
  /** The axis of the file that is up. */
  up: 'x' | 'y' | 'z';
  /** Whether it is where the file has it, in the coordinates of the run; its place then moves it from there. */
  inPlace: boolean;
}

const plain: FromFile & Placed = {
  file: null,
  unit: 'm',
  times: 1,
  up: 'z',
  inPlace: false,
  ...plainPlaced,
};

const p = phrasesOf<FromFile & Placed>();

/** A body from a file: a housing, a room, a tool. */
export const fromFile: SceneryKind<FromFile, 'file'> = {
  id: 'file',
  name: 'the body from a file',
  offered: 'Body from a file',
  purpose: 'a housing, a room or a tool: STL, OBJ, PLY, glTF, GLB',
  schema: z.object({
    file: enclosureSchema.nullable(),
    unit: z.enum(fileUnits),
    times: boundedNumber().min(1e-12),
    up: z.enum(['x', 'y', 'z']),
    inPlace: z.boolean(),
    ...placedShape,
  }),
  plain,
  defaults: (setting, scene) => ({
    ...plain,
    place: freePlace(setting, scene, boundsDiagonal(setting.bounds) / 4),
  }),
  opening: 'Scenery from ',
  phrase: p.styled(
    ({ name, file }) => [words(name ?? (file ? file.name : 'A body from a file, none yet'))],
    p.row(
      p.oneOf(enclosurePhrase<FromFile & Placed>('file'), p.row(p.text('no file'), p.fixed('file', null))),
      p.text(' in '),
      p.choice(
        'unit',
        fileUnits.map((unit) => ({ text: unit, value: unit })),
      ),
      placePhrase as unknown as ReturnType<typeof p.text>,
      p.suffixes(
        { usual: { inPlace: false }, phrase: p.row(p.text('from where it lies'), p.fixed('inPlace', true)) },
        {
          usual: { up: 'z' },
          phrase: p.row(
            p.choice(
              'up',
              ['x', 'y', 'z'].map((up) => ({ text: up, value: up })),
            ),
            p.text(' up'),
          ),
        },
        { usual: { times: 1 }, phrase: p.row(p.number('times'), p.text(' times as large')) },
        ...(placedSuffixes as unknown as Suffix<FromFile & Placed>[]),
      ),
    ),
  ),
  controls: [
    { kind: 'body file', key: 'file', label: 'File' },
    {
      kind: 'choice',
      key: 'unit',
      label: 'In it, 1 is',
      choices: fileUnits.map((unit) => ({ value: unit, label: `1 ${unit}` })),
    },
    { kind: 'number', key: 'times', label: 'Times as large', range: () => [0.1, 10] },
    {
      kind: 'choice',
      key: 'inPlace',
      label: 'Stands',
      choices: [
        { value: false, label: 'on its foot', purpose: 'where you put it' },
        {
          value: true,
          label: 'where it lies',
          purpose: 'in the coordinates of the run, moved by what stands below',
        },
      ],
      also: (inPlace) => (inPlace === true ? { place: [0, 0, 0], turn: 0 } : {}),
    },
    {
      kind: 'choice',
      key: 'up',
      label: 'Its upright axis',
      choices: ['x', 'y', 'z'].map((up) => ({ value: up, label: up })),
      when: ({ inPlace }) => !inPlace,
    },
    ...(placedControls as unknown as SceneryKind<FromFile, 'file'>['controls']),
  ],
  file: ({ file }) => file,
  isInPlace: ({ inPlace }) => inPlace,
  bodies(o, { file, metre }) {
    if (!file) return [];
    const factor = factorOf(o, metre);
    // Foot and middle are those of all bodies together.
    const foot = o.inPlace
      ? null
      : boundsOfBodies(file.bodies.map((b) => ({ points: uprightPoints(b.points, o.up) })));
    return file.bodies.map((body) => {
      const points = o.inPlace ? Float32Array.from(body.points) : uprightPoints(body.points, o.up);
      const middle = foot ? [(foot[0] + foot[1]) / 2, (foot[2] + foot[3]) / 2, foot[4]] : [0, 0, 0];
      for (let i = 0; i < points.length; i++) points[i] = factor * (points[i] - middle[i % 3]);
      const normals = body.normals && (o.inPlace ? body.normals : uprightPoints(body.normals, o.up));
      return {
        ...lookOf(body.material),
        points,
        normals,
        places: body.places,
        triangles: body.triangles,
        crease: null,
      };
    });
  },
};

const factorOf = ({ unit, times }: Pick<FromFile, 'unit' | 'times'>, metre: number): number =>
  (convertUnit(1, unit, 'm') ?? 1) * metre * times;

/** The axes of a file turned so that z is up. */
function uprightPoints(points: Float32Array, up: FromFile['up']): Float32Array {
  const out = Float32Array.from(points);
  if (up === 'z') return out;
  for (let i = 0; i < out.length; i += 3) {
    const [x, y, z] = [points[i], points[i + 1], points[i + 2]];
    [out[i], out[i + 1], out[i + 2]] = up === 'y' ? [x, -z, y] : [-z, y, x];
  }
  return out;
}

function lookOf(material: BodyMaterial | null): Pick<PieceBody, 'colour' | 'finish' | 'opacity' | 'picture'> {
  if (!material) return { colour: PLAIN, finish: 'satin-paint', opacity: 1, picture: null };
  return {
    colour: material.colour,
    finish: finishOf(material),
    opacity: material.opacity,
    picture: material.picture,
  };
}

/** A material of a file as a finish. */
function finishOf({ name, colour, metal, roughness, clear, index, coat, glow }: BodyMaterial): FinishOf {
  const values: Partial<FinishValues> = { metal, roughness, clear, index, coat, glow };
  // What is clear has the colour of its glass; anything else takes that of the body, which a picture may change.
  if (clear > 0) values.colour = colour;
  return ownLike(newFinish('paint', 'of-a-file', name, values), name.slice(0, 100) || 'of the file');
}

/** What a file of a unit would measure, in lengths of the run. */
export const sizeInRun = (
  bodies: readonly Pick<Body, 'points'>[],
  unit: FileUnit,
  metre: number,
): [number, number, number] =>
  boundsSize(boundsOfBodies(bodies)).map((v) => v * factorOf({ unit, times: 1 }, metre)) as [
    number,
    number,
    number,
  ];

/** How many times larger or smaller than the model a body may seem before one should look at its unit. */
const SUSPECT = 100;

/**
 * How much better than in metres or millimetres the size has to fit before one of the rarer units is believed, as a
 * ratio of sizes (common practice, no source): a chamber four times as large as its shelf is in metres, not in feet.
 */
const RARER: Partial<Record<FileUnit, number>> = { cm: 2, in: 4, ft: 8 };

/**
 * What a file that was just brought is to be like: its unit, as the file states it or as it fits the model best, and
 * where it stands: where it lies if that is at the model, else on its foot.
 */
export function bodiesFitted(
  { bodies, lengthUnit, up }: Pick<BodyFile, 'bodies' | 'lengthUnit' | 'up'>,
  run: { lengthUnit: string | null },
  model: Bounds,
  scene: Parameters<typeof freePlace>[1],
): Pick<FromFile & Placed, 'unit' | 'up' | 'times' | 'inPlace' | 'place' | 'turn'> {
  const metre = metreOf(run);
  const whole = boundsDiagonal(model) || 1;
  const apart = (unit: FileUnit): number =>
    Math.abs(Math.log(Math.hypot(...sizeInRun(bodies, unit, metre)) / whole)) + Math.log(RARER[unit] ?? 1);
  const stated = fileUnits.find((unit) => unit === lengthUnit);
  const unit = stated ?? [...fileUnits].sort((a, b) => apart(a) - apart(b))[0];
  const factor = factorOf({ unit, times: 1 }, metre);
  const own = boundsOfBodies(bodies).map((v) => v * factor);
  const meets = [0, 1, 2].every((k) => own[2 * k] <= model[2 * k + 1] && own[2 * k + 1] >= model[2 * k]);
  const inPlace = up === null && meets;
  const reach = Math.max(...sizeInRun(bodies, unit, metre)) / 2;
  const place: Vector = inPlace ? [0, 0, 0] : freePlace({ bounds: model }, scene, reach);
  return { unit, up: up ?? 'z', times: 1, inPlace, place, turn: inPlace ? 0 : turnToViewer(scene) };
}

/** What to say of a body whose size does not go with that of the model; null where it does. */
export function sizeTrouble(
  { unit, times }: Pick<FromFile, 'unit' | 'times'>,
  bodies: readonly Body[],
  run: { lengthUnit: string | null },
  model: Bounds,
): string | null {
  const metre = metreOf(run);
  const whole = boundsDiagonal(model) || 1;
  const size = Math.hypot(...sizeInRun(bodies, unit, metre)) * times;
  const ratio = size / whole;
  if (ratio < SUSPECT && ratio > 1 / SUSPECT) return null;
  const said = sayQuantity(size, run.lengthUnit);
  const how =
    ratio > 1 ? `${Math.round(ratio)} times as large as` : `${Math.round(1 / ratio)} times smaller than`;
  return `With 1 ${unit} it is ${said} across, ${how} the model. Choose the unit the file was written in.`;
}

import { type Phrase, phrasesOf, type Suffix } from '../../language/phrase.ts';
import { sayQuantity, words } from '../../language/sentence.ts';
import { type FinishOf, ownLike, valuesOf } from '../../light/own-finish.ts';
import type { BodyFile } from '../../model/body.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { boundsDiagonal } from '../../model/mesh.ts';
import { z } from '../../model/schema.ts';
import { convertUnit } from '../../model/units.ts';
import type { OperationSetting, OptionControl } from '../../ops/chain/operation.ts';
import type { Scene } from '../document.ts';
import type { Enclosure } from '../enclosure.ts';
import type { Declaration } from '../things/declaration.ts';
import { freePlace, turnToViewer } from './free-place.ts';
import {
  type Placed,
  placedControls,
  placedShape,
  placedSuffixes,
  placePhrase,
  plainPlaced,
} from './placed.ts';
import type { Solid } from './solids.ts';

/** One body of a piece, with what it is made of where the piece does not say otherwise. */
export interface PieceBody {
  points: ArrayLike<number>;
  triangles: ArrayLike<number>;
  /** Null to find them from its faces. */
  normals: Float32Array | null;
  /** Where on its picture each point lies; null without one. */
  places: Float32Array | null;
  /** Index of its picture in the file of the piece; null without one. */
  picture: number | null;
  colour: string;
  finish: FinishOf;
  opacity: number;
  /** Faces that meet at a larger angle keep their edge, in degrees; null for what is usual. */
  crease: number | null;
}

/** What a piece may know when its bodies are made. */
export interface PieceSetting {
  /** What its file holds; null while that is not known, and where it has none. */
  file: BodyFile | null;
  /** Lengths of the run to one metre. */
  metre: number;
}

/**
 * A kind of scenery, all of it in one file: what stands beside the results to show where they belong and how large they
 * are. Its options lie flat in the document, with those of its place.
 */
export interface SceneryKind<O extends object = object, Id extends string = string>
  extends Declaration<O & Placed> {
  id: Id;
  /** How it is offered: "Table". */
  offered: string;
  /** What it is for, in a few words. */
  purpose: string;
  /** What it is to begin with, when it is added to a scene. */
  defaults(setting: OperationSetting, scene: Scene): O & Placed;
  /** The file its bodies come from. */
  file?(options: O): Enclosure | null;
  /** Whether its bodies are in the coordinates of the run already, and its place only moves them. */
  isInPlace?(options: O): boolean;
  /** Its bodies about the middle of its foot, z up, in the unit of the run. */
  bodies(options: O, setting: PieceSetting): PieceBody[];
}

/** Lengths of a run to one metre; one that states no unit is taken to be in metres. */
export const metreOf = ({ lengthUnit }: { lengthUnit: string | null }): number =>
  (lengthUnit && convertUnit(1, 'm', lengthUnit)) || 1;

/**
 * A body made by code, of a finish.
 *
 * @param colour `#rrggbb` in place of that of the finish; null for that
 * @param crease faces that meet at a larger angle keep their edge, in degrees; null for what is usual
 */
export function bodyOf(
  solid: Solid,
  finish: string,
  colour: string | null = null,
  crease: number | null = null,
): PieceBody {
  const values = valuesOf(finish)!;
  return {
    ...solid,
    normals: null,
    places: null,
    picture: null,
    colour: colour ?? PLAIN,
    finish: colour === null ? finish : { ...ownLike(values, values.name), colour: null },
    opacity: 1,
    crease,
  };
}

/** Colour of a body that has none of its own. */
export const PLAIN = '#b9b4aa';

/** A length that makes a piece, and what it is in the world. */
interface SizeOption {
  label: string;
  /** What stands behind it in a sentence: "1.8 m long". */
  said: string;
  metres: number;
}

/** Pieces larger or smaller than the model by more than this begin as large as fits. */
const LARGEST_TIMES = 40;
const SMALLEST_SHARE = 0.004;
const FITTING_SHARE = 0.4;

/** What a kind says that is made by code of a few lengths. */
interface MadeKind<Id extends string, Size extends string, Own extends object> {
  id: Id;
  offered: string;
  purpose: string;
  sizes: Record<Size, SizeOption>;
  /** What else it can be. */
  own?: {
    plain: Own;
    schema: z.ZodRawShape;
    suffixes: Suffix<Own>[];
    controls: OptionControl<Own>[];
  };
  /** In lengths of the run. */
  bodies(options: Record<Size, number> & Own): PieceBody[];
}

/** A kind of scenery that is made by code: how it is stored, said, read and edited follows from its lengths. */
export function madeKind<Id extends string, Size extends string, Own extends object = object>(
  made: MadeKind<Id, Size, Own>,
): SceneryKind<Record<Size, number> & Own, Id> {
  type O = Record<Size, number> & Own & Placed;
  const p = phrasesOf<O>();
  const keys = Object.keys(made.sizes) as (Size & keyof O & string)[];
  const sizes = Object.fromEntries(keys.map((key) => [key, made.sizes[key].metres])) as Record<Size, number>;
  const plain = { ...made.own?.plain, ...sizes, ...plainPlaced } as O;
  const said = keys.flatMap((key, i) => [
    ...(i > 0 ? [p.text(', ')] : []),
    p.number(key, 'length'),
    p.text(` ${made.sizes[key].said}`),
  ]);
  return {
    id: made.id,
    name: `the ${made.offered.toLowerCase()}`,
    offered: made.offered,
    purpose: made.purpose,
    schema: z.object({
      ...Object.fromEntries(keys.map((key) => [key, boundedNumber().min(1e-12)])),
      ...made.own?.schema,
      ...placedShape,
    }) as unknown as z.ZodType<O>,
    plain,
    defaults(setting, scene) {
      const metre = metreOf(setting);
      const whole = boundsDiagonal(setting.bounds) || 1;
      const usual = Math.max(...keys.map((key) => made.sizes[key].metres * metre));
      const fits = usual < LARGEST_TIMES * whole && usual > SMALLEST_SHARE * whole;
      const scale = fits ? metre : (FITTING_SHARE * whole * metre) / usual;
      const sized = Object.fromEntries(
        keys.map((key) => [key, Number((made.sizes[key].metres * scale).toPrecision(3))]),
      ) as Record<Size, number>;
      const reach = Math.max(...Object.values<number>(sized)) / 2;
      return { ...plain, ...sized, place: freePlace(setting, scene, reach), turn: turnToViewer(scene) };
    },
    opening: `Scenery ${made.offered.toLowerCase()} `,
    phrase: p.styled(
      (o, s) => [
        words(
          o.name ??
            `${made.offered}, ${sayQuantity(o[keys[0]] as number, s.lengthUnit)} ${made.sizes[keys[0]].said}`,
        ),
      ],
      p.row(
        ...said,
        placePhrase as Phrase<O>,
        p.suffixes(
          ...((made.own?.suffixes ?? []) as unknown as Suffix<O>[]),
          ...(placedSuffixes as unknown as Suffix<O>[]),
        ),
      ),
    ),
    controls: [
      ...keys.map(
        (key): OptionControl<O> => ({
          kind: 'number',
          key,
          label: made.sizes[key].label,
          unit: 'length',
          range: (_, s) => {
            const usual = made.sizes[key].metres * metreOf(s);
            return [usual / 10, usual * 4];
          },
        }),
      ),
      ...((made.own?.controls ?? []) as unknown as OptionControl<O>[]),
      ...(placedControls as unknown as OptionControl<O>[]),
    ],
    bodies: made.bodies,
  };
}

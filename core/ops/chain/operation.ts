import type { KnownField } from '../../fields/condition.ts';
import type { FieldsOnMesh } from '../../fields/fields-on-mesh.ts';
import type { FieldNeed } from '../../fields/sources/quantity-source.ts';
import type { Phrase, PhraseSetting } from '../../language/phrase.ts';
import type { CellBlocks } from '../../model/blocks.ts';
import type { FieldLocation, MeshField } from '../../model/field.ts';
import type { ArrowsDrawn, SpheresDrawn } from '../../model/mark.ts';
import type { Bounds, Mesh } from '../../model/mesh.ts';
import type { Component, Quantity } from '../../model/quantity.ts';
import type { Gather, Recipe } from '../../model/recipe.ts';
import type { z } from '../../model/schema.ts';
import type { ValueGrid } from '../../model/value-grid.ts';
import type { Versioned } from '../../model/versioned.ts';
import type { LineFate } from '../tracing/line-fate.ts';
import type { LineEnd } from '../tracing/trace-line.ts';

/** Another part of the run, or the cells of a part set, by name. */
export type Beside = { kind: 'part' | 'set'; name: string };

/** A mesh on its way through a chain. What costs time is made when first asked for, and kept. */
export interface OperationInput extends FieldsOnMesh {
  readonly dimension: number;
  blocks(): CellBlocks;
  /** Lowest and highest value in each block, two numbers a block. */
  blockRanges(values: ArrayLike<number>): Float32Array;
  /** The outer faces of volume cells; the mesh itself where there are none. */
  outer(): OperationInput;
  /** One number per point (cell fields are averaged to points), or null. */
  scalar(need: FieldNeed, component: number | 'magnitude'): ArrayLike<number> | null;
  /** Which point of the source each point is; null where a point comes from several. */
  sourcePoints(): ArrayLike<number> | null;
  /** What else of the run the operation asked for with its own `beside`; null where there is none. */
  beside(what: Beside): Mesh | null;
  /** Where a result came from, step by step, for operations that run others. */
  derive(result: OperationResult): OperationInput;
}

/** What an operation has to say about what it did; counts of several parts add up. */
export interface OperationReport {
  /** What was kept of how many. */
  kept?: number;
  of?: number;
  what?: 'cells' | 'points' | 'arrows';
  /** Cells left out because a value in them is not a number. */
  missing?: number;
  /** Where there would have been something, when there was nothing. */
  within?: { low: number; high: number; of: string; unit: 'length' | 'field' | null };
  /** Cells without volume or turned inside out. */
  broken?: number;
  /** Worst difference of a resampled value, and the range it is a part of. */
  error?: { worst: number; mean: number; cells: number };
  /** Lines that were followed, of how many seeds, and how often each reason ended one. */
  lines?: { count: number; seeds: number; ends: Partial<Record<LineEnd, number>> };
  /** How many points of another part lie on each part, of how many, and on what area. */
  landed?: { part: string; count: number; of: number; area: number }[];
  /** The size of what could be drawn, where something finer was asked for. */
  coarser?: { asked: number; drawn: number };
  /** The part lacks the field. */
  lacking?: string;
}

/** New geometry and the recipe that leads every point and cell back to the input. */
export interface OperationResult {
  mesh: Mesh;
  /** Null where points and cells are those of the input, one by one. */
  recipe: Recipe | null;
  /** For averages: fields of one kind now lie on the other, through this gather. */
  moved?: { from: FieldLocation; gather: Gather };
  report?: OperationReport | null;
  /** What is written along lines: the points of each line in order, and the text. */
  labels?: { line: readonly number[]; text: string }[];
  grid?: ValueGrid;
  /** Where its faces look, for what knows it better than they: three numbers for each point, made when asked for. */
  normals?: () => Float32Array;
  /** Faces that meet at a smaller angle are shaded as one, in degrees; for what is smooth by nature. */
  crease?: number;
  /** How dark its faces are at each point, whatever their colour: 1 as it is, 0 black. */
  shades?: Float32Array;
  /** Its lone points are spheres of this size. */
  spheres?: SpheresDrawn;
  /** Its lone points are arrows of these vectors; of the model, or in heights of the picture. */
  arrows?: ArrowsDrawn;
  /** What became of each line that was followed. */
  fates?: readonly LineFate[];
  /** Quantities that come with what it makes, one number for each of its points, by key. */
  made?: Readonly<Record<string, Float32Array>>;
}

/** The parts of a layer at one step, as one mesh, with the fields that were said to be read. */
export interface StepInput {
  readonly mesh: Mesh;
  blocks(): CellBlocks;
  field(key: string): MeshField | null;
}

/** The steps of a run, brought one by one. */
export interface StepsThrough {
  readonly times: readonly number[];
  /** Index of the one on show. */
  readonly shown: number;
  /** Null where the parts are absent at a step. */
  at(step: number): Promise<StepInput | null>;
}

/** What an operation may know when it proposes its options or speaks of them. */
export interface OperationSetting extends PhraseSetting {
  /** In the coordinates of the files. */
  bounds: Bounds;
  dimension: number;
  /** Every field of the run. */
  fields: readonly KnownField[];
  /** What the layer is coloured by, or what a newcomer most likely wants to see. */
  preferred: Quantity | null;
  /** The first displacement of the run, for deforming. */
  displacement: Quantity | null;
  /** Boundaries of the bands or ticks of the colour scale of the layer. */
  levels: readonly number[];
  /** Evenly spaced quantiles of a quantity over the whole run, or null while they are not known. */
  sharesOf(field: string, component: Component): readonly number[] | null;
  steps: number;
  /** Of the largest part of particles or atoms (of none, the largest part): how many points, and whether they fill space. */
  points: { count: number; packed: boolean };
  /** Times of all steps. */
  times: readonly number[];
  /** Where in its cycle the scene is, from 0 to 1. */
  cycle: number;
  /** Names of the part sets. */
  sets: readonly string[];
  /** Names of the parts. */
  parts: readonly string[];
  /** Names of those that are particles or atoms. */
  particles: readonly string[];
}

/** How the interface edits one option, and how it blends from one key of a film to the next. */
export type OptionControl<O> = {
  key: keyof O & string;
  label: string;
  /** What its value is called away from the other settings, where the label reads only among them: `angle` of revolve. */
  called?: string;
  /** Hides what has no meaning yet. */
  when?(options: O, setting: OperationSetting): boolean;
  /** What else changes with it, so that the whole stays sensible. */
  also?(value: unknown, setting: OperationSetting, options: O): Partial<O>;
} & (
  | {
      kind: 'number';
      unit?: 'length' | 'angle' | 'percent' | 'field';
      range?(o: O, s: OperationSetting): [number, number];
      whole?: boolean;
      /** An angle that goes round: a whole turn more is the same. */
      round?: boolean;
      /** What null is called where the schema takes it. */
      none?: string;
      /** What makes its operation go by this number where it does not yet: who moves the number sets it too. */
      asks?: Partial<O>;
    }
  /** A vertical opening in degrees, told as the focal length of a lens. */
  | { kind: 'focal length'; range(): [number, number] }
  /** A number from 0 to 1, shown in percent. */
  | { kind: 'share' }
  | { kind: 'choice'; choices: Choice[] }
  | { kind: 'tick' }
  /** One of some words; null shows the usual one. */
  | { kind: 'word'; words(s: OperationSetting): string[]; usual(s: OperationSetting): string }
  /** Any words, or null. */
  | { kind: 'words'; hint: string }
  /** Words with values in braces; `lines` where there may be several. */
  | { kind: 'template'; lines?: boolean }
  /** A picture that goes with the document; `placed` where it lies in coordinates. */
  | { kind: 'image'; placed?: boolean }
  /** A file that goes with the scene; the keys of `ends` take the colours of its upper and lower half. */
  | { kind: 'enclosure'; of: 'panorama' | 'picture'; ends?: [keyof O & string, keyof O & string] }
  /** A file of bodies that goes with the scene; told of their unit and where they lie. */
  | { kind: 'body file' }
  /** What words hang on; the options are a hook. */
  | { kind: 'hook' }
  /** So many places of the model, each with a name; without names any number of them. */
  | { kind: 'places'; names?: string[] }
  /** The name of a part of the run, or of a part set. */
  | { kind: 'part'; of?: 'sets' }
  /** A colour; `none` is what null is called where the schema takes it. */
  | { kind: 'colour'; none?: string }
  /** A plane: the key is its normal, `offset` its distance, `low` and `high` how far it is dragged where that is limited. */
  | { kind: 'plane'; offset: keyof O & string; low?: keyof O & string; high?: keyof O & string }
  /** `next` is the place that is pointed at after it. */
  | { kind: 'place'; next?: { key: keyof O & string; label: string } }
  | { kind: 'direction' }
  /** The key is the field, `component` its component. */
  | {
      kind: 'quantity';
      component: keyof O & string;
      vectors?: boolean;
      /** What an empty key is called where the schema takes it. */
      none?: string;
    }
  /** Levels of the quantity of the options, or bands of a colour scale, null being none. */
  | { kind: 'levels'; of: 'values' | 'bands' }
  | { kind: 'condition' }
  /** A step of the run, or null for the one on show. */
  | { kind: 'step' }
  | { kind: 'curve' }
  /** The id of a gauge, a chart or a curve of the scene. */
  | { kind: 'named'; of: 'gauges' | 'charts' | 'curves' }
  /** Two numbers; `none` is what null is called where the schema takes it. */
  | { kind: 'pair'; none?: string }
  /** Two numbers as the ends of a range of the quantity. */
  | { kind: 'span'; high: keyof O & string }
  /** Where a colour scale begins and ends. */
  | { kind: 'range' }
  | { kind: 'map' }
  /** How values are spaced along a colour scale. */
  | { kind: 'spacing' }
  /** Lines where the bands of a colour scale meet. */
  | { kind: 'level lines' }
  /** What a colour scale shows of what lies beyond it, and of what has no value. */
  | { kind: 'beyond' }
  /** Names of values. */
  | { kind: 'categories' }
  /** Unit and digits of the numbers of a colour scale. */
  | { kind: 'unit' }
  /** How opaque a colour scale is along itself. */
  | { kind: 'scale opacity' }
  /** Edges of cells: whether, in which colour and how strong. */
  | { kind: 'edges' }
  /** Which step a layer shows. */
  | { kind: 'layer time' }
  /** A finish, or null, which is called `none`. */
  | { kind: 'finish'; none: string }
  /** Views of the scene that are kept under names. */
  | { kind: 'kept cameras' }
  /** Lights placed by hand. */
  | { kind: 'placed lights' }
);

export interface Choice {
  value: unknown;
  label: string;
  /** What it does, in a few words. */
  purpose?: string;
  /** Shown beside it, from the first to the last. */
  colours?: string[];
}

/** Something to take hold of on the stage. */
export type Handle<O> =
  | {
      kind: 'plane';
      normal: keyof O & string;
      offset: keyof O & string;
      low?: keyof O & string;
      high?: keyof O & string;
    }
  | { kind: 'place'; key: keyof O & string }
  | { kind: 'radius'; centre: keyof O & string; key: keyof O & string };

/** How long arrows are. */
export interface ArrowScale {
  /** The largest size of the vector that has a length of its own. */
  full: number;
  /** Whether lengths are in heights of the picture, or in the unit of length of the run. */
  onPicture: boolean;
  /** Of an arrow for a size of the vector. */
  lengthOf(size: number): number;
}

/** What an operation is good for. Each is answered by the operation itself, so that nobody names it elsewhere. */
export interface OperationTraits<Options> {
  /** What a layer without operations goes through; alone it need not be mentioned. */
  plain?: boolean;
  /** Options with which it draws faces of quadratic cells as curved as they are. */
  drawsCurves?(): Options;
  /** Opens a body up so that one sees inside, as a run is first shown. */
  opensBodies?: boolean;
  /** What it makes lies within the bodies it is made of, which hide it where they are opaque. */
  within?: boolean;
  /**
   * Its first options turned so that what it opens is seen.
   *
   * @param back from what is looked at towards whoever looks
   */
  seenFrom?(options: Options, back: readonly number[]): Options;
  /** Shows what has no extent of its own as bodies of a size. */
  givesBodyTo?: 'points';
  /** Moves points away from where the files have them; without it stands the undeformed shape. */
  displaces?: boolean;
  /** What it makes is looked at for its values, however thin it is. */
  showsValues?: boolean;
  /** Key of the quantity that a new line of it is coloured by; of vectors their size. */
  colouredBy?(options: Options): string;
  /** What a picture must say of it to be understood, once its options are settled. */
  saidInPicture?(options: Options): string | null;
  /** What a picture must say of it as it leaves out some of what it is given. */
  leavesOut?: string;
  /** Whether its result changes while the cycle of a scene plays, and whether the end of that leads to its beginning. */
  playsInCycle?(options: Options): 'closed' | 'open' | null;
  /** The direction that the faces it makes look along, where they have one in common. */
  facesAlong?(options: Options): [number, number, number] | null;
  /** Its result depends on the name of the part. */
  readsPartName?: boolean;
  /** How long the arrows it draws are, once its options are settled. */
  drawsArrows?(options: Options): ArrowScale;
  /** Takes points; where a run has particles beside bodies, it is of these. */
  ofPoints?: boolean;
  /** Takes lines, which an operation before it or the files must have made. */
  ofLines?: boolean;
  /** Follows lines one by one, so that it can be asked what became of each. */
  follows?: boolean;
  /** Keys of the quantities that come with what it makes. */
  makes?: readonly string[];
  /** Key of the number that turns all it makes about an axis, in degrees, as a rotor turns; null where it does not. */
  turnsBy?(options: Options): (keyof Options & string) | null;
  /** The quantity that has one value on all it makes, so that other colours tell more. */
  levelOf?(options: Options): string;
}

/**
 * One step of a chain. Its file holds all there is to it: options with their schema, defaults, the phrase that says
 * and reads them, the controls that edit them, and the computation.
 */
export interface Operation<Options> extends Versioned {
  id: string;
  /** How a new line of this kind is offered, for example `Section`. */
  name: string;
  /** What it does, in a few words for the chooser. */
  purpose: string;
  schema: z.ZodType<Options>;
  defaults(setting: OperationSetting): Options;
  /** Words before the name of the source: `Section of`. */
  opening: string;
  /** How it follows on another operation: `, its section`. */
  joining: string;
  /** Words after the name of the source: ` at z = 0.40 m`. */
  phrase: Phrase<Options>;
  /** Words that are understood in place of its opening ones, before ` in ` and the source: `streamlines of velocity`; never said. */
  lead?: Phrase<Options>;
  /** A whole sentence of its own that is understood too; never said. */
  shorthand?: Phrase<Options>;
  /** Everyday words that are understood in place of its opening ones. */
  everyday?: RegExp;
  controls: OptionControl<Options>[];
  handles?(options: Options): Handle<Options>[];
  /** `faces`: of a body it takes the outer faces. */
  on?: 'faces';
  /** Whether it looks at one part by itself, or at all parts of its layer as one. */
  scope: 'part' | 'layer';
  /** Which steps it looks at: the one on show, or one after the other; then `runThrough` takes the place of `run`. */
  reads: 'step' | 'all steps';
  /** What is special about it, for those who choose operations without knowing them by name. */
  traits?: OperationTraits<Options>;
  /** Dimension of what it makes of cells of a dimension; without options, of what it makes by itself. */
  gives(dimension: number, options?: Options): number;
  /** Whether it can be used on a run of this dimension at all. */
  fits?(setting: OperationSetting): boolean;
  /** The fields it reads. */
  needs?(options: Options): FieldNeed[];
  /** What else of the run it looks at. */
  beside?(options: Options): Beside[];
  /** Settles what depends on the run or the colour scale, before it runs. */
  settle?(options: Options, setting: OperationSetting): Options;
  run(input: OperationInput, options: Options): OperationResult;
  /** Of what looks at all steps. */
  runThrough?(input: OperationInput, options: Options, steps: StepsThrough): Promise<OperationResult>;
  /**
   * The outer faces of the result, when they are had with less work than from the result itself.
   */
  outer?(input: OperationInput, options: Options): OperationInput[] | null;
}

/** The words an operation is opened with, without what joins them to its source. */
export const openingWords = ({ opening }: { opening: string }): string => opening.replace(/ (of|on) $/, '');

import type { Mark } from '../../model/mark.ts';
import type { Bounds } from '../../model/mesh.ts';
import type { RunDescription } from '../../model/run.ts';
import type { Vector } from '../../model/vectors.ts';
import type { OperationSetting } from '../../ops/chain/operation.ts';
import type { Backdrop } from '../backdrops/backdrop.ts';
import type { Curves } from '../charts/chart-drawn.ts';
import type { Scene } from '../document.ts';
import type { Readings } from '../reading.ts';
import type { WordsRect } from '../snap-words.ts';
import type { Declaration } from '../things/declaration.ts';
import type { Attachment, Found } from './attachment.ts';
import type { AnnotationDrawing, Letters, Shape } from './drawing.ts';
import type { Here, MeasuredNumber } from './template-words.ts';

/** What an annotation may know when it is laid out on a picture. */
export interface AnnotationSetting {
  scene: Scene;
  run: RunDescription;
  /** Index of the step on show. */
  step: number;
  /** Of the picture, in its pixels. */
  width: number;
  height: number;
  /** What is left of the picture beside bars along its edges, in its pixels. */
  room: WordsRect;
  /** A hundredth of the height: what sizes are measured in, so that every size shows the same composition. */
  unit: number;
  /** Of everything on show, in the coordinates of the files. */
  bounds: Bounds;
  tone: Backdrop;
  /** Width of a text in pixels. */
  measure(text: string, size: number, weight: number, letters: Letters): number;
  /** Where a place of the files lies on the picture, in its pixels; null behind the camera. */
  project(place: Vector): { x: number; y: number; depth: number } | null;
  /** What an annotation hangs on, as it is at the step on show; null where there is no such thing. */
  found(attachment: Attachment): Found | null;
  /** What the gauges of the scene read, by their ids. */
  readings: Readings;
  /** What the curves of its charts are, by their ids. */
  curves: Curves;
  /** What dimension lines of the picture measure. */
  measured: readonly MeasuredNumber[];
  /** What number it has among those that are counted, from 1. */
  number: number;
  /** How wide over how high a picture is, by its data address; null while that is not known. */
  shapeOf(source: string): number | null;
}

/** Words that hang on a place; where they stand is found with all others of the picture, or stated. */
export interface Hanging {
  /** The place they belong to, in pixels. */
  anchor: { x: number; y: number };
  /** The words, about their own top left. */
  block: { shapes: Shape[]; width: number; height: number };
  /** From the anchor to the middle of the words, in heights of the picture; null to have it found. */
  offset: readonly [number, number] | null;
  /** Colour of the line that leads there; null for that of the words. */
  ink: string | null;
  /** Width of that line, in pixels. */
  lineWidth: number;
}

/** What of an annotation stands in the scene itself, seen through the camera like everything else. */
export interface Standing {
  marks: Mark[];
  colour: string;
  opacity: number;
  /** Data address of what is shown on it, or null. */
  picture: string | null;
}

/** What an annotation must be told of its run. */
export interface AnnotationNeeds {
  /** Keys of quantities whose ranges it tells. */
  ranges: string[];
  attachments: Attachment[];
  /** Ids of gauges and of charts. */
  gauges?: string[];
  charts?: string[];
}

/**
 * A kind of words and marks on the picture, all of it in one file: how it is stored, said and edited, what it must know,
 * and how it is laid out. Its options lie flat in the document, beside its id and kind.
 */
export interface AnnotationKind<O extends object = object, Id extends string = string>
  extends Declaration<O> {
  id: Id;
  /** How it is offered: "Text". */
  offered: string;
  /** What it is for, in a few words. */
  purpose: string;
  /** What it is to begin with, when it is added to a scene. */
  defaults(setting: OperationSetting, scene: Scene): O;
  /** Whether it is counted among others of its kind. */
  counted?: boolean;
  /** Names of parts it hangs on. */
  parts?(options: O): string[];
  knows?(options: O, run: RunDescription, scene: Scene): AnnotationNeeds;
  /** Data addresses of pictures it shows. */
  pictures?(options: O): string[];
  /** How much of the top and the bottom of the picture it takes for itself, in pixels. */
  takesRoom?(options: O, setting: Pick<AnnotationSetting, 'unit'>): { top: number; bottom: number };
  /** Painted on the picture, where it says so by itself. */
  layout?(options: O, setting: AnnotationSetting): AnnotationDrawing | null;
  /** Hangs on a place of the model. */
  hang?(options: O, setting: AnnotationSetting): Hanging | null;
  /** Stands in the scene. */
  stand?(options: O, setting: Pick<AnnotationSetting, 'scene' | 'run' | 'bounds' | 'tone'>): Standing | null;
  /**
   * What changes in it when it is moved on the picture.
   *
   * @param by in pixels of the picture
   * @param box it had before
   */
  moved?(options: O, by: { x: number; y: number }, setting: MoveSetting): Partial<O>;
  /** Its text, for those that are edited where they stand. */
  text?: keyof O & string;
  /** What its texts may tell of where they stand, while they are typed. */
  here?(options: O, run: RunDescription): Here;
}

/** What is known when an annotation is moved. */
export interface MoveSetting {
  width: number;
  height: number;
  /** Where it stood before, in pixels. */
  box: { x: number; y: number; width: number; height: number };
  /** Of words that hang: where they hang. */
  anchor: { x: number; y: number } | null;
  project: AnnotationSetting['project'];
}

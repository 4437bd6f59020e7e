import type { CompiledScale } from '../colour/compiled-scale.ts';
import type { Spread } from '../colour/spread.ts';
import type { RunDescription } from '../model/run.ts';
import type { Curves } from '../scene/charts/chart-drawn.ts';
import type { Scale, Scene } from '../scene/document.ts';
import type { Edit } from '../scene/edits.ts';
import type { Readings } from '../scene/reading.ts';
import type { PictureSeen } from './picture-seen.ts';

/** How bad it is: a picture that misleads, one that may be taken wrong, one that could be better. */
export const severities = ['serious', 'moderate', 'minor'] as const;
export type Severity = (typeof severities)[number];

/** What a finding is about; it leads there. */
export interface Place {
  kind: 'picture' | 'scale' | 'line' | 'words' | 'time' | 'gauge' | 'chart' | 'film' | 'file' | 'figure';
  /** Null where there is just one. */
  id: string | null;
  name: string;
}

/** Something that takes the reason of a finding away. */
export interface Mend {
  /** As a button says it. */
  says: string;
  edits: Edit[];
}

/** What a rule has found. */
export interface Found {
  place: Place;
  /** What is so, and why it matters, in a sentence. */
  says: string;
  /** What can be done, in a sentence. */
  remedy: string;
  /** Where it can be done at once. */
  mend?: Mend;
}

export interface Finding extends Found {
  /** Id of the rule that made it. */
  rule: string;
  severity: Severity;
  /** Why it is meant to be so; null where nobody said it is. */
  waived: string | null;
}

/** A scale that something on show uses, as it is on show. */
export interface ShownScale {
  scale: Scale;
  settled: CompiledScale;
  /** How the values of what uses it are spread; null where that is not known. */
  spread: Spread | null;
}

/** A scene as it is on show, with what is known of its picture. */
export interface CheckedScene {
  scene: Scene;
  run: RunDescription;
  step: number;
  scales: readonly ShownScale[];
  readings: Readings;
  curves: Curves;
  /** Null while no picture was drawn. */
  picture: PictureSeen | null;
}

/** The film of a scene. */
export interface CheckedFilm {
  scene: Scene;
  run: RunDescription;
  /** Its pictures: how many, and how many a second. */
  count: number;
  rate: number;
  /** It is the film of the reel, and not only one over steps or a cycle. */
  ofReel: boolean;
  /** Relative luminance of each of its pictures, 0..1, their mean; null before they are drawn. */
  luminances: readonly number[] | null;
}

/** A figure among others that are looked at together. */
export interface CheckedFigure {
  id: string;
  name: string;
  scales: readonly { name: string; quantity: string; unit: string | null; low: number; high: number }[];
  /** Made of a scene or a run that has changed since. */
  stale: boolean;
}

/** What leaves the house as a file. */
export interface CheckedFile {
  name: string;
  /** Null before it is written. */
  bytes: number | null;
}

/** What can be checked, by what a rule is of. */
export interface Subjects {
  scene: CheckedScene;
  film: CheckedFilm;
  figures: readonly CheckedFigure[];
  file: CheckedFile;
  /** All that can be read, piece by piece, with the words that stay in the house. */
  texts: { inHouse: readonly string[]; pieces: readonly { place: Place; text: string }[] };
}

export type SubjectKind = keyof Subjects;

/** One way in which what leaves the house may mislead or fail. A new one is a file among the rules and a line in the registry. */
export interface PreflightRule<S extends SubjectKind = SubjectKind> {
  id: string;
  /** What it looks for, in a few words. */
  name: string;
  severity: Severity;
  of: S;
  find(subject: Subjects[S]): Found[];
}

/** A rule with the kind of its subject. */
export const rule = <S extends SubjectKind>(declared: PreflightRule<S>): PreflightRule<S> => declared;

export const ofScale = ({ id, name }: Pick<Scale, 'id' | 'name'>): Place => ({ kind: 'scale', id, name });

export const PICTURE: Place = { kind: 'picture', id: null, name: 'the picture' };

import type { Finding } from '../preflight/rule.ts';
import type { Reader } from './readers.ts';

/** A value that a text of a report can hold. */
export interface LiveWord {
  name: string;
  /** What it is, for whoever chooses. */
  says: string;
  unit: string | null;
  value: number | string | number[] | null;
}

/** What a gauge reads. */
export interface FactReading {
  id: string;
  name: string;
  /** With its unit; why there is none where `trouble` is not null. */
  said: string;
  /** One number, or three of a vector; null where there is none. */
  value: number | number[] | null;
  unit: string | null;
  /** Beside the number: where it is, what was left out. */
  notes: string[];
  trouble: string | null;
}

/** A curve of a chart as numbers: x and y are as long as each other; null where there is no value. */
export interface FactSeries {
  name: string;
  x: number[];
  y: (number | null)[];
  /** `#rrggbb` */
  ink: string;
  /** Whether its places are joined by a line. */
  joined: boolean;
}

export interface FactChart {
  id: string;
  title: string;
  /** What goes along and up, with units. */
  along: string;
  up: string;
  logAlong: boolean;
  logUp: boolean;
  series: FactSeries[];
  /** As it is drawn: one SVG element without outside references. */
  svg: string;
  /** The same in pixels, PNG as base64: for documents that take no drawings. */
  png: string;
}

/** Where a colour scale of a picture begins and ends. */
export interface FactScale {
  name: string;
  unit: string | null;
  low: number;
  high: number;
  map: string;
}

/** Where what is shown comes from. */
export interface FactOrigin {
  files: { name: string; bytes: number | null; sha256: string | null }[];
  /** All steps of the run together, in words. */
  steps: string;
  /** The moment that is shown, in words; null where nothing changes. */
  moment: string | null;
  scales: FactScale[];
  /** What a picture must say of itself: exaggerations, hidden parts. */
  stated: string[];
}

/** What is known of a scene of a run at the moment a report has last seen it. Never changed: a newer one has another key. */
export interface SceneFacts {
  kind: 'scene';
  run: { id: string; name: string };
  scene: string;
  /** What is shown, in the words of each reader, before plain words take the place of terms. */
  captions: Record<Reader, string>;
  /** Every line of the scene: for those who cannot see the picture. */
  alt: string;
  words: LiveWord[];
  readings: FactReading[];
  charts: FactChart[];
  origin: FactOrigin;
  /** What the scene asks for and the run does not have. */
  lacking: string[];
  /** What the preflight finds in it, waived or not. */
  findings: Finding[];
  /** Width of its picture by its height. */
  aspect: number;
}

/** What is known of a set of runs. */
export interface SetFacts {
  kind: 'set';
  name: string;
  columns: { name: string; unit: string | null; role: 'input' | 'output' | 'label' }[];
  /** One row a run; its name stands in front. */
  rows: { run: string; cells: string[] }[];
  words: LiveWord[];
  findings: string[];
}

export type SourceFacts = SceneFacts | SetFacts;

import type { BodyMaterial, BodyPicture } from '../../model/body.ts';
import type { Vector } from '../../model/vectors.ts';

/** A material of a scene that is written for other programs. */
export interface MaterialToWrite extends BodyMaterial {
  /** Shown in exactly its colours, whatever the light. */
  unlit: boolean;
  /** Whether colours between the pixels of its picture are mixed; not where it has bands. */
  mixed: boolean;
  /** Whether something is seen through its picture. */
  blended: boolean;
  /** Whether its picture goes on beyond its edges. */
  repeats: boolean;
  /** Whether only the side is seen that its normals look to. */
  oneSided: boolean;
}

/** Something that is seen, in the coordinates of the scene. */
export interface BodyToWrite {
  name: string;
  kind: 'triangles' | 'lines' | 'points';
  /** Three numbers a vertex. */
  positions: Float32Array;
  normals: Float32Array | null;
  /** Three, two or one vertex each. */
  elements: Uint32Array;
  /** Where on the picture of its material each vertex lies; null without one. */
  places: Float32Array | null;
  /** Index of its material. */
  material: number;
  /** What it shows, one a vertex as it is stored, and the index of the scale it is shown by; null where it shows no values. */
  values: { of: Float32Array; scale: number } | null;
  /** Index of the step it belongs to; null for all of them. */
  step: number | null;
}

/**
 * A straight line from values to places across the picture of their colours, from its left (0) to its right (1); what lies
 * beyond the picture is held at its edges.
 */
export interface AcrossLine {
  /** The ends of the scale, and where they lie. */
  low: number;
  high: number;
  atLow: number;
  atHigh: number;
  /** Nothing lies further out than this. */
  least: number;
  most: number;
}

/** @returns the place across the picture */
export const acrossLine = ({ low, high, atLow, atHigh, least, most }: AcrossLine, value: number): number =>
  Math.min(most, Math.max(least, atLow + ((value - low) / (high - low)) * (atHigh - atLow)));

/** How values of bodies are shown. */
export interface ScaleToWrite {
  /** As its legend calls it, and the unit its numbers are shown in. */
  title: string;
  unit: string | null;
  /** From numbers as they are stored to those that are shown. */
  factor: number;
  shift: number;
  /** Index of the picture of its colours, from low to high. */
  picture: number;
  /** Whether its colours run into each other. */
  mixed: boolean;
  /** Where on the picture its ends lie, from 0 to 1. */
  from: number;
  to: number;
  /** Null where values are not spaced evenly along it. */
  line: AcrossLine | null;
  /** Numbers that a legend tells, from 0 at the low end to 1 at the high one. */
  ticks: { at: number; says: string }[];
}

/** A view, in the coordinates of the scene. */
export interface CameraToWrite {
  name: string;
  position: Vector;
  right: Vector;
  up: Vector;
  /** From what is looked at to the camera. */
  back: Vector;
  /** Vertical opening in degrees, or half the height of what is seen of a parallel view. */
  lens: { openingDegrees: number } | { halfHeight: number };
  aspect: number;
  near: number;
  far: number;
}

export interface LightToWrite {
  name: string;
  /** Where it stands; it shines from there. */
  to: Vector;
  /** Of its light, linear. */
  colour: Vector;
  /** In lux. */
  strength: number;
}

/** A scene as bodies, for programs that know nothing of runs. */
export interface SceneToWrite {
  name: string;
  /** Metres to one length of its coordinates. */
  metres: number;
  /** The way up in its coordinates. */
  up: Vector;
  bodies: BodyToWrite[];
  materials: MaterialToWrite[];
  pictures: BodyPicture[];
  scales: ScaleToWrite[];
  cameras: CameraToWrite[];
  lights: LightToWrite[];
  /** What its steps are called, in order; one where it stands still. */
  steps: string[];
  /** How long each step is shown, in seconds. */
  pace: number;
}

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
  /** Index of the step it belongs to; null for all of them. */
  step: number | null;
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
  cameras: CameraToWrite[];
  lights: LightToWrite[];
  /** What its steps are called, in order; one where it stands still. */
  steps: string[];
  /** How long each step is shown, in seconds. */
  pace: number;
}

import { type Bounds, boundsOf, emptyBounds, joinBounds } from './mesh.ts';

/** What a body is made of, as the file it comes from says. */
export interface BodyMaterial {
  name: string;
  /** `#rrggbb`. */
  colour: string;
  metal: number;
  roughness: number;
  opacity: number;
  /** Share of the light that goes through, and its refractive index. */
  clear: number;
  index: number;
  coat: number;
  /** Light of its own, in its colour. */
  glow: number;
  /** Index of the picture on it; null for none. */
  picture: number | null;
}

/** One piece of a body: triangles with a material. Positions in the unit and the axes of where it comes from. */
export interface Body {
  name: string;
  /** Three numbers a point. */
  points: Float32Array;
  /** Three points each. */
  triangles: Uint32Array;
  /** Where it looks at each point; null to find that from its faces. */
  normals: Float32Array | null;
  /** Where on its picture each point lies, two numbers from the top left; null where it has none. */
  places: Float32Array | null;
  /** Null where the file tells none. */
  material: BodyMaterial | null;
}

/** A picture that lies on a body, still packed. */
export interface BodyPicture {
  type: string;
  bytes: Uint8Array<ArrayBuffer>;
}

/** What a file of bodies holds. */
export interface BodyFile {
  bodies: Body[];
  pictures: BodyPicture[];
  /** Unit the file itself states or its format prescribes; null where whoever brings it must say. */
  lengthUnit: string | null;
  /** The axis that is up by the rules of its format; null where there are none. */
  up: 'y' | null;
  /** What was left out or mended, in words. */
  notes: string[];
}

/** In the unit and the axes of the file. */
export const boundsOfBodies = (bodies: readonly Pick<Body, 'points'>[]): Bounds =>
  bodies.map(({ points }) => boundsOf(points)).reduce(joinBounds, emptyBounds());

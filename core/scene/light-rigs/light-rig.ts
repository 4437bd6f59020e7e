/** A set of lights. The stage shines by what is said here; a new one is a file beside this and a line in the registry. */
export interface LightRig {
  id: string;
  /** As sentences call it. */
  name: string;
  /** What it is, in a few words for the chooser. */
  purpose: string;
  /** The soft lamp; null where nothing is shaded and colours are exactly those of the legend. */
  key: KeyLight | null;
}

/** A lamp that goes round with the camera, so that no view is a view from behind. */
export interface KeyLight {
  /** Where it stands, seen by whoever looks: so far to the right, up, and towards him; only the direction counts. */
  right: number;
  up: number;
  towards: number;
  /** Sine of the angle it is wide, seen from the model. */
  size: number;
}

/** What is behind the model, from the top of the picture to its foot, and the words on it. */
export interface Backdrop {
  id: string;
  /** As sentences call it. */
  name: string;
  top: string;
  foot: string;
  /** Whether its edges are a little darker than its middle. */
  vignette: boolean;
  /** Colour of words on it, and of the thin halo that keeps them legible over the model. */
  ink: string;
  halo: string;
  /** Colour of a plate behind words, `#rrggbb`. */
  plate: string;
}

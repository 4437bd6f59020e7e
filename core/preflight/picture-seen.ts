/** A rectangle on a picture, in fractions of it from the top left. */
export interface SeenBox {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Something written on a picture. */
export interface SeenWord {
  text: string;
  /** Of its letters, as a share of the height of the picture. */
  height: number;
  box: SeenBox;
  /** Contrast with what lies behind, 1..21 (WCAG 2.2), where it is least; null where that is not known. */
  contrast: number | null;
}

/** Words and marks that belong together: a legend, the time, a callout. */
export interface SeenWords {
  kind: 'legend' | 'stamp' | 'annotation';
  /** Of the scale or the annotation. */
  id: string;
  name: string;
  box: SeenBox;
  /** It hangs on the model, and stands where there is room. */
  hangs: boolean;
  words: readonly SeenWord[];
  /** Share of its box with the model behind it. */
  overModel: number;
}

/** What is known of a picture that was drawn. */
export interface PictureSeen {
  /** In pixels. */
  width: number;
  height: number;
  words: readonly SeenWords[];
  /** Ids of lines that nothing is to be seen of. */
  empty: readonly string[];
  /**
   * By line that is coloured by a scale: the share of its area on which one face of a cell spans more than
   * `ABRUPT` of the scale.
   */
  abrupt: Readonly<Record<string, number>>;
}

/** A face with more of a scale than this shows that the cells there are too coarse. Common practice, no source. */
export const ABRUPT = 0.25;

/** The area that two boxes share, as a share of the smaller one. */
export function overlapOf(a: SeenBox, b: SeenBox): number {
  const across = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x);
  const down = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y);
  if (!(across > 0 && down > 0)) return 0;
  return (across * down) / Math.min(a.width * a.height, b.width * b.height);
}

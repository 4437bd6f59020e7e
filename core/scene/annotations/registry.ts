import { schemaOfKinds } from '../schema-of-kinds.ts';
import { angle } from './angle.ts';
import type { AnnotationKind } from './annotation.ts';
import { arrowKey } from './arrow-key.ts';
import { axes } from './axes.ts';
import { border } from './border.ts';
import { callout } from './callout.ts';
import { calloutKey } from './callout-key.ts';
import { caption } from './caption.ts';
import { chartInPicture } from './chart-in-picture.ts';
import { diameter } from './diameter.ts';
import { distance } from './distance.ts';
import { gaugeReading } from './gauge-reading.ts';
import { label } from './label.ts';
import { logo } from './logo.ts';
import { north } from './north.ts';
import { placedImage } from './placed-image.ts';
import { ruler } from './ruler.ts';
import { scaleBar } from './scale-bar.ts';
import { textNote } from './text.ts';
import { titleBlock } from './title-block.ts';

/** Kinds of words and marks, in the order in which they are offered. A new one is a file beside this and a line here. */
const declared = [
  textNote,
  label,
  callout,
  calloutKey,
  caption,
  gaugeReading,
  chartInPicture,
  titleBlock,
  logo,
  border,
  distance,
  angle,
  diameter,
  axes,
  arrowKey,
  scaleBar,
  ruler,
  north,
  placedImage,
] as const;

type Declared = (typeof declared)[number];

export type AnnotationId = Declared['id'];

// biome-ignore lint/suspicious/noExplicitAny: options are checked by the schema of the kind they belong to
export type AnyAnnotationKind = AnnotationKind<any, AnnotationId>;

export const annotationKinds: readonly AnyAnnotationKind[] = declared as unknown as AnyAnnotationKind[];

/** Words or marks of a scene: what they have in common, and beside it the options of their kind. */
export interface Annotation extends Record<string, unknown> {
  id: string;
  kind: AnnotationId;
  visible: boolean;
  /** Form of its options; absent for the first. */
  version?: number;
}

/** @throws Error for a kind this version does not have */
export function annotationKind(id: string): AnyAnnotationKind {
  const found = annotationKinds.find((kind) => kind.id === id);
  if (!found) throw new Error(`There are no words or marks of the kind "${id}" in this version.`);
  return found;
}

/** Any of them, as a document keeps it. */
export const annotationSchema = schemaOfKinds<Annotation>(declared);

/** Data addresses of the pictures that the words and marks on show hold. */
export const picturesOf = (scene: { annotations: readonly Annotation[] }): string[] =>
  scene.annotations
    .filter((a) => a.visible)
    .flatMap((a) => annotationKind(a.kind).pictures?.(a) ?? [])
    .filter((source) => source !== '');

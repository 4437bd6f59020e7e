import type { Matrix4, Mesh, Points, RawShaderMaterial } from 'three';
import type { CompiledScale } from '#core/colour/compiled-scale.ts';
import type { Mark, MarkKind } from '#core/model/mark.ts';
import type { Layer } from '#core/scene/document.ts';
import type { Taken } from './label-layout.ts';
import type { PartLook } from './look.ts';
import type { Uniforms } from './material.ts';

/** An object that is drawn in pieces, so that no single piece keeps the card busy for long. */
export interface Drawn {
  object: Mesh | Points;
  /** What it costs is learned for each kind of object. */
  kind: string;
  /** `element`: ranges of its elements; `row`: rows of the picture; `whole`: not divisible. */
  by: 'element' | 'row' | 'whole';
  /** How many elements there are. */
  count: number;
  /** What it is drawn with in passes while it is opaque: it is lit afterwards. What has none is drawn after that. */
  unlit?: RawShaderMaterial | null;
  /**
   * Where it is drawn while it is seen through, unless that is in its place among all that is: upon what is opaque, as
   * what lies on it; between the layers of what is seen through, as what fills the room; or last of all.
   */
  through?: 'upon opaque' | 'between' | 'last';
  /** Readies what is drawn next; for `element`, the range of elements. */
  narrow(from: number, to: number): void;
}

/** What the scene says of how a mark looks. */
export interface MarkStyle {
  layer: Layer;
  /** Whether the edges of the cells are drawn. */
  edges: boolean;
  /** The scale that colours the edges; null where they have one colour. */
  edgeScale: CompiledScale | null;
}

/** A whole picture, as what is arranged on it needs to know it. */
export interface PictureView {
  /** From places relative to the origin of the run to clip coordinates. */
  matrix: Matrix4;
  /** In pixels. */
  width: number;
  height: number;
  /** Of a thin line, in pixels. */
  lineWidth: number;
}

/** A mark on the stage. */
export interface PaintedMark {
  /** Seen by the camera. */
  readonly drawn: Drawn[];
  /** Seen by the lights: what casts shadows. */
  readonly casters: Drawn[];
  /** How many things of one kind it draws that stand for each other: some can be left out while something moves. */
  readonly many?: { kind: string; count: number };
  /** Draws about such a share of them, from all over; 1 for all. */
  thin?(share: number): void;
  /**
   * Draws fewer, larger things in the place of all while that is wanted and once they are made, which the first wish sets off.
   *
   * @returns whether it does
   */
  coarser?(wanted: boolean): boolean;
  /**
   * Finds places for what goes by the picture, not by the model; called when the view has changed.
   *
   * @param taken where others are already
   */
  arrange?(view: PictureView, taken: Taken): void;
  /**
   * One value a vertex, or null for a plain colour.
   *
   * @param ofEdges those of its edges, where these have a quantity of their own
   */
  setValues(values: Float32Array | null, ofEdges: Float32Array | null): void;
  restyle(style: MarkStyle): void;
  /** How strongly it shows in front of what is looked at: 1 as it is. */
  fade(opacity: number): void;
  dispose(): void;
}

/** Draws one kind of mark. */
export interface Painter<K extends MarkKind = MarkKind> {
  kind: K;
  /**
   * @param look colours and place of the part in its layer
   * @param shared light and camera of the stage
   */
  paint(mark: Extract<Mark, { kind: K }>, look: PartLook, shared: Uniforms): PaintedMark;
}

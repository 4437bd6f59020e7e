import type { MeshField } from '../model/field.ts';
import type { Mesh } from '../model/mesh.ts';
import type { FieldNeed } from './sources/quantity-source.ts';

/** A mesh with the fields that lie on it: what conditions and part sets look at. */
export interface FieldsOnMesh {
  readonly mesh: Mesh;
  /** Added to mesh coordinates to get those of the files. */
  readonly origin: readonly [number, number, number];
  /** Name of the part. */
  readonly part: string;
  /** A field that was said to be read, or null where this part does not have it. */
  field(need: FieldNeed): MeshField | null;
}

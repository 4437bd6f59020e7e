export type FieldLocation = 'point' | 'cell';

/** A field as a file announces it, before its numbers are read. */
export interface FieldHeader {
  name: string;
  location: FieldLocation;
  components: number;
  unit: string | null;
  /** Names of the scalars of the file it was put together from. */
  joinedFrom?: string[];
  /** Its six components are xx yy zz xy yz xz of a symmetric tensor, as the file says. */
  tensor?: boolean;
}

export type PartKind = 'mesh' | 'particles' | 'atoms';

/** A field as it lies on a mesh: `components` numbers for each of its points or cells. */
export interface MeshField {
  location: FieldLocation;
  components: number;
  data: ArrayLike<number>;
  /** Name of its content, under which what is made of it is kept; its own name where it has none. */
  id?: string;
  /** Axial vectors are turned the other way by a mirror. */
  axial: boolean;
}

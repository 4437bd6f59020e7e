/** A file under the name it is shown by and the path it is read from. */
export interface NamedFile {
  name: string;
  path: string;
}

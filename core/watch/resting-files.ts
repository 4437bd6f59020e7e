/** A file of a watched folder as it was found. */
export interface SeenFile {
  /** Below the folder, with `/` between. */
  path: string;
  size: number;
  /** When it was last written, as its disk says, in milliseconds. */
  changed: number;
}

/** When a file counts as whole. */
export interface WholeWhen {
  /** So long it must not have grown or been written, in milliseconds by the clock of who looks. */
  rest: number;
  /**
   * Name of a file whose being there says that everything in its folder is whole, such as `done`; one that begins with a dot
   * stands behind the name of each file: `.ok` for `case.vtu.ok`. Null where nothing marks them.
   */
  mark: string | null;
}

interface Known {
  size: number;
  changed: number;
  /** When it was first found so. */
  since: number;
}

/**
 * Tells which files of a folder that is written to are whole: those at rest, or those that are marked. Times of disks are only
 * compared with themselves, as the clock of a disk elsewhere may go wrong.
 */
export class RestingFiles {
  private readonly known = new Map<string, Known>();

  constructor(private readonly when: WholeWhen) {}

  /**
   * @param files all that are there now, in any order
   * @param now in milliseconds
   * @returns paths of those that are whole, and of those that are still waited for, in the order of `files`; marks are neither
   */
  look(files: readonly SeenFile[], now: number): { whole: string[]; waiting: string[] } {
    const there = new Set(files.map((f) => f.path));
    for (const path of this.known.keys()) if (!there.has(path)) this.known.delete(path);
    const whole: string[] = [];
    const waiting: string[] = [];
    for (const { path, size, changed } of files) {
      const before = this.known.get(path);
      const same = before?.size === size && before.changed === changed;
      const known = same ? before : { size, changed, since: now };
      this.known.set(path, known);
      if (this.isMark(path)) continue;
      // An empty file is one that was only just begun.
      const rests = size > 0 && now - known.since >= this.when.rest;
      const isWhole = this.when.mark === null ? rests : there.has(this.markOf(path));
      (isWhole ? whole : waiting).push(path);
    }
    return { whole, waiting };
  }

  private isMark(path: string): boolean {
    const { mark } = this.when;
    if (mark === null) return false;
    return mark.startsWith('.') ? path.endsWith(mark) : nameOf(path) === mark;
  }

  private markOf(path: string): string {
    const mark = this.when.mark!;
    return mark.startsWith('.')
      ? `${path}${mark}`
      : `${path.slice(0, path.length - nameOf(path).length)}${mark}`;
  }
}

const nameOf = (path: string): string => path.slice(path.lastIndexOf('/') + 1);

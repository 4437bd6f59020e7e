import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type library from 'h5wasm/node';
import { narrowed } from '#core/formats/bytes/binary-numbers.ts';
import { type ByteSource, wholeFile } from '#core/formats/bytes/byte-source.ts';
import type { Hierarchy } from '#core/formats/format.ts';
import type { NumberArray } from '#core/model/arrays.ts';
import { CutOffError, ReadError } from '#core/model/read-error.ts';
import { signWork } from './reading-signs.ts';

type Library = typeof library;
type Group = InstanceType<Library['Group']>;
type Dataset = InstanceType<Library['Dataset']>;
type Entity = ReturnType<Group['get']>;

/** Opens an HDF5 file where it lies; arrays are read from the disk when asked for. */
export async function openHierarchy(source: ByteSource): Promise<Hierarchy> {
  // It is a large one, which few files need.
  const { default: h5wasm } = await import('h5wasm/node');
  // Without it, the library writes what goes wrong to the terminal.
  (await h5wasm.ready).activate_throwing_error_handler();
  let folder: string | null = null;
  let path = source.path;
  if (path === null) {
    folder = mkdtempSync(join(tmpdir(), 'dresser-'));
    path = join(folder, 'file.h5');
    writeFileSync(path, wholeFile(source));
  }
  try {
    return new Hdf5File(h5wasm, new h5wasm.File(path, 'r'));
  } catch (error) {
    throw whyClosed((error as Error).message);
  } finally {
    // An open file stays readable behind its name.
    if (folder) rmSync(folder, { recursive: true, force: true });
  }
}

/** Why the library does not open a file, out of its own report. */
function whyClosed(report: string): ReadError {
  const [, there, wanted] = /truncated file: eof = (\d+).*stored_eof = (\d+)/.exec(report) ?? [];
  if (there)
    return new CutOffError(
      `the HDF5 file is cut off: ${there} of its ${wanted} bytes are there`,
      `byte ${there}`,
    );
  if (/already open|locked|consistency flags/.test(report))
    return new ReadError(
      'the HDF5 file is still being written, or its writer was ended',
      'start of the file',
      'Wait until it is closed; if its writer is gone, let the solver write it again.',
    );
  return new ReadError(
    'the HDF5 file cannot be opened: it is damaged',
    'start of the file',
    'It may be cut off or still being written; copy or write it again.',
  );
}

class Hdf5File implements Hierarchy {
  constructor(
    private readonly library: Library,
    private readonly file: InstanceType<Library['File']>,
  ) {}

  private isDataset(found: Entity): found is Dataset {
    return found instanceof this.library.Dataset;
  }

  private isGroup(found: Entity): found is Group {
    return found instanceof this.library.Group;
  }

  private entity(path: string): Entity {
    const clean = path.replace(/^\/+|\/+$/g, '');
    return clean === '' ? this.file : this.file.get(clean);
  }

  private dataset(path: string): Dataset {
    const found = this.entity(path);
    if (this.isDataset(found)) return found;
    throw new ReadError('the file has no such array', path, 'The file is incomplete; write it again.');
  }

  list(path: string): string[] {
    const found = this.entity(path);
    return this.isGroup(found) ? found.keys() : [];
  }

  kind(path: string): 'group' | 'array' | null {
    const found = this.entity(path);
    if (this.isDataset(found)) return 'array';
    return this.isGroup(found) ? 'group' : null;
  }

  shape(path: string): number[] {
    return this.dataset(path).shape ?? [];
  }

  attributes(path: string): string[] {
    const found = this.entity(path);
    return this.isGroup(found) || this.isDataset(found) ? Object.keys(found.attrs) : [];
  }

  attribute(path: string, name: string): string | number | number[] | string[] | null {
    const found = this.entity(path);
    if (!(this.isGroup(found) || this.isDataset(found))) return null;
    const value = found.attrs[name]?.json_value;
    if (typeof value === 'string' || typeof value === 'number') return value;
    return Array.isArray(value) ? (value as number[]) : null;
  }

  numbers(path: string, slab?: [number, number][]): NumberArray {
    const dataset = this.dataset(path);
    const value = slab ? dataset.slice(slab) : dataset.value;
    if (ArrayBuffer.isView(value)) signWork(value.byteLength);
    if (value instanceof BigInt64Array) return narrowed(value, false, path);
    if (value instanceof BigUint64Array) return narrowed(value, true, path);
    if (ArrayBuffer.isView(value)) return value as NumberArray;
    if (typeof value === 'number' || typeof value === 'bigint') return Float64Array.of(Number(value));
    if (Array.isArray(value)) return Float64Array.from((value as unknown[]).flat(8) as number[], Number);
    throw new ReadError('the array does not hold numbers', path, 'Leave it out when writing the file.');
  }

  text(path: string): string {
    const value = this.dataset(path).value;
    if (typeof value === 'string') return value;
    if (ArrayBuffer.isView(value)) {
      const codes = Array.from(value as unknown as ArrayLike<number>);
      return String.fromCharCode(...codes.slice(0, 4096)).replace(/\0+$/, '');
    }
    return Array.isArray(value) ? value.map(String).join('') : String(value);
  }

  texts(path: string): string[] {
    const value = this.dataset(path).value;
    const width = this.shape(path).at(-1) ?? 1;
    if (!Array.isArray(value)) return [this.text(path)];
    const letters = (value as unknown[]).flat(8).map(String);
    if (letters.some((l) => l.length > 1)) return letters;
    return Array.from({ length: Math.ceil(letters.length / width) }, (_, i) =>
      letters
        .slice(i * width, (i + 1) * width)
        .map((l) => l || '\0')
        .join('')
        .replace(/\0[\s\S]*$/, '')
        .trim(),
    );
  }

  dimensions(path: string): (string | null)[] {
    const dataset = this.dataset(path);
    return (dataset.shape ?? []).map((_, axis) => {
      const [scale] = dataset.get_attached_scales(axis);
      return scale ? (scale.split('/').pop() ?? null) : null;
    });
  }
}

import type { NumberArray } from '../../model/arrays.ts';
import { byName } from '../../model/by-name.ts';
import { CutOffError, ReadError } from '../../model/read-error.ts';
import { type NumberType, numberBytes, numbersOf } from '../bytes/binary-numbers.ts';
import type { ByteSource } from '../bytes/byte-source.ts';
import type { Hierarchy } from '../format.ts';

export interface NetcdfVariable {
  name: string;
  dimensions: string[];
  shape: number[];
  attributes: Record<string, string | number | number[]>;
}

/** A NetCDF file of either generation, as far as readers need it. */
export interface NetcdfFile {
  /** What is missing at its end, in words; null when it is whole. */
  readonly cut: string | null;
  dimensions: Record<string, number>;
  attributes: Record<string, string | number | number[]>;
  variables: Map<string, NetcdfVariable>;
  /** Numbers of a variable; with `record` only that entry of its first dimension. */
  read(name: string, record?: number): NumberArray;
  /** Texts of a character variable, one for each entry but the last dimension. */
  texts(name: string): string[];
}

const types: Record<number, NumberType> = {
  1: 'i8',
  2: 'u8',
  3: 'i16',
  4: 'i32',
  5: 'f32',
  6: 'f64',
  7: 'u8',
  8: 'u16',
  9: 'u32',
  10: 'i64',
  11: 'u64',
};

interface Placed extends NetcdfVariable {
  type: NumberType;
  begin: number;
  record: boolean;
}

/**
 * The classic NetCDF format (CDF-1, CDF-2 and CDF-5), by its public specification; arrays are read by ranges.
 *
 * @throws ReadError when the header is damaged
 */
export function openClassicNetcdf(source: ByteSource): NetcdfFile {
  return new ClassicFile(source);
}

class ClassicFile implements NetcdfFile {
  cut: string | null = null;
  readonly dimensions: Record<string, number> = byName({});
  readonly attributes: Record<string, string | number | number[]> = byName({});
  readonly variables = new Map<string, Placed>();
  private at = 4;
  private recordSize = 0;
  private readonly wide: boolean;
  private readonly far: boolean;
  private view: DataView;

  constructor(private readonly source: ByteSource) {
    const head = source.read(0, Math.min(source.length, 2 ** 24));
    this.view = new DataView(head.buffer, head.byteOffset, head.byteLength);
    const version = head[3];
    this.far = version >= 2;
    this.wide = version === 5;
    let records = this.count();
    const names: string[] = [];
    const unlimited = new Set<number>();
    this.list(10, () => {
      const name = this.name();
      const length = this.count();
      if (length === 0) unlimited.add(names.length);
      names.push(name);
      this.dimensions[name] = length;
    });
    this.readAttributes(this.attributes);
    const found: Placed[] = [];
    this.list(11, () => {
      const name = this.name();
      const ids = Array.from({ length: this.small() }, () => this.count());
      const attributes: NetcdfVariable['attributes'] = byName({});
      this.readAttributes(attributes);
      const type = types[this.word()];
      this.count();
      const begin = this.far ? Number(this.big()) : this.word();
      if (!type || ids.some((d) => names[d] === undefined))
        throw new CutOffError(`the variable ${name} is damaged`, `byte ${this.at}`);
      found.push({
        name,
        dimensions: ids.map((d) => names[d]),
        shape: [],
        attributes,
        type,
        begin,
        record: unlimited.has(ids[0]),
      });
    });
    const inRecords = found.filter((v) => v.record);
    for (const v of inRecords) {
      const bytes = this.sizeOf(v);
      // Records of a single variable are not padded to four bytes.
      this.recordSize += inRecords.length === 1 ? bytes : Math.ceil(bytes / 4) * 4;
    }
    if (records < 0 || records >= 0xffffffff) {
      const first = inRecords.reduce((n, v) => Math.min(n, v.begin), Number.POSITIVE_INFINITY);
      records = this.recordSize > 0 ? Math.floor((source.length - first) / this.recordSize) : 0;
    }
    const whole = Math.min(records, ...inRecords.map((v) => this.wholeRecords(v)));
    if (whole < records)
      this.cut = `the file is cut off: ${whole} of the ${records} steps it announces are there`;
    records = whole;
    for (const d of unlimited) this.dimensions[names[d]] = records;
    for (const v of found) {
      v.shape = v.dimensions.map((d) => this.dimensions[d]);
      // What a variable says of its size is what readers make arrays by.
      if (!v.record && this.sizeOf(v) > source.length)
        throw new CutOffError(`the dimensions of ${v.name} are larger than the file`, 'header');
      this.variables.set(v.name, v);
    }
  }

  read(name: string, record?: number): NumberArray {
    const v = this.variable(name);
    const each = this.sizeOf(v);
    const where = `variable ${name}`;
    if (!v.record) {
      const perEntry = each / (v.shape[0] || 1);
      const from = v.begin + (record === undefined ? 0 : record * perEntry);
      return numbersOf(this.bytes(from, record === undefined ? each : perEntry, where), v.type, false, where);
    }
    if (record !== undefined)
      return numbersOf(this.bytes(v.begin + record * this.recordSize, each, where), v.type, false, where);
    const records = v.shape[0];
    if (records * each > this.source.length) throw new CutOffError('the records do not fit the file', where);
    const out = new Uint8Array(records * each);
    for (let r = 0; r < records; r++)
      out.set(this.bytes(v.begin + r * this.recordSize, each, where), r * each);
    return numbersOf(out, v.type, false, where);
  }

  texts(name: string): string[] {
    const v = this.variable(name);
    return splitTexts(this.read(name), v.shape);
  }

  private variable(name: string): Placed {
    const found = this.variables.get(name);
    if (found) return found;
    throw new ReadError(`the file has no variable "${name}"`, 'header', 'Write it with that variable.');
  }

  /** Records of a variable that lie wholly within the file. */
  private wholeRecords(v: Placed): number {
    const room = this.source.length - v.begin - this.sizeOf(v);
    return room < 0 ? 0 : Math.floor(room / Math.max(1, this.recordSize)) + 1;
  }

  /** Bytes of the variable, or of one record of it. */
  private sizeOf(v: Placed): number {
    const dims = v.record ? v.dimensions.slice(1) : v.dimensions;
    return dims.reduce((n, d) => n * this.dimensions[d], numberBytes[v.type]);
  }

  private bytes(from: number, length: number, where: string): Uint8Array {
    if (!(from >= 0) || from + length > this.source.length)
      throw new CutOffError(
        `${length} bytes are needed at ${from} but the file has ${this.source.length}`,
        where,
      );
    return this.source.read(from, from + length);
  }

  private list(tag: number, one: () => void): void {
    const found = this.word();
    const count = this.count();
    if (found === 0 && count === 0) return;
    if (found !== tag || count > this.view.byteLength)
      throw new CutOffError('the header is damaged', `byte ${this.at}`);
    for (let i = 0; i < count; i++) one();
  }

  private readAttributes(into: Record<string, string | number | number[]>): void {
    this.list(12, () => {
      const name = this.name();
      const type = types[this.word()];
      const isText = type === 'u8';
      const count = this.count();
      const bytes = count * numberBytes[type ?? 'i8'];
      this.need(bytes);
      const data = new Uint8Array(this.view.buffer, this.view.byteOffset + this.at, bytes);
      this.at += Math.ceil(bytes / 4) * 4;
      if (isText) into[name] = new TextDecoder().decode(data).replace(/\0+$/, '');
      else {
        const values = Array.from(numbersOf(Uint8Array.from(data), type ?? 'i8', false, name));
        into[name] = values.length === 1 ? values[0] : values;
      }
    });
  }

  private name(): string {
    const length = this.count();
    this.need(length);
    const text = new TextDecoder().decode(
      new Uint8Array(this.view.buffer, this.view.byteOffset + this.at, length),
    );
    this.at += Math.ceil(length / 4) * 4;
    return text;
  }

  private small(): number {
    const n = this.count();
    if (n > 64) throw new CutOffError(`${n} dimensions are too many`, `byte ${this.at}`);
    return n;
  }

  private need(bytes: number): void {
    if (!(bytes >= 0) || this.at + bytes > this.view.byteLength)
      throw new CutOffError('the header ends too early', `byte ${this.at}`);
  }

  private word(): number {
    this.need(4);
    this.at += 4;
    return this.view.getUint32(this.at - 4);
  }

  private big(): bigint {
    this.need(8);
    this.at += 8;
    return this.view.getBigUint64(this.at - 8);
  }

  private count(): number {
    return this.wide ? Number(this.big()) : this.word();
  }
}

function splitTexts(codes: NumberArray, shape: number[]): string[] {
  const length = shape[shape.length - 1] || 1;
  return Array.from({ length: Math.floor(codes.length / length) }, (_, i) =>
    String.fromCharCode(
      ...Array.from(codes.subarray(i * length, i * length + Math.min(length, 4096)) as unknown as number[]),
    )
      .replace(/\0[\s\S]*$/, '')
      .trim(),
  );
}

/** A NetCDF-4 file, which is an HDF5 file with named dimensions. */
export function openNetcdf4(file: Hierarchy): NetcdfFile {
  const variables = new Map<string, NetcdfVariable>();
  const dimensions: Record<string, number> = byName({});
  const attributesOf = (path: string): Record<string, string | number | number[]> =>
    Object.fromEntries(
      file
        .attributes(path)
        .filter((n) => !/^(_Netcdf4|CLASS$|NAME$|REFERENCE_LIST$|DIMENSION_LIST$|_NC)/.test(n))
        .flatMap((n) => {
          const value = file.attribute(path, n);
          if (value === null) return [];
          return [
            [n, Array.isArray(value) && value.length === 1 ? value[0] : value] as [
              string,
              string | number | number[],
            ],
          ];
        }),
    );
  for (const name of file.list('/')) {
    if (file.kind(name) !== 'array') continue;
    const scale = file.attribute(name, 'CLASS') === 'DIMENSION_SCALE';
    const shape = file.shape(name);
    if (scale) dimensions[name] = shape[0] ?? 0;
    // A dimension without values says so in its name attribute.
    if (scale && String(file.attribute(name, 'NAME') ?? '').startsWith('This is a netCDF dimension but not'))
      continue;
    const own =
      scale && shape.length === 1
        ? [name]
        : file.dimensions(name).map((d, i) => d ?? `${name} axis ${i + 1}`);
    variables.set(name, { name, dimensions: own, shape, attributes: attributesOf(name) });
  }
  return {
    cut: null,
    dimensions,
    attributes: attributesOf('/'),
    variables,
    read(name, record) {
      if (record === undefined) return file.numbers(name);
      const { shape } = variables.get(name)!;
      return file.numbers(
        name,
        shape.map((n, k) => (k === 0 ? [record, record + 1] : [0, n])),
      );
    },
    texts: (name) => file.texts(name),
  };
}

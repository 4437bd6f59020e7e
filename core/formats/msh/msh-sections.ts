import type { FieldLocation } from '../../model/field.ts';
import { CutOffError, ReadError } from '../../model/read-error.ts';
import { mshElements } from './msh-cells.ts';

/** Elements of one type on one entity. */
export interface MshBlock {
  element: number;
  dimension: number;
  physical: number[];
  tags: number[];
  /** Node tags, element by element. */
  nodes: number[];
  /** The type, when it is not read. */
  unknown: number | null;
}

export interface MshData {
  name: string;
  location: FieldLocation;
  time: number;
  components: number;
  tags: number[];
  values: Float64Array;
}

/** Reads the sections of an MSH file of version 2 or 4, ascii or binary. */
export class MshReader {
  nodeTags: number[] = [];
  coordinates: number[] = [];
  blocks: MshBlock[] = [];
  data: MshData[] = [];
  /** That the file ends too early, in words. */
  cut: string | null = null;
  /** Names by `dimension:tag`. */
  readonly physicalNames = new Map<string, string>();
  private readonly physicalOfEntity = new Map<string, number[]>();
  private at = 0;
  private version = 2.2;
  private binary = false;
  private little = true;
  private sizeBytes = 8;
  private readonly view: DataView;

  constructor(
    private readonly bytes: Uint8Array,
    private readonly fileBytes: number,
  ) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  readAll(): void {
    for (let line = this.line(); line !== null; line = this.line()) {
      const name = line.trim();
      if (!name.startsWith('$') || name.startsWith('$End')) continue;
      try {
        this.section(name);
      } catch (error) {
        // Nodes and elements that are whole are worth showing though the file ends too early.
        const whole = name !== '$Nodes' && this.nodeTags.length > 0 && this.blocks.length > 0;
        if (!(error instanceof CutOffError) || !whole) throw error;
        this.cut = `the file is cut off in ${name} (${error.reason}): only what stands before is shown`;
        return;
      }
    }
  }

  private section(name: string): void {
    switch (name) {
      case '$MeshFormat':
        this.readFormat();
        break;
      case '$PhysicalNames':
        this.readPhysicalNames();
        break;
      case '$Entities':
        this.readEntities();
        break;
      case '$Nodes':
        if (this.version >= 4) this.readNodes4();
        else this.readNodes2();
        break;
      case '$Elements':
        if (this.version >= 4) this.readElements4();
        else this.readElements2();
        break;
      case '$NodeData':
        this.readData('point');
        break;
      case '$ElementData':
        this.readData('cell');
        break;
      default:
        this.skip(name);
        return;
    }
    this.skip(name);
  }

  private skip(name: string): void {
    const end = new TextEncoder().encode(`$End${name.slice(1)}`);
    outer: for (let i = this.at; i + end.length <= this.bytes.length; i++) {
      for (let k = 0; k < end.length; k++) if (this.bytes[i + k] !== end[k]) continue outer;
      this.at = i;
      this.line();
      return;
    }
    throw new CutOffError(`the section ${name} does not end`, `section ${name}`);
  }

  private readFormat(): void {
    const [version, type, size] = (this.line() ?? '').trim().split(/\s+/).map(Number);
    if (!((version >= 2 && version < 3) || (version >= 4.05 && version < 5)))
      throw new ReadError(`version ${version} is not read`, '$MeshFormat', 'Write version 2.2 or 4.1.');
    this.version = version;
    this.binary = type === 1;
    this.sizeBytes = size;
    if (!this.binary) return;
    this.little = this.view.getInt32(this.at, true) === 1;
    this.at += 4;
  }

  private readPhysicalNames(): void {
    const count = this.checked(Number(this.line()), '$PhysicalNames');
    for (let i = 0; i < count; i++) {
      const match = /^\s*(\d+)\s+(\d+)\s+"(.*)"\s*$/.exec(this.requiredLine('$PhysicalNames'));
      if (match) this.physicalNames.set(`${match[1]}:${match[2]}`, match[3]);
    }
  }

  private readEntities(): void {
    const counts = [0, 1, 2, 3].map(() => this.checked(this.size(), '$Entities'));
    for (const [dimension, count] of counts.entries()) {
      for (let i = 0; i < count; i++) {
        const tag = this.int();
        for (let k = 0; k < (dimension === 0 ? 3 : 6); k++) this.double();
        const physical = Array.from({ length: this.checked(this.size(), '$Entities') }, () =>
          Math.abs(this.int()),
        );
        this.physicalOfEntity.set(`${dimension}:${tag}`, physical);
        if (dimension > 0) {
          const bounding = this.checked(this.size(), '$Entities');
          for (let k = 0; k < bounding; k++) this.int();
        }
      }
    }
  }

  private readNodes2(): void {
    const count = this.checked(Number(this.line()), '$Nodes');
    for (let i = 0; i < count; i++) {
      this.nodeTags.push(this.int());
      for (let k = 0; k < 3; k++) this.coordinates.push(this.double());
    }
  }

  private readNodes4(): void {
    const blocks = this.checked(this.size(), '$Nodes');
    for (let k = 0; k < 3; k++) this.size();
    for (let b = 0; b < blocks; b++) {
      const dimension = this.int();
      this.int();
      const parametric = this.int();
      const count = this.checked(this.size(), '$Nodes');
      for (let i = 0; i < count; i++) this.nodeTags.push(this.size());
      for (let i = 0; i < count; i++) {
        for (let k = 0; k < 3; k++) this.coordinates.push(this.double());
        if (parametric) for (let k = 0; k < dimension; k++) this.double();
      }
    }
  }

  private readElements2(): void {
    const count = this.checked(Number(this.line()), '$Elements');
    const open = new Map<string, MshBlock>();
    const one = (element: number, tag: number, tags: number[], nodes: number[]): void => {
      const physical = tags[0] ? [tags[0]] : [];
      const key = `${element}:${physical.join()}`;
      let block = open.get(key);
      if (!block) {
        block = newBlock(element, physical);
        open.set(key, block);
        this.blocks.push(block);
      }
      block.tags.push(tag);
      for (const n of nodes) block.nodes.push(n);
    };
    let done = 0;
    while (done < count) {
      if (!this.binary) {
        const [tag, element, tagCount, ...rest] = (this.line() ?? '').trim().split(/\s+/).map(Number);
        if (!Number.isInteger(element)) throw new CutOffError(`element ${done + 1} is damaged`, '$Elements');
        const nodes = rest.slice(tagCount);
        const wanted = mshElements[element]?.nodes ?? nodes.length;
        if (nodes.length !== wanted)
          throw new CutOffError(`element ${tag} has ${nodes.length} nodes, not ${wanted}`, '$Elements');
        one(element, tag, rest.slice(0, tagCount), nodes);
        done++;
        continue;
      }
      const element = this.int();
      const following = this.checked(this.int(), '$Elements');
      const tagCount = this.int();
      const width = this.widthOf(element);
      for (let i = 0; i < following; i++) {
        const tag = this.int();
        const tags = Array.from({ length: this.checked(tagCount, '$Elements') }, () => this.int());
        one(
          element,
          tag,
          tags,
          Array.from({ length: width }, () => this.int()),
        );
      }
      done += Math.max(1, following);
    }
  }

  private readElements4(): void {
    const blocks = this.checked(this.size(), '$Elements');
    for (let k = 0; k < 3; k++) this.size();
    for (let b = 0; b < blocks; b++) {
      const dimension = this.int();
      const entity = this.int();
      const element = this.int();
      const count = this.checked(this.size(), '$Elements');
      const width = this.widthOf(element);
      const block = newBlock(element, this.physicalOfEntity.get(`${dimension}:${entity}`) ?? []);
      block.dimension = dimension;
      for (let i = 0; i < count; i++) {
        block.tags.push(this.size());
        for (let k = 0; k < width; k++) block.nodes.push(this.size());
      }
      this.blocks.push(block);
    }
  }

  /** Without the number of its nodes an element cannot be passed over in a binary file. */
  private widthOf(element: number): number {
    const known = mshElements[element]?.nodes;
    if (known) return known;
    throw new ReadError(
      `elements of type ${element} are not read`,
      '$Elements',
      'Write the mesh with linear or quadratic elements.',
    );
  }

  private readData(location: FieldLocation): void {
    const where = `data on ${location}s`;
    const list = (): string[] => {
      const length = this.checked(Number(this.requiredLine(where)), where);
      const lines: string[] = [];
      for (let i = 0; i < length; i++) lines.push(this.requiredLine(where).trim());
      return lines;
    };
    const [name = location] = list();
    const [time = '0'] = list();
    const [, components = '1', count = '0'] = list();
    const width = Number(components);
    const place = `data ${name}`;
    const n = this.checked(Number(count), place);
    const data: MshData = {
      name: name.replace(/^"|"$/g, ''),
      location,
      time: Number(time) || 0,
      components: width,
      tags: [],
      values: new Float64Array(this.checked(n * this.checked(width, place), place)),
    };
    for (let i = 0; i < n; i++) {
      data.tags.push(this.int());
      for (let k = 0; k < width; k++) data.values[i * width + k] = this.double();
    }
    this.data.push(data);
  }

  private checked(count: number, where: string): number {
    if (Number.isInteger(count) && count >= 0 && count <= this.fileBytes) return count;
    throw new CutOffError(`a count of ${count} does not fit the file`, where);
  }

  private requiredLine(where: string): string {
    const line = this.line();
    if (line !== null) return line;
    throw new CutOffError('the file ends too early', where);
  }

  private line(): string | null {
    if (this.at >= this.bytes.length) return null;
    let to = this.at;
    while (to < this.bytes.length && this.bytes[to] !== 10) to++;
    const text = new TextDecoder().decode(this.bytes.subarray(this.at, Math.min(to, this.at + 4096)));
    this.at = to + 1;
    return text.replace(/\r$/, '');
  }

  private word(): number {
    const { bytes } = this;
    while (this.at < bytes.length && bytes[this.at] <= 32) this.at++;
    const from = this.at;
    while (this.at < bytes.length && bytes[this.at] > 32) this.at++;
    let text = '';
    for (let i = from; i < this.at && i < from + 40; i++) text += String.fromCharCode(bytes[i]);
    const value = Number(text);
    if (text !== '' && !Number.isNaN(value)) return value;
    if (/nan/i.test(text)) return Number.NaN;
    throw new CutOffError(
      text === '' ? 'the file ends too early' : `"${text}" is not a number`,
      `byte ${from}`,
    );
  }

  private room(bytes: number): number {
    const at = this.at;
    if (at + bytes > this.bytes.length) throw new CutOffError('the file ends too early', `byte ${at}`);
    this.at += bytes;
    return at;
  }

  private int(): number {
    return this.binary ? this.view.getInt32(this.room(4), this.little) : this.word();
  }

  private double(): number {
    return this.binary ? this.view.getFloat64(this.room(8), this.little) : this.word();
  }

  private size(): number {
    if (!this.binary) return this.word();
    return this.sizeBytes === 4
      ? this.view.getUint32(this.room(4), this.little)
      : Number(this.view.getBigUint64(this.room(8), this.little));
  }
}

function newBlock(element: number, physical: number[]): MshBlock {
  const known = mshElements[element];
  const dimension = !known
    ? 0
    : known.type === 1
      ? 0
      : [3, 21].includes(known.type)
        ? 1
        : [5, 9, 22, 23, 28].includes(known.type)
          ? 2
          : 3;
  return { element, dimension, physical, tags: [], nodes: [], unknown: known ? null : element };
}

import type { NumberArray } from '../../model/arrays.ts';
import { ReadError } from '../../model/read-error.ts';
import { readAsciiNumbers } from '../bytes/ascii-numbers.ts';
import { type NumberType, numbersOf } from '../bytes/binary-numbers.ts';
import type { ByteSource } from '../bytes/byte-source.ts';
import { fittingCount } from '../bytes/counts.ts';
import type { Hierarchy, ReadTools } from '../format.ts';
import { childrenOf, textOf, type XmlElement } from '../xml/xml-tree.ts';

/** The data items of an XDMF file: numbers in place, in HDF5 files or in binary files beside it. */
export class XdmfItems {
  /** Names of the files the items lie in. */
  readonly files: string[] = [];
  private readonly opened = new Map<string, Hierarchy>();

  constructor(
    private readonly source: ByteSource,
    private readonly tools: ReadTools,
    private readonly root: XmlElement,
  ) {}

  /** Opens every HDF5 file that is named. */
  async openFiles(): Promise<void> {
    const walk = async (element: XmlElement): Promise<void> => {
      if (element.name === 'DataItem' && element.attributes.Format?.toUpperCase() === 'HDF') {
        const [file] = this.place(element);
        if (!this.opened.has(file)) {
          const beside = this.tools.beside(file);
          if (!beside)
            throw new ReadError(
              `the data file "${file}" is not there`,
              'DataItem',
              'Bring it in together with this file.',
            );
          this.opened.set(file, await this.tools.hierarchy(beside));
          this.files.push(file);
        }
      }
      for (const child of element.children) await walk(child);
    };
    await walk(this.root);
  }

  /** A child of a grid; one that is included from another grid is looked up there. */
  find(grid: XmlElement, name: string): XmlElement | null {
    const own = childrenOf(grid, name)[0];
    if (own) return own.attributes.Reference !== undefined ? this.followReference(own) : own;
    for (const include of grid.children.filter((c) => /^(\w+:)?include$/.test(c.name))) {
      const found = this.followPointer(include.attributes.xpointer ?? '', name);
      if (found) return found;
    }
    return null;
  }

  dimensions(item: XmlElement | undefined): number[] {
    return (item?.attributes.Dimensions ?? '').trim().split(/\s+/).filter(Boolean).map(Number);
  }

  /** Two grids with equal keys have the same mesh. */
  key(topology: XmlElement, geometry: XmlElement | null): string {
    const describe = (element: XmlElement | null): string =>
      JSON.stringify(element?.attributes ?? null) +
      (element?.children ?? [])
        .map((c) => (c.text && c.text[1] - c.text[0] < 4096 ? textOf(c, this.source) : `at ${c.text?.[0]}`))
        .join('|');
    return describe(topology) + describe(geometry);
  }

  read(item: XmlElement | undefined, depth = 0): NumberArray {
    if (!item)
      throw new ReadError('a data item is missing', 'DataItem', 'The file is incomplete; write it again.');
    if (item.attributes.Reference !== undefined) {
      const target = this.followReference(item);
      if (depth > 20)
        throw new ReadError('references lead round in circles', 'DataItem', 'Write the file again.');
      if (target && target !== item) return this.read(target, depth + 1);
    }
    if (item.attributes.ItemType === 'HyperSlab') return this.slab(item, depth);
    if (item.attributes.ItemType && item.attributes.ItemType !== 'Uniform')
      throw new ReadError(
        `data items of type ${item.attributes.ItemType} are not read`,
        'DataItem',
        'Write plain items.',
      );
    const format = (item.attributes.Format ?? 'XML').toUpperCase();
    const count = this.dimensions(item).reduce((n, d) => n * d, 1);
    if (format === 'XML') return this.inline(item, count);
    if (format === 'HDF') {
      const [file, path] = this.place(item);
      const data = this.opened.get(file)!.numbers(path);
      if (data.length !== count)
        throw new ReadError(
          `${count} numbers are announced but ${data.length} are there`,
          `${file}:${path}`,
          'Write both files again.',
        );
      return data;
    }
    if (format === 'BINARY') return this.binary(item, count);
    throw new ReadError(
      `data in the format "${format}" is not read`,
      'DataItem',
      'Write HDF, Binary or XML.',
    );
  }

  private inline(item: XmlElement, count: number): NumberArray {
    if (!item.text)
      throw new ReadError('a data item is empty', 'DataItem', 'The file is incomplete; write it again.');
    const text = this.source.read(...item.text);
    if (!(count <= text.length))
      throw new ReadError(
        `${count} numbers cannot stand in ${text.length} letters`,
        'DataItem',
        'Write the file again.',
      );
    const out = new Float64Array(count);
    readAsciiNumbers(
      text,
      out,
      `DataItem of ${item.parent?.attributes.Name ?? item.parent?.name ?? 'the file'}`,
    );
    return out;
  }

  private binary(item: XmlElement, count: number): NumberArray {
    const name = textOf(item, this.source);
    const beside = this.tools.beside(name);
    if (!beside)
      throw new ReadError(
        `the data file "${name}" is not there`,
        'DataItem',
        'Bring it in together with this file.',
      );
    if (!this.files.includes(name)) this.files.push(name);
    const kind = (item.attributes.NumberType ?? item.attributes.DataType ?? 'Float').toLowerCase();
    const bytes = Number(item.attributes.Precision ?? (kind === 'char' || kind === 'uchar' ? 1 : 4));
    const letter = kind === 'float' ? 'f' : kind.startsWith('u') ? 'u' : 'i';
    const from = Number(item.attributes.Seek ?? 0);
    fittingCount(count, beside.length, Math.max(1, bytes), name);
    const data = beside.read(from, from + count * bytes);
    if (data.length < count * bytes)
      throw new ReadError(
        `${count * bytes} bytes are needed but ${data.length} are there`,
        name,
        'Copy or write it again.',
      );
    return numbersOf(data, `${letter}${8 * bytes}` as NumberType, item.attributes.Endian !== 'Big', name);
  }

  private slab(item: XmlElement, depth: number): NumberArray {
    const [choice, target] = childrenOf(item, 'DataItem');
    const rows = this.read(choice, depth + 1);
    const rank = rows.length / 3;
    const [start, stride, count] = [0, 1, 2].map((r) =>
      Array.from(rows.subarray(r * rank, (r + 1) * rank) as unknown as number[]),
    );
    const whole = this.read(target, depth + 1);
    const dims = this.dimensions(target);
    const size = fittingCount(
      count.reduce((a, b) => a * b, 1),
      whole.length,
      1,
      'HyperSlab',
    );
    const out = new Float64Array(size);
    const index = new Array<number>(rank).fill(0);
    for (let n = 0; n < out.length; n++) {
      let at = 0;
      for (let k = 0; k < rank; k++) at = at * dims[k] + start[k] + index[k] * stride[k];
      out[n] = whole[at];
      for (let k = rank - 1; k >= 0 && ++index[k] === count[k]; k--) index[k] = 0;
    }
    return out;
  }

  private place(item: XmlElement): [string, string] {
    const text = textOf(item, this.source);
    const colon = text.lastIndexOf(':');
    if (colon < 1)
      throw new ReadError(`"${text}" names no file and array`, 'DataItem', 'Write it as file.h5:/array.');
    return [text.slice(0, colon).trim(), text.slice(colon + 1).trim()];
  }

  private followReference(element: XmlElement): XmlElement | null {
    const path =
      element.attributes.Reference === 'XML' ? textOf(element, this.source) : element.attributes.Reference;
    return this.byPath(path, element.name);
  }

  /** The pointers writers use: a path of names with a number or a name in brackets. */
  private followPointer(pointer: string, name: string): XmlElement | null {
    const inner = /^xpointer\((.*)\)$/.exec(pointer.trim())?.[1] ?? pointer;
    return this.byPath(inner, name);
  }

  private byPath(path: string, name: string): XmlElement | null {
    const pieces = path
      .replace(/^\(?\/\//, '')
      .replace(/^\//, '')
      .split('/')
      .filter(Boolean);
    const everywhere = (from: XmlElement): XmlElement[] => [from, ...from.children.flatMap(everywhere)];
    let found: XmlElement[] = /^\(?\/\//.test(path) ? everywhere(this.root) : [this.root];
    let first = true;
    for (const piece of pieces) {
      const match = /^(\w+|\*)(?:\[(.*)\])?/.exec(piece);
      if (!match) return null;
      const anywhere = first && /^\(?\/\//.test(path);
      let next = (anywhere ? found : found.flatMap((f) => f.children)).filter((c) =>
        match[1] === '*' ? c.name === name : c.name === match[1],
      );
      const named = /@Name\s*=\s*["']([^"']*)["']/.exec(match[2] ?? '');
      if (named) next = next.filter((c) => c.attributes.Name === named[1]);
      else if (/^\d+$/.test(match[2] ?? '')) next = next.slice(Number(match[2]) - 1, Number(match[2]));
      found = next;
      first = false;
    }
    const last = found[0] ?? null;
    return last && last.name !== name ? (childrenOf(last, name)[0] ?? null) : last;
  }
}

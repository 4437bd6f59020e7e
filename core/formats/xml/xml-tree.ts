import type { ByteSource } from '../bytes/byte-source.ts';
import { decodeText, walkTags } from './xml-tags.ts';

/** An element of a small XML file; texts are kept as places in the file. */
export interface XmlElement {
  name: string;
  attributes: Record<string, string>;
  children: XmlElement[];
  parent: XmlElement | null;
  text: [number, number] | null;
}

export function readXmlTree(
  source: ByteSource,
  find: (bytes: Uint8Array, byte: number, from: number) => number,
): XmlElement {
  const root: XmlElement = { name: '', attributes: {}, children: [], parent: null, text: null };
  let current = root;
  walkTags(
    source,
    {
      open({ name, attributes }) {
        const element: XmlElement = { name, attributes, children: [], parent: current, text: null };
        current.children.push(element);
        current = element;
        return undefined;
      },
      text(from, to) {
        if (!current.text || to - from > current.text[1] - current.text[0]) current.text = [from, to];
      },
      close() {
        current = current.parent ?? root;
      },
    },
    find,
  );
  return root;
}

export const childrenOf = (element: XmlElement, ...names: string[]): XmlElement[] =>
  element.children.filter((c) => names.includes(c.name));

export const textOf = (element: XmlElement, source: ByteSource): string =>
  element.text ? decodeText(new TextDecoder().decode(source.read(...element.text))).trim() : '';

import type { Nodes, PhrasingContent, RootContent } from 'mdast';
import { fromMarkdown } from 'mdast-util-from-markdown';
import type { Inline, Paragraph } from './composed.ts';

type Style = Pick<Inline, 'bold' | 'italic' | 'link'>;

/** Fills the values into plain words. */
export type FillWords = (text: string) => Inline[];

/**
 * Paragraphs and lists of a text in Markdown (CommonMark 0.31). Headings within become bold paragraphs; pictures, code and HTML
 * are read as plain words, so that nothing of a text is ever run or fetched.
 */
export function paragraphsOf(text: string, fill: FillWords): Paragraph[] {
  return fromMarkdown(text).children.flatMap((node) => paragraphOf(node, fill));
}

function paragraphOf(node: RootContent, fill: FillWords): Paragraph[] {
  if (node.type === 'paragraph') return words(inlinesOf(node.children, {}, fill));
  if (node.type === 'heading') return words(inlinesOf(node.children, { bold: true }, fill));
  if (node.type === 'blockquote') return node.children.flatMap((inner) => paragraphOf(inner, fill));
  if (node.type === 'list')
    return [{ kind: 'list', ordered: node.ordered ?? false, items: itemsOf(node, 0, fill) }];
  return 'value' in node ? words(fill(node.value)) : [];
}

const words = (inlines: Inline[]): Paragraph[] =>
  inlines.length > 0 ? [{ kind: 'paragraph', words: inlines }] : [];

function itemsOf(
  list: Extract<Nodes, { type: 'list' }>,
  depth: number,
  fill: FillWords,
): { depth: number; words: Inline[] }[] {
  return list.children.flatMap((item) =>
    item.children.flatMap((inner) =>
      inner.type === 'list'
        ? itemsOf(inner, depth + 1, fill)
        : paragraphOf(inner, fill).flatMap((p) =>
            p.kind === 'paragraph' ? [{ depth, words: p.words }] : p.items,
          ),
    ),
  );
}

function inlinesOf(nodes: readonly PhrasingContent[], style: Style, fill: FillWords): Inline[] {
  return nodes.flatMap((node): Inline[] => {
    switch (node.type) {
      case 'strong':
        return inlinesOf(node.children, { ...style, bold: true }, fill);
      case 'emphasis':
        return inlinesOf(node.children, { ...style, italic: true }, fill);
      case 'link':
        return inlinesOf(node.children, { ...style, ...linkTo(node.url) }, fill);
      case 'break':
        return [{ text: '\n' }];
      case 'image':
        return [{ ...style, text: node.alt ?? '' }];
      default:
        return 'value' in node ? fill(node.value).map((piece) => ({ ...style, ...piece })) : [];
    }
  });
}

/** Only addresses that a reader may follow are links. */
const linkTo = (url: string): Style => (/^(https?:|mailto:)/i.test(url) ? { link: url } : {});

import { encodeText } from './xml-tags.ts';

/** Markup made by `html` alone, so that no text can pass for it. */
export class Html {
  private constructor(private readonly markup: string) {}

  toString(): string {
    return this.markup;
  }

  /** Only the template below may make markup; a text from elsewhere cannot. */
  static readonly make = (strings: readonly string[], values: readonly Value[]): Html =>
    new Html(strings.map((s, i) => s + (i < values.length ? Html.written(values[i]) : '')).join(''));

  private static written(value: Value): string {
    if (value instanceof Html) return value.markup;
    if (Array.isArray(value)) return value.map(Html.written).join('');
    return value === null ? '' : encodeText(String(value));
  }
}

type Value = Html | string | number | null | readonly Value[];

/**
 * A piece of a page: everything put into it is encoded as text, but for pieces made the same way. There is no way to
 * put a text in as markup.
 *
 * @example html`<p title="${name}">${words}</p>`
 */
export const html = (strings: TemplateStringsArray, ...values: Value[]): Html => Html.make(strings, values);

/**
 * The address of a picture that is part of the page itself.
 *
 * @throws Error when it leads anywhere else
 */
export function ownPicture(address: string): string {
  if (/^data:image\/(png|jpeg|webp);base64,[A-Za-z0-9+/]*={0,2}$/.test(address)) return address;
  throw new Error('A picture of the page is not part of it.');
}

/** What a drawing may be made of. */
const drawn = new Set(
  'svg g defs clipPath path rect circle ellipse line polyline polygon text tspan linearGradient radialGradient stop'.split(
    ' ',
  ),
);

/**
 * A drawing that is part of the page itself.
 *
 * @param svg one SVG element
 * @throws Error when it holds anything but shapes and words, or leads anywhere else
 */
export function ownDrawing(svg: string): Html {
  const text = svg.trim();
  const refuse = (what: string): never => {
    throw new Error(`A drawing of the page holds ${what}, which is no shape and no word.`);
  };
  if (!text.startsWith('<svg')) refuse('no SVG');
  for (const [, name, attributes] of text.matchAll(/<\/?([^\s/>]+)([^>]*)>/g)) {
    if (!drawn.has(name)) refuse(`“${name.slice(0, 40)}”`);
    for (const [, attribute, value] of attributes.matchAll(/([\w:-]+)\s*=\s*"([^"]*)"/g)) {
      const leads = /href$/i.test(attribute) && !value.startsWith('#');
      if (/^on/i.test(attribute) || leads || /url\((?!['"]?#)/i.test(value)) refuse(`“${attribute}”`);
    }
    if (/\son\w+\s*=\s*[^"\s]/i.test(attributes)) refuse('a script');
  }
  // Made of a template, as if it had been written here.
  return Html.make([text], []);
}

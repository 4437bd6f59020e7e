import { type Html, html, ownDrawing } from '../formats/xml/html-template.ts';
import { sectionTitle } from './compose.ts';
import type {
  ComposedBlock,
  ComposedPicture,
  ComposedReport,
  ComposedSection,
  Inline,
  Paragraph,
} from './composed.ts';

/** Where what a report shows is found. */
export interface HtmlPlaces {
  /** Address of a picture; null while it is not drawn. */
  picture(picture: ComposedPicture): string | null;
  /** Whether the page carries its figure in three dimensions; left out where no page does. */
  carries?(picture: ComposedPicture): boolean;
  /** Of the house, or null. */
  logo: string | null;
  /** What stands below a block, such as that it is out of date. */
  beside?(block: string): Html | null;
}

/** The article of a report: everything between the tags of its body. */
export function reportBody(report: ComposedReport, places: HtmlPlaces): Html {
  const { title, subtitle, byline, sections } = report;
  return html`<article class="report">
<header class="front">
${places.logo === null ? null : html`<img class="logo" src="${places.logo}" alt="">`}
<h1 dir="auto">${title}</h1>
${subtitle ? html`<p class="subtitle" dir="auto">${subtitle}</p>` : null}
${byline.length > 0 ? html`<p class="byline" dir="auto">${byline.join(' · ')}</p>` : null}
</header>
${listOf('Contents', report.contents)}
${sections.map((section) => sectionOf(section, places))}
${listOf('Figures and tables', report.figureList)}
${glossaryOf(report)}
${provenanceOf(report)}
</article>`;
}

/** Tables of more columns have smaller letters. */
const MANY = 7;

const anchor = (id: string): string => `b-${id}`;

function listOf(
  title: string,
  entries: readonly { id: string; text: string; level?: number }[],
): Html | null {
  if (entries.length === 0) return null;
  return html`<nav class="list" aria-label="${title}">
<h2>${title}</h2>
<ol>${entries.map(
    ({ id, text, level = 1 }) =>
      html`<li class="level-${level}"><a href="#${anchor(id)}" dir="auto">${text}</a></li>`,
  )}</ol>
</nav>`;
}

function sectionOf(section: ComposedSection, places: HtmlPlaces): Html {
  const { id, level, blocks } = section;
  const title = sectionTitle(section);
  const heading =
    id === null
      ? null
      : level === 1
        ? html`<h2 id="${anchor(id)}" data-block="${id}" dir="auto">${title}</h2>`
        : html`<h3 id="${anchor(id)}" data-block="${id}" dir="auto">${title}</h3>`;
  return html`<section>
${heading}
${blocks.map((block) => blockOf(block, places))}
</section>`;
}

function blockOf(block: ComposedBlock, places: HtmlPlaces): Html {
  const { id } = block;
  const beside = places.beside?.(id) ?? null;
  switch (block.kind) {
    case 'text':
      return html`<div id="${anchor(id)}" data-block="${id}" class="text">${block.paragraphs.map(paragraphOf)}${beside}</div>`;
    case 'figure':
      return html`<figure id="${anchor(id)}" data-block="${id}" class="${block.width}">
${pictureOf(block, places)}
${captionOf(block)}${beside}
</figure>`;
    case 'chart':
      return html`<figure id="${anchor(id)}" data-block="${id}" class="full">
<div class="chart" role="img" aria-label="${block.alt}">${ownDrawing(block.chart.svg)}</div>
${captionOf(block)}${beside}
</figure>`;
    case 'table':
      return tableOf(block, beside);
    case 'numbers':
      return html`<dl id="${anchor(id)}" data-block="${id}" class="numbers">${block.items.map(
        ({ label, said, note }) =>
          html`<div><dt dir="auto">${label}</dt><dd>${said}${note ? html`<small>${note}</small>` : null}</dd></div>`,
      )}${beside && html`<div>${beside}</div>`}</dl>`;
    case 'missing':
      return html`<p id="${anchor(id)}" data-block="${id}" class="missing" dir="auto">${block.says}${beside}</p>`;
  }
}

function pictureOf(
  { id, number, picture, alt, living }: Extract<ComposedBlock, { kind: 'figure' }>,
  places: HtmlPlaces,
): Html {
  const address = places.picture(picture);
  const shape = `aspect-ratio:${Number(picture.aspect.toFixed(4))}`;
  if (address === null) return html`<div class="undrawn" style="${shape}">not drawn yet</div>`;
  const still = html`<img src="${address}" alt="${alt}" style="${shape}">`;
  return living && places.carries?.(picture)
    ? html`<div class="living" id="living-of-${id}" data-living="${picture.key}" data-name="${number}">${still}</div>`
    : still;
}

const captionOf = ({
  number,
  caption,
}: {
  number: string | null;
  caption: readonly Inline[];
}): Html | null =>
  number === null && caption.length === 0
    ? null
    : html`<figcaption dir="auto">${number === null ? null : html`<b>${number}.</b> `}${caption.map(inlineOf)}</figcaption>`;

function tableOf(block: Extract<ComposedBlock, { kind: 'table' }>, beside: Html | null): Html {
  const { id, number, caption, columns, rows, notes } = block;
  return html`<div id="${anchor(id)}" data-block="${id}" class="${columns.length > MANY ? 'table many' : 'table'}"><table>
<caption dir="auto">${number === null ? null : html`<b>${number}.</b> `}${caption.map(inlineOf)}</caption>
<thead><tr>${columns.map((c) => html`<th scope="col" class="${c.align}" dir="auto">${c.name}</th>`)}</tr></thead>
<tbody>${rows.map(
    (row) =>
      html`<tr>${row.map((cell, i) =>
        i === 0
          ? html`<th scope="row" class="${columns[0].align}" dir="auto">${cell}</th>`
          : html`<td class="${columns[i].align}" dir="auto">${cell}</td>`,
      )}</tr>`,
  )}</tbody>
</table>${notes.map((note) => html`<p class="note" dir="auto">${note}</p>`)}${beside}</div>`;
}

function paragraphOf(paragraph: Paragraph): Html {
  if (paragraph.kind === 'paragraph') return html`<p dir="auto">${paragraph.words.map(inlineOf)}</p>`;
  const items = paragraph.items.map(
    ({ depth, words }) => html`<li class="depth-${depth}" dir="auto">${words.map(inlineOf)}</li>`,
  );
  return paragraph.ordered ? html`<ol>${items}</ol>` : html`<ul>${items}</ul>`;
}

function inlineOf(inline: Inline): Html {
  const { text, bold, italic, to, link, live, trouble } = inline;
  let said = html`${text.split('\n').flatMap((line, i) => (i === 0 ? [line] : [html`<br>`, line]))}`;
  if (live !== undefined) said = html`<data title="${live}">${said}</data>`;
  if (trouble !== undefined) said = html`<mark title="${trouble}">${said}</mark>`;
  if (italic) said = html`<em>${said}</em>`;
  if (bold) said = html`<strong>${said}</strong>`;
  if (to !== undefined) said = html`<a href="#${anchor(to)}">${said}</a>`;
  else if (link !== undefined) said = html`<a href="${link}" rel="noreferrer">${said}</a>`;
  return said;
}

function glossaryOf({ glossary }: ComposedReport): Html | null {
  if (glossary.length === 0) return null;
  return html`<section class="glossary">
<h2 id="glossary">Glossary</h2>
<dl>${glossary.map(
    ({ term, plain, meaning }) =>
      html`<dt dir="auto">${plain === '' ? term : `${plain} (${term})`}</dt><dd dir="auto">${meaning}</dd>`,
  )}</dl>
</section>`;
}

function provenanceOf({ provenance }: ComposedReport): Html | null {
  if (provenance.length === 0) return null;
  return html`<section class="provenance">
<h2 id="provenance">Where it comes from</h2>
${provenance.map(
  ({ source, facts }) => html`<h3 dir="auto">${source}</h3>
<dl>${facts.map(
    ({ label, values }) =>
      html`<dt>${label}</dt>${values.map((value) => html`<dd dir="auto">${value}</dd>`)}`,
  )}</dl>`,
)}
</section>`;
}

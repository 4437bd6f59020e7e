import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { html } from '#core/formats/xml/html-template.ts';
import type { ComposedPicture } from '#core/report/composed.ts';
import { type HtmlPlaces, reportBody } from '#core/report/html-body.ts';
import { livingStyle, reportStyle } from '#core/report/html-style.ts';
import { embeddedFonts } from './embedded-fonts.ts';
import type { ReportToWrite, WriteReport } from './writer.ts';

/** What the page may do, stated in itself: show what it carries, run one script of its own, and nothing else. */
const policyWith = (script: string | null): string =>
  [
    "default-src 'none'",
    ...(script === null
      ? []
      : [`script-src 'sha256-${createHash('sha256').update(script).digest('base64')}'`]),
    "img-src data:; font-src data:; style-src 'unsafe-inline'; base-uri 'none'; form-action 'none'",
  ].join('; ');

/** The program that turns figures; see `stage/living`. */
export const livingViewerPath = (): string =>
  join(process.env.DRESSER_HOME ?? process.cwd(), 'dist', 'living-viewer.js');

/** As it stands within a page: nothing in it ends its element. */
const livingViewer = async (): Promise<string> =>
  (await readFile(livingViewerPath(), 'utf8'))
    .replaceAll('</script', '<\\/script')
    .replaceAll('<!--', '<\\!--');

/** One HTML file with everything in it: it asks for nothing from any network. */
export const writeHtml: WriteReport = async (what, signal) => {
  const addresses = new Map<string, string>();
  const carried = new Map<string, string>();
  const living = new Set(livingOf(what).map(({ key }) => key));
  for (const picture of picturesOf(what)) {
    signal.throwIfAborted();
    const { key } = picture;
    const bytes = await what.picture(picture);
    if (!bytes) continue;
    addresses.set(key, `data:image/png;base64,${bytes.toString('base64')}`);
    const turned = living.has(key) && (await what.living(picture));
    if (turned) carried.set(key, turned.toString('base64'));
  }
  const script = carried.size > 0 ? await livingViewer() : null;
  const places = {
    picture: ({ key }: ComposedPicture) => addresses.get(key) ?? null,
    carries: ({ key }: ComposedPicture) => carried.has(key),
  };
  const data = [...carried].map(
    ([key, text]) => `<script type="application/octet-stream" id="living-${key}">${text}</script>\n`,
  );
  const end = script === null ? '' : `${data.join('')}<script>${script}</script>\n`;
  return Buffer.from(await htmlDocument(what, places, policyWith(script), end));
};

const figuresOf = ({ report }: Pick<ReportToWrite, 'report'>) =>
  report.sections.flatMap(({ blocks }) => blocks.flatMap((b) => (b.kind === 'figure' ? [b] : [])));

const eachOnce = (all: readonly ComposedPicture[]): ComposedPicture[] => [
  ...new Map(all.map((p) => [p.key, p])).values(),
];

/** Every picture of a report, each once. */
export const picturesOf = (what: Pick<ReportToWrite, 'report'>): ComposedPicture[] =>
  eachOnce(figuresOf(what).map((f) => f.picture));

/** Those that readers of a page are to turn. */
export const livingOf = (what: Pick<ReportToWrite, 'report'>): ComposedPicture[] =>
  eachOnce(figuresOf(what).flatMap((f) => (f.living ? [f.picture] : [])));

/**
 * The whole page.
 *
 * @param places where its pictures are found, and which figures it carries in three dimensions
 * @param end markup behind its words
 */
export async function htmlDocument(
  { report, brand }: Pick<ReportToWrite, 'report' | 'brand'>,
  places: Pick<HtmlPlaces, 'picture' | 'carries'>,
  contentPolicy: string,
  end = '',
): Promise<string> {
  const body = reportBody(report, { ...places, logo: brand.logo });
  const words = String(reportBody(report, { picture: () => null, logo: null }));
  const fonts = await embeddedFonts([brand.heading, brand.body, 'plain'], words);
  const style = reportStyle(brand) + (end === '' ? '' : livingStyle(brand));
  return String(html`<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="${contentPolicy}">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${report.title}</title>
`).concat(
    // Styles are no text of anybody's: fonts that ship, and colours and lengths that are checked.
    `<style>\nbody{margin:0;background:${brand.backdrop}}\n@media print{body{background:${brand.paper}}}\n${fonts}\n${style}</style>\n</head>\n<body>\n<main>\n`,
    String(body),
    `\n</main>\n${end}</body>\n</html>\n`,
  );
}

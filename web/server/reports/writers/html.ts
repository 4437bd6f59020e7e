import { html } from '#core/formats/xml/html-template.ts';
import type { ComposedPicture } from '#core/report/composed.ts';
import { reportBody } from '#core/report/html-body.ts';
import { reportStyle } from '#core/report/html-style.ts';
import { embeddedFonts } from './embedded-fonts.ts';
import type { ReportToWrite, WriteReport } from './writer.ts';

/** What the page may do, stated in itself: show what it carries, and nothing else. */
const policy =
  "default-src 'none'; img-src data:; font-src data:; style-src 'unsafe-inline'; base-uri 'none'; form-action 'none'";

/** One HTML file with everything in it: it asks for nothing from any network. */
export const writeHtml: WriteReport = async (what, signal) => {
  const addresses = new Map<string, string>();
  for (const picture of picturesOf(what)) {
    signal.throwIfAborted();
    const bytes = await what.picture(picture);
    if (bytes) addresses.set(picture.key, `data:image/png;base64,${bytes.toString('base64')}`);
  }
  return Buffer.from(await htmlDocument(what, ({ key }) => addresses.get(key) ?? null, policy));
};

/** Every picture of a report, each once. */
export function picturesOf({ report }: Pick<ReportToWrite, 'report'>): ComposedPicture[] {
  const all = report.sections.flatMap(({ blocks }) =>
    blocks.flatMap((b) => (b.kind === 'figure' ? [b.picture] : [])),
  );
  return [...new Map(all.map((p) => [p.key, p])).values()];
}

/**
 * The whole page.
 *
 * @param addressOf where a picture is found; null where it is not drawn
 */
export async function htmlDocument(
  { report, brand }: Pick<ReportToWrite, 'report' | 'brand'>,
  addressOf: (picture: ComposedPicture) => string | null,
  contentPolicy: string,
): Promise<string> {
  const body = reportBody(report, { picture: addressOf, logo: brand.logo });
  const words = String(reportBody(report, { picture: () => null, logo: null }));
  const fonts = await embeddedFonts([brand.heading, brand.body, 'plain'], words);
  return String(html`<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="${contentPolicy}">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${report.title}</title>
`).concat(
    // Styles are no text of anybody's: fonts that ship, and colours and lengths that are checked.
    `<style>\nbody{margin:0;background:${brand.backdrop}}\n@media print{body{background:${brand.paper}}}\n${fonts}\n${reportStyle(brand)}</style>\n</head>\n<body>\n<main>\n`,
    String(body),
    '\n</main>\n</body>\n</html>\n',
  );
}

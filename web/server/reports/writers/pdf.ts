import { chromiumFlags, chromiumPath } from '../../chromium.ts';
import { htmlDocument, picturesOf } from './html.ts';
import type { WriteReport } from './writer.ts';

/** An address that leads nowhere: the browser is given everything it asks for there. */
const PLACE = 'http://report.invalid/';

/** A name of an element among the tags: the browser counts through all that it makes, also what is in no page. */
const ELEMENT = /\(node(\d{8})\)/g;

/**
 * The same document with the names of its elements counted from one: by them the head of a table is found. They keep their
 * length, so that nothing moves, and their order, as the tree of names wants (ISO 32000-1, 7.9.6).
 */
function countedFromOne(bytes: Uint8Array): Buffer {
  const text = Buffer.from(bytes).toString('latin1');
  const found = [...new Set(Array.from(text.matchAll(ELEMENT), ([, number]) => number))].sort();
  const numbers = new Map(found.map((number, i) => [number, String(i + 1).padStart(8, '0')]));
  return Buffer.from(
    text.replace(ELEMENT, (_, number: string) => `(node${numbers.get(number)})`),
    'latin1',
  );
}

/**
 * The page printed to paper by the browser that draws: bookmarks, tags with alternative texts, fonts within, words and charts as
 * vectors (PDF 1.4 with the tags of ISO 32000-1, 14.8).
 */
export const writePdf: WriteReport = async (what, signal) => {
  const pictures = new Map(picturesOf(what).map((p) => [`${PLACE}${p.key}.png`, p]));
  const there = new Set<string>();
  for (const [address, picture] of pictures) if ((await what.picture(picture)) !== null) there.add(address);
  const policy = `default-src 'none'; img-src data: ${PLACE}; font-src data:; style-src 'unsafe-inline'`;
  const addressOf = ({ key }: { key: string }): string | null =>
    there.has(`${PLACE}${key}.png`) ? `${PLACE}${key}.png` : null;
  const document = await htmlDocument(what, { picture: addressOf }, policy);
  // A large library, which a server that draws nothing does not need.
  const { chromium } = await import('playwright-core');
  signal.throwIfAborted();
  const browser = await chromium.launch({ executablePath: chromiumPath(), args: chromiumFlags });
  const close = (): void => void browser.close().catch(() => undefined);
  signal.addEventListener('abort', close, { once: true });
  try {
    const page = await browser.newPage({ javaScriptEnabled: false });
    await page.route('**/*', async (route) => {
      const address = route.request().url();
      const picture = pictures.get(address);
      const bytes = picture && (await what.picture(picture));
      if (address === PLACE) await route.fulfill({ body: document, contentType: 'text/html; charset=utf-8' });
      else if (bytes) await route.fulfill({ body: bytes, contentType: 'image/png' });
      else await route.abort();
    });
    await page.goto(PLACE, { waitUntil: 'load', timeout: 300_000 });
    const bytes = await page.pdf({
      preferCSSPageSize: true,
      printBackground: true,
      tagged: true,
      outline: true,
    });
    return countedFromOne(bytes);
  } finally {
    signal.removeEventListener('abort', close);
    await browser.close().catch(() => undefined);
    signal.throwIfAborted();
  }
};

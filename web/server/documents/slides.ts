import PptxGenJS from 'pptxgenjs';
import { cutText } from '#core/language/cut-text.ts';
import { notDrawn, type PlacedText, type SheetPage, saidOfPicture } from '#core/sets/sheet-layout.ts';
import { INK, PAPER, SOFT } from '#web/desks/shared/on-paper.ts';
import { pageFonts, widthOfText } from './page-fonts.ts';
import type { WriteDocument } from './pages-to-write.ts';

/** A slide, in inches: as wide screens are. */
const WIDTH = 40 / 3;
const HEIGHT = 7.5;
/** Every office has it; the font of the screen is not in a presentation. */
const FONT = 'Arial';
const POINTS_AN_INCH = 72;

/** A slide for each page, its words and pictures editable at their places (ISO/IEC 29500). */
export const writeSlides: WriteDocument = async ({ title, pages, picture }, signal) => {
  const fonts = await pageFonts();
  const slides = new PptxGenJS();
  slides.title = title;
  slides.defineLayout({ name: 'wide', width: WIDTH, height: HEIGHT });
  slides.layout = 'wide';
  for (const page of pages) {
    signal.throwIfAborted();
    const place = placing(page);
    const slide = slides.addSlide();
    slide.background = { color: colour(PAPER) };
    const text = (one: PlacedText): void => {
      const own = fonts[one.bold ? 'bold' : 'plain'];
      const shown = cutText(one.text, one.width, (part) => widthOfText(part, one.size, own));
      slide.addText(shown, place.text(one));
    };
    for (const at of page.pictures) {
      const image = await picture(at.row);
      if (image === null) text(notDrawn(at));
      else
        slide.addImage({
          ...place.box(at),
          data: `data:${image.type};base64,${image.bytes.toString('base64')}`,
          altText: saidOfPicture(page, at) || 'A picture',
        });
    }
    for (const one of page.texts) text(one);
  }
  return (await slides.write({ outputType: 'nodebuffer', compression: false })) as Buffer;
};

const colour = (css: string): string => css.slice(1);

/** Where things of a page lie on a slide, in inches: it is as large as fits, in the middle. */
function placing(page: SheetPage) {
  const scale = Math.min(WIDTH / page.width, HEIGHT / page.height);
  const left = (WIDTH - page.width * scale) / 2;
  const top = (HEIGHT - page.height * scale) / 2;
  const box = ({ x, y, width, height }: { x: number; y: number; width: number; height: number }) => ({
    x: left + x * scale,
    y: top + y * scale,
    w: width * scale,
    h: height * scale,
  });
  return {
    box,
    text: ({ x, y, width, size, align, bold, soft }: PlacedText) => {
      const share = { left: 0, center: 0.5, right: 1 }[align];
      return {
        ...box({ x: x - share * width, y: y - 0.75 * size, width, height: 1.5 * size }),
        align,
        bold,
        valign: 'middle' as const,
        margin: 0,
        wrap: false,
        fontFace: FONT,
        fontSize: size * scale * POINTS_AN_INCH,
        color: colour(soft ? SOFT : INK),
      };
    },
  };
}

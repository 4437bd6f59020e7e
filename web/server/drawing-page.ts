import type { Page } from 'playwright-core';
import type { SceneFacts } from '#core/report/facts.ts';
import type { ScaleEnds } from '#core/scene/scale-ends.ts';
import type { PictureSize } from '#stage/stage.ts';
import type {
  DriverWindow,
  EndsOrder,
  FactsOrder,
  FilmOrder,
  LivingOrder,
  RenderAnswer,
  RenderOrder,
  RenderWindow,
} from '#web/desks/render/render-order.ts';

/** Bytes that are taken from the page at a time: what it makes may be larger than a text can be. */
const PIECE = 4 * 2 ** 20;

/** Takes the bytes of files, one file after the other, each piece by piece and in order: 0 is the file asked for. */
type Taking = (piece: Buffer, of: number) => Promise<unknown>;

/** The page that draws without a screen; see `render-page.ts`. */
export class DrawingPage {
  /** When the file before is taken whole: the page keeps only the one made last. */
  private free: Promise<unknown> = Promise.resolve();

  /** Who takes the bytes of the film that is being made. */
  private driver: DriverWindow | null = null;
  private driven = false;

  private constructor(readonly page: Page) {}

  static async open(page: Page, address: string): Promise<DrawingPage> {
    await page.goto(`${address}/render`);
    await page.waitForFunction(() => 'dresserRender' in window);
    return new DrawingPage(page);
  }

  /**
   * Makes one file, after those that were asked for before.
   *
   * @param take given its bytes once it is whole, behind those of the same picture in other formats
   * @throws what the page says went wrong
   */
  make(order: RenderOrder, take: Taking): Promise<RenderAnswer> {
    const made = this.free.then(() => this.makeNow(order, take));
    this.free = made.catch(() => undefined);
    return made;
  }

  /** Where the colour scales of a scene begin and end at a step of a run, after all that was asked for before. */
  ends(order: EndsOrder): Promise<ScaleEnds> {
    const told = this.free.then(() =>
      this.page.evaluate((o) => (window as never as RenderWindow).dresserEnds(o), order),
    );
    this.free = told.catch(() => undefined);
    return told;
  }

  /** What a report is to know of a scene, after all that was asked for before. */
  facts(order: FactsOrder): Promise<SceneFacts> {
    const told = this.free.then(() =>
      this.page.evaluate((o) => (window as never as RenderWindow).dresserFacts(o), order),
    );
    this.free = told.catch(() => undefined);
    return told;
  }

  /**
   * Makes a living figure, after all that was asked for before.
   *
   * @param take given its bytes once it is whole
   * @returns how many they are: 0 where it is too large for a page
   */
  living(order: LivingOrder, take: Taking): Promise<{ bytes: number }> {
    const made = this.free.then(async () => {
      const file = await this.page.evaluate((o) => (window as never as RenderWindow).dresserLiving(o), order);
      await this.taken(0, file.bytes, take);
      return file;
    });
    this.free = made.catch(() => undefined);
    return made;
  }

  /** Ids of the formats films can be written in at a size. */
  filmFormats(size: PictureSize): Promise<string[]> {
    return this.page.evaluate((s) => (window as never as RenderWindow).dresserFilms(s), size);
  }

  /**
   * Puts pictures together to a film, after all that was asked for before.
   *
   * @param driver takes its bytes
   */
  film(order: FilmOrder, driver: DriverWindow): Promise<{ ending: string }> {
    const made = this.free.then(() => this.filmNow(order, driver));
    this.free = made.catch(() => undefined);
    return made;
  }

  private async filmNow(order: FilmOrder, driver: DriverWindow): Promise<{ ending: string }> {
    this.driver = driver;
    if (!this.driven) {
      this.driven = true;
      await this.page.exposeFunction('dresserPut', (at: number, bytes: string) =>
        this.driver!.dresserPut(at, bytes),
      );
      await this.page.exposeFunction('dresserTold', (done: number) => this.driver!.dresserTold(done));
    }
    return this.page.evaluate((o) => (window as never as RenderWindow).dresserFilm(o), order);
  }

  private async makeNow(order: RenderOrder, take: Taking): Promise<RenderAnswer> {
    const file = await this.page.evaluate((o) => (window as never as RenderWindow).dresserRender(o), order);
    for (const [i, also] of file.also.entries()) await this.taken(i + 1, also.bytes, take);
    await this.taken(0, file.bytes, take);
    return file;
  }

  private async taken(of: number, bytes: number, take: Taking): Promise<void> {
    for (let from = 0; from < bytes; from += PIECE) {
      const piece = await this.page.evaluate(
        ([a, b, which]) => (window as never as RenderWindow).dresserTake(which, a, b),
        [from, from + PIECE, of] as const,
      );
      await take(Buffer.from(piece, 'base64'), of);
    }
  }
}

/** Work for the card that stops at every `yield`, when its slice is full. */
export type Drawing = Generator<void, void, void>;

interface Cost {
  /** Milliseconds of a thousand units, as learned so far. */
  each: number;
  /** Fewer units than this are not worth a piece. */
  least: number;
}

/**
 * What a thousand units of each kind of work cost at first, in milliseconds by software; from then on it is measured.
 * Units are triangles, lines, dots, or rows of the picture.
 */
const firstCosts: Record<string, Cost> = {
  surface: { each: 6, least: 1000 },
  shadow: { each: 2.5, least: 2000 },
  line: { each: 1.5, least: 2000 },
  dot: { each: 1, least: 4000 },
  sphere: { each: 6, least: 500 },
  'sphere shadow': { each: 4, least: 1000 },
  text: { each: 20, least: 100 },
  'surface rows': { each: 300, least: 16 },
  'lit rows': { each: 900, least: 16 },
  'finished rows': { each: 2500, least: 8 },
  'unlit surface': { each: 5, least: 1000 },
  'unlit surface rows': { each: 100, least: 32 },
  'unlit line': { each: 1.5, least: 2000 },
  'unlit dot': { each: 1, least: 4000 },
  'unlit sphere': { each: 5, least: 500 },
  'shadow rows': { each: 20, least: 256 },
  volume: { each: 1000, least: 4 },
  'backdrop rows': { each: 100, least: 64 },
  'average rows': { each: 120, least: 64 },
  'develop rows': { each: 100, least: 64 },
  'clean rows': { each: 250, least: 32 },
  'copy rows': { each: 100, least: 64 },
};

/** Of a kind of work nobody has said anything about. */
const UNKNOWN: Cost = { each: 50, least: 200 };

/** Milliseconds a slice should take: without a card long enough to be worth it, with one less than a frame. */
const SLICE = { software: 45, card: 11 };

/** How often the card is asked whether it is done, in milliseconds. */
const ASKING = 4;

/**
 * Gives work to the card in slices, never more than one at a time: so the page is free between them, and whatever the
 * person does comes first. How much goes into a slice is learned from how long the slices before it took. Drawings that are
 * carried out at once take turns, slice by slice.
 */
export class Slices {
  private readonly costs = new Map<string, Cost>();
  private planned = 0;
  private readonly used = new Set<Cost>();
  private readonly budget: number;
  /** While it is true the drawing that is at work keeps its turn: others would draw into what it measures. */
  alone = false;
  private lastTurn: Promise<void> = Promise.resolve();

  /**
   * @param gl the context that draws; null where nothing need be waited for
   * @param software whether a processor draws
   */
  constructor(
    private readonly gl: WebGL2RenderingContext | null,
    private readonly software: boolean,
  ) {
    this.budget = software ? SLICE.software : SLICE.card;
  }

  /**
   * How many of the units that are left go into this slice; zero when it is full.
   *
   * @param width of what is drawn into, in pixels: costs are learned for each by itself
   * @param whole whether they can only go together
   */
  take(kind: string, left: number, width: number, whole = false): number {
    const cost = this.costOf(kind, width);
    const room = Math.floor((1000 * (this.budget - this.planned)) / cost.each);
    const least = Math.min(left, whole ? left : cost.least);
    if (room < least && this.planned > 0) return 0;
    const n = whole ? left : Math.min(left, Math.max(room, least));
    this.planned += (n * cost.each) / 1000;
    this.used.add(cost);
    return n;
  }

  /**
   * Carries out a drawing, slice by slice.
   *
   * @param given told between slices: whether to give up
   * @returns whether it was carried out to its end
   */
  async run(drawing: Drawing, given: () => boolean = () => false): Promise<boolean> {
    let end = await this.turn();
    try {
      for (;;) {
        this.planned = 0;
        this.used.clear();
        const began = performance.now();
        const { done } = drawing.next();
        await this.cardIsDone();
        this.learn(performance.now() - began);
        if (done) return true;
        if (given()) {
          drawing.return();
          return false;
        }
        if (this.alone) continue;
        end();
        end = await this.turn();
      }
    } finally {
      end();
    }
  }

  /** Waits until those that came before are done with their slice; the function it gives ends the turn. */
  private turn(): Promise<() => void> {
    const before = this.lastTurn;
    let end = (): void => undefined;
    this.lastTurn = new Promise((resolve) => {
      end = resolve;
    });
    return before.then(() => end);
  }

  /** How many units of a kind take so many milliseconds. */
  within(kind: string, width: number, time: number): number {
    return (1000 * time) / this.costOf(kind, width).each;
  }

  private costOf(kind: string, width: number): Cost {
    const key = `${kind} ${width}`;
    let cost = this.costs.get(key);
    if (!cost) {
      const { each, least } = firstCosts[kind] ?? UNKNOWN;
      this.costs.set(key, (cost = { each: this.software ? each : each / 20, least }));
    }
    return cost;
  }

  /** Nobody can tell which of the kinds in a slice took longer than thought: all of them move half of the way. */
  private learn(took: number): void {
    // Short slices are mostly waiting for the answer.
    if (this.planned === 0 || (took < 2 * ASKING && this.planned < 2 * ASKING)) return;
    const wrong = Math.min(4, Math.max(0.25, took / this.planned));
    for (const cost of this.used) cost.each *= Math.sqrt(wrong);
  }

  private async cardIsDone(): Promise<void> {
    const { gl } = this;
    const fence = gl?.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
    if (!gl || !fence) return breathe();
    gl.flush();
    try {
      do await new Promise((resolve) => setTimeout(resolve, ASKING));
      while (!gl.isContextLost() && gl.clientWaitSync(fence, 0, 0) === gl.TIMEOUT_EXPIRED);
    } finally {
      gl.deleteSync(fence);
    }
  }
}

/** Lets the page handle what came in meanwhile. */
const breathe = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

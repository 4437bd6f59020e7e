import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type Drawing, Slices } from './slices.ts';

/** A card whose fences are signalled when the work given to it would be done. */
class PretendedCard {
  readonly SYNC_GPU_COMMANDS_COMPLETE = 1;
  readonly TIMEOUT_EXPIRED = 2;
  /** Milliseconds a thousand units really take. */
  constructor(private readonly each: Record<string, number>) {}
  private work = 0;
  private doneAt = 0;
  readonly slices: number[] = [];
  waiting = 0;

  draw(kind: string, units: number): void {
    this.work += (units * this.each[kind]) / 1000;
  }
  fenceSync(): object {
    this.waiting++;
    this.slices.push(this.work);
    this.doneAt = performance.now() + this.work;
    this.work = 0;
    return {};
  }
  clientWaitSync(): number {
    return performance.now() < this.doneAt ? this.TIMEOUT_EXPIRED : 0;
  }
  deleteSync(): void {
    this.waiting--;
  }
  flush(): void {}
  isContextLost(): boolean {
    return false;
  }
}

function* drawing(slices: Slices, card: PretendedCard, kind: string, units: number, whole = false): Drawing {
  let left = units;
  while (left > 0) {
    const n = slices.take(kind, left, 900, whole);
    if (n === 0) {
      yield;
      continue;
    }
    card.draw(kind, n);
    left -= n;
  }
}

const sliced = (each: Record<string, number>) => {
  const card = new PretendedCard(each);
  return { card, slices: new Slices(card as unknown as WebGL2RenderingContext, true) };
};

/** Lets the pretended time pass until something has come to its end. */
async function finished<T>(work: Promise<T>): Promise<T> {
  let open = true;
  const end = work.finally(() => {
    open = false;
  });
  end.catch(() => undefined);
  while (open) await vi.advanceTimersByTimeAsync(1);
  return end;
}

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'setInterval', 'clearInterval', 'performance'] });
});
afterEach(() => {
  vi.useRealTimers();
});

describe('slices of work for the card', () => {
  it('learn how much work fits into the time of a slice, whether it was thought too dear or too cheap', async () => {
    for (const each of [0.6, 40]) {
      const { card, slices } = sliced({ surface: each });
      await finished(slices.run(drawing(slices, card, 'surface', 3_000_000 / each)));
      const later = card.slices.slice(9, -1);
      expect(later.length).toBeGreaterThan(3);
      for (const work of later) expect(work).toBeGreaterThan(37);
      for (const work of later) expect(work).toBeLessThan(47);
    }
  });

  it('never give the card a second slice before the first is done', async () => {
    const { card, slices } = sliced({ surface: 2 });
    let most = 0;
    await finished(
      slices.run(drawing(slices, card, 'surface', 100_000), () => {
        most = Math.max(most, card.waiting);
        return false;
      }),
    );
    expect([most, card.waiting]).toEqual([0, 0]);
  });

  it('leave the page free between them', async () => {
    const { card, slices } = sliced({ surface: 2 });
    let ticks = 0;
    const timer = setInterval(() => ticks++, 5);
    await finished(slices.run(drawing(slices, card, 'surface', 150_000)));
    clearInterval(timer);
    expect(ticks).toBeGreaterThan(20);
  });

  it('are given up between two of them, and the drawing is told', async () => {
    const { card, slices } = sliced({ surface: 2 });
    let ended = false;
    function* endless(): Drawing {
      try {
        for (;;) yield* drawing(slices, card, 'surface', 50_000);
      } finally {
        ended = true;
      }
    }
    let asked = 0;
    expect(await finished(slices.run(endless(), () => ++asked === 3))).toBe(false);
    expect([ended, asked]).toEqual([true, 3]);
  });

  it('take what cannot be divided as a whole, alone where it is too large', async () => {
    const { card, slices } = sliced({ line: 10, surface: 2 });
    function* both(): Drawing {
      yield* drawing(slices, card, 'surface', 2_000);
      yield* drawing(slices, card, 'line', 200_000, true);
    }
    expect(await finished(slices.run(both()))).toBe(true);
    expect(card.slices.map(Math.round)).toEqual([4, 2000]);
  });

  it('pass an error of the drawing on', async () => {
    const { slices } = sliced({ surface: 1 });
    // biome-ignore lint/correctness/useYield: it fails before it comes to that
    function* failing(): Drawing {
      throw new Error('no program');
    }
    await expect(finished(slices.run(failing()))).rejects.toThrow('no program');
  });
});

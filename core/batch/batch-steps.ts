import { type NotRead, SentenceReader } from '../language/sentence-reader.ts';
import { convertUnit } from '../model/units.ts';

/** Which steps of every run of a batch pictures are made of. */
export type StepsWish =
  /** The one that is kept in the shot. */
  | { kind: 'kept' }
  | { kind: 'last' }
  /** From one to another, counted from 1; null is the last. */
  | { kind: 'range'; from: number; to: number | null; every: number }
  /** Each by its number, counted from 1. */
  | { kind: 'numbers'; numbers: number[] }
  /** The nearest to each time. */
  | { kind: 'times'; times: number[]; unit: string | null };

/** `as kept`, `the last`, `all`, `every 5th`, `3 to 20, every 2nd`, `1, 5, 9`, `nearest to 10, 20 s`. */
export function sayStepsWish(wish: StepsWish): string {
  switch (wish.kind) {
    case 'kept':
      return 'as kept';
    case 'last':
      return 'the last';
    case 'numbers':
      return wish.numbers.join(', ');
    case 'times':
      return `nearest to ${wish.times.join(', ')}${wish.unit ? ` ${wish.unit}` : ''}`;
    case 'range': {
      const { from, to, every } = wish;
      const part = from === 1 && to === null ? '' : `${from} to ${to ?? 'the last'}`;
      const which = every === 1 ? '' : `every ${ordinal(every)}`;
      return [part, which].filter(Boolean).join(', ') || 'all';
    }
  }
}

const ordinal = (n: number): string => {
  const end = n % 100 >= 11 && n % 100 <= 13 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th');
  return `${n}${end}`;
};

/** Reads what `sayStepsWish` says; numbers may stand in any order. */
export function readStepsWish(text: string): StepsWish | NotRead {
  const reader = new SentenceReader(text);
  const wish = reader.first<StepsWish>([
    () => reader.words('as kept') && { kind: 'kept' },
    () => reader.words('the last') && { kind: 'last' },
    () => reader.words('all') && whole(1),
    () => reader.words('nearest to') && readTimes(reader),
    () => readEvery(reader, 1, null),
    () => readRange(reader),
    () => readNumbers(reader),
  ]);
  if (wish && reader.done) return wish;
  if (wish) reader.miss('the end');
  return reader.failure;
}

const whole = (every: number): StepsWish => ({ kind: 'range', from: 1, to: null, every });

function readEvery(reader: SentenceReader, from: number, to: number | null): StepsWish | undefined {
  if (!reader.words('every')) return undefined;
  reader.space();
  const [said, digits] = /^(\d+)(?:st|nd|rd|th)\b/i.exec(reader.text.slice(reader.at)) ?? [];
  if (!said || Number(digits) < 1) {
    reader.miss('5th');
    return undefined;
  }
  reader.at += said.length;
  return { kind: 'range', from, to, every: Number(digits) };
}

function readRange(reader: SentenceReader): StepsWish | undefined {
  const from = readNumber(reader);
  if (from === undefined || !reader.words('to')) return undefined;
  const last = reader.first([() => reader.words('the last') && { to: null }]);
  const to = last ? null : readNumber(reader);
  if (to === undefined) return undefined;
  if (to !== null && to < from) {
    reader.refuse(reader.at, 'These steps end before they begin', []);
    return undefined;
  }
  return (
    reader.first([() => (reader.words(',') ? readEvery(reader, from, to) : undefined)]) ?? {
      kind: 'range',
      from,
      to,
      every: 1,
    }
  );
}

function readNumbers(reader: SentenceReader): StepsWish | undefined {
  const numbers = readList(reader, () => readNumber(reader));
  return numbers && { kind: 'numbers', numbers };
}

function readTimes(reader: SentenceReader): StepsWish | undefined {
  const times = readList(reader, () => reader.number(null, 'a time'));
  if (!times) return undefined;
  reader.space();
  const [unit] = /^[^\s,]+/.exec(reader.text.slice(reader.at)) ?? [];
  if (unit === undefined) return { kind: 'times', times, unit: null };
  if (convertUnit(1, unit, 's') === null) {
    reader.refuse(reader.at + unit.length, `“${unit}” is no unit of time`, ['s', 'ms', 'min', 'h']);
    return undefined;
  }
  reader.at += unit.length;
  return { kind: 'times', times, unit };
}

function readList(reader: SentenceReader, read: () => number | undefined): number[] | undefined {
  const out: number[] = [];
  do {
    const one = read();
    if (one === undefined) return undefined;
    out.push(one);
  } while (reader.first([() => reader.words(',')]));
  return out;
}

/** The number of a step, from 1. */
function readNumber(reader: SentenceReader): number | undefined {
  const from = reader.at;
  const number = reader.number(null, 'the number of a step');
  if (number === undefined || (Number.isInteger(number) && number >= 1)) return number;
  const to = reader.at;
  reader.at = from;
  reader.refuse(to, 'Steps are whole numbers, counted from 1', []);
  return undefined;
}

interface StepsOfRun {
  name: string;
  timeUnit: string | null;
  steps: readonly { time: number | null }[];
}

/**
 * The steps of a run that are wished for, as indices in their order, each once.
 *
 * @param kept index of the step of the shot; beyond the end of the run it is the last
 * @returns also what the run cannot give, in words; the rest is made
 */
export function stepsOfWish(
  wish: StepsWish,
  run: StepsOfRun,
  kept: number,
): { steps: number[]; lacking: string[] } {
  const last = run.steps.length - 1;
  const lacking: string[] = [];
  const within = (numbers: readonly number[]): number[] => {
    const gone = numbers.filter((n) => n > last + 1);
    if (gone.length > 0)
      lacking.push(
        `${run.name} has ${last + 1} ${last === 0 ? 'step' : 'steps'}: there is no ${gone.join(', ')}.`,
      );
    return numbers.filter((n) => n <= last + 1).map((n) => n - 1);
  };
  const found = ((): number[] => {
    switch (wish.kind) {
      case 'kept':
        if (kept > last)
          lacking.push(`${run.name} ends at step ${last + 1}: that is shown for step ${kept + 1}.`);
        return [Math.min(kept, last)];
      case 'last':
        return [last];
      case 'numbers':
        return within(wish.numbers);
      case 'range': {
        const out: number[] = [];
        for (let n = wish.from; n <= Math.min(wish.to ?? last + 1, last + 1); n += wish.every) out.push(n);
        if (out.length === 0) return within([wish.from]);
        return within(out);
      }
      case 'times':
        return nearestSteps(wish, run, lacking);
    }
  })();
  return { steps: [...new Set(found)].sort((a, b) => a - b), lacking };
}

function nearestSteps(
  { times, unit }: Extract<StepsWish, { kind: 'times' }>,
  { name, timeUnit, steps }: StepsOfRun,
  lacking: string[],
): number[] {
  const own = steps.map((s) => s.time);
  if (own.some((t) => t === null)) {
    lacking.push(`The steps of ${name} have no times. Say their numbers instead.`);
    return [];
  }
  // Where the run states no unit, what is typed is taken for its own.
  const factor = unit !== null && timeUnit !== null ? convertUnit(1, unit, timeUnit) : 1;
  return times.map((time) => {
    const wanted = time * (factor ?? 1);
    return own.reduce<number>(
      (best, t, i) => (Math.abs(t! - wanted) < Math.abs(own[best]! - wanted) ? i : best),
      0,
    );
  });
}

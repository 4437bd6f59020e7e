import { type Expression, type NumberOp, numberOps } from './expression.ts';

/** Where the numbers behind a name are laid while a block of rows is worked on. */
export interface Stream {
  /** Bytes from the beginning of the memory. */
  base: number;
  /** Bytes of one number: 4 or 8. */
  size: 4 | 8;
  /** Numbers of one row. */
  width: number;
}

/** Signs that are one instruction each (WebAssembly core specification 2.0, section 5.4; from memory). */
const instructions: Partial<Record<NumberOp, number>> = {
  add: 0xa0,
  sub: 0xa1,
  mul: 0xa2,
  div: 0xa3,
  min: 0xa4,
  max: 0xa5,
  abs: 0x99,
  neg: 0x9a,
  floor: 0x9c,
  sqrt: 0x9f,
  eq: 0x61,
  ne: 0x62,
  lt: 0x63,
  gt: 0x64,
  le: 0x65,
  ge: 0x66,
};
const COMPARING = new Set<string>(['eq', 'ne', 'lt', 'gt', 'le', 'ge']);
const JOINING: Record<string, number> = { and: 0x71, or: 0x72 };

const LOCAL_GET = 0x20;
const LOCAL_SET = 0x21;
const LOCAL_TEE = 0x22;
const F64 = 0x7c;
const I32 = 0x7f;

/** A whole number as the format has it, seven bits to a byte. */
function leb(value: number): number[] {
  const out: number[] = [];
  let rest = value;
  do {
    const low = rest & 0x7f;
    rest >>>= 7;
    out.push(rest ? low | 0x80 : low);
  } while (rest);
  return out;
}

/** The same for numbers with a sign. */
function signedLeb(value: number): number[] {
  const out: number[] = [];
  for (let rest = value; ; ) {
    const low = rest & 0x7f;
    rest >>= 7;
    const ends = (rest === 0 && !(low & 0x40)) || (rest === -1 && !!(low & 0x40));
    out.push(ends ? low : low | 0x80);
    if (ends) return out;
  }
}

const f64Const = (value: number): number[] => [0x44, ...new Uint8Array(Float64Array.of(value).buffer)];
const i32Const = (value: number): number[] => [0x41, ...signedLeb(value)];
const counted = (items: number[][]): number[] => [...leb(items.length), ...items.flat()];
const section = (id: number, body: number[]): number[] => [id, ...leb(body.length), ...body];
const named = (name: string): number[] => {
  const bytes = [...new TextEncoder().encode(name)];
  return [...leb(bytes.length), ...bytes];
};

/** Functions that are not one instruction, in a fixed order: they come from outside. */
const outside = Object.keys(numberOps).filter(
  (op) => !(op in instructions) && !(op in JOINING),
) as NumberOp[];

export const outsideFunctions = { m: Object.fromEntries(outside.map((op) => [op, numberOps[op]])) };

/** Parameters of the function that is made. */
const ROWS = 0;
const ROW = 1;
const FIRST_OWN = 2;

/** Writes the instructions that work out expressions, each once however often it is met. */
class Writer {
  readonly code: number[] = [];
  private readonly met = new Map<Expression, number>();
  private readonly locals = new Map<Expression, number>();
  count = 0;

  constructor(private readonly streams: ReadonlyMap<string, Stream>) {}

  /** Counts how often each is met, so that what is met twice is kept. */
  meet(e: Expression): void {
    const times = this.met.get(e) ?? 0;
    this.met.set(e, times + 1);
    if (times === 0 && 'args' in e) for (const a of e.args) this.meet(a);
  }

  put(...bytes: number[]): void {
    this.code.push(...bytes);
  }

  write(e: Expression): void {
    const local = this.locals.get(e);
    if (local !== undefined) {
      this.put(LOCAL_GET, ...leb(local));
      return;
    }
    this.writeAfresh(e);
    if (this.met.get(e)! < 2 || e.op === 'constant') return;
    const own = FIRST_OWN + this.count++;
    this.locals.set(e, own);
    this.put(LOCAL_TEE, ...leb(own));
  }

  private writeAfresh(e: Expression): void {
    switch (e.op) {
      case 'constant':
        this.put(...f64Const(e.value));
        break;
      case 'load':
        this.load(this.streams.get(e.name)!, e.at);
        break;
      case 'select': {
        const [condition, a, b] = e.args;
        this.write(a);
        this.write(b);
        this.holds(condition);
        this.put(0x1b);
        break;
      }
      case 'and':
      case 'or':
        for (const a of e.args) this.holds(a);
        this.put(JOINING[e.op], 0xb8);
        break;
      default: {
        for (const a of e.args) this.write(a);
        const instruction = instructions[e.op];
        if (instruction === undefined) this.put(0x10, ...leb(outside.indexOf(e.op)));
        else this.put(instruction, ...(COMPARING.has(e.op) ? [0xb8] : []));
      }
    }
  }

  /** Whether a number is not zero. */
  private holds(e: Expression): void {
    this.write(e);
    this.put(...f64Const(0), 0x62);
  }

  private load({ base, size, width }: Stream, at: number): void {
    this.put(LOCAL_GET, ROW, ...i32Const(size * width), 0x6c);
    const place = leb(base + size * at);
    if (size === 4) this.put(0x2a, 2, ...place, 0xbb);
    else this.put(0x2b, 3, ...place);
  }
}

/**
 * A formula as a module of WebAssembly: a function `run(rows)` that works out so many rows, in double precision, and lays them at
 * the beginning of the memory `m.memory` in single precision. What is beyond all bounds becomes nothing (NaN).
 *
 * @param outputs one for each component
 */
export function formulaModule(
  outputs: readonly Expression[],
  streams: ReadonlyMap<string, Stream>,
): Uint8Array<ArrayBuffer> {
  const writer = new Writer(streams);
  for (const e of outputs) writer.meet(e);
  // Until as many rows are done as were asked for; there is always one.
  writer.put(0x03, 0x40);
  const singles = outputs.length;
  for (const [k, e] of outputs.entries()) {
    writer.put(LOCAL_GET, ROW, ...i32Const(4 * singles), 0x6c);
    writer.write(e);
    // Infinity less infinity is nothing, and a number less itself is zero.
    const kept = FIRST_OWN + writer.count++;
    writer.put(
      0xb6,
      0xbb,
      LOCAL_TEE,
      ...leb(kept),
      LOCAL_GET,
      ...leb(kept),
      LOCAL_GET,
      ...leb(kept),
      0xa1,
      0xa0,
    );
    writer.put(0xb6, 0x38, 2, ...leb(4 * k));
  }
  writer.put(LOCAL_GET, ROW, ...i32Const(1), 0x6a, LOCAL_SET, ROW);
  writer.put(LOCAL_GET, ROW, LOCAL_GET, ROWS, 0x48, 0x0d, 0x00, 0x0b, 0x0b);
  const locals = counted([
    [1, I32],
    [...leb(writer.count), F64],
  ]);
  const body = [...locals, ...writer.code];
  const unary = [0x60, 1, F64, 1, F64];
  const binary = [0x60, 2, F64, F64, 1, F64];
  const runs = [0x60, 1, I32, 0];
  const typeOf = (op: NumberOp): number => (numberOps[op].length === 2 ? 1 : 0);
  return Uint8Array.from([
    ...[0x00, 0x61, 0x73, 0x6d, 0x01, 0x00, 0x00, 0x00],
    ...section(1, counted([unary, binary, runs])),
    ...section(
      2,
      counted([
        ...outside.map((op) => [...named('m'), ...named(op), 0x00, typeOf(op)]),
        [...named('m'), ...named('memory'), 0x02, 0x00, 1],
      ]),
    ),
    ...section(3, counted([[2]])),
    ...section(7, counted([[...named('run'), 0x00, ...leb(outside.length)]])),
    ...section(10, counted([[...leb(body.length), ...body]])),
  ]);
}

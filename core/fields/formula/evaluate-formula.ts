import type { Column } from './column.ts';
import type { Expression } from './expression.ts';
import { expressionsOf, textsCompared } from './formula-expressions.ts';
import { formulaModule, outsideFunctions, type Stream } from './formula-module.ts';
import type { TypedNode } from './typed-formula.ts';
import { type CompiledModule, Instance, Memory, Module } from './web-assembly.ts';

/** So many rows at a time: what is read and made stays in the fast memory. */
const BLOCK = 2048;

/** Modules of the last formulas: a formula is often asked for part by part and step by step. */
const modules = new Map<string, CompiledModule>();
const KEPT_MODULES = 50;

/**
 * The values of a formula in single precision, `components` for each row. What is not a number or beyond all bounds, as after
 * a division by zero, is left without a value.
 *
 * @param column gives the values of a name
 */
export function evaluateFormula(
  formula: TypedNode,
  rows: number,
  column: (name: string) => Column,
): Float32Array {
  const { components } = formula.kind;
  const out = new Float32Array(rows * components);
  if (rows === 0) return out;
  const sources = new Map<string, Source>();
  let next = BLOCK * components * 4;
  const source = (name: string, values: Column): number | null => {
    if (typeof values === 'number') return values;
    if (!sources.has(name)) {
      const made = sourceOf(values, next);
      sources.set(name, made);
      next += BLOCK * made.size * made.width;
    }
    return null;
  };
  for (const [name, values] of textsCompared(formula, rows, column)) source(name, values);
  const outputs = expressionsOf(formula, (name) => {
    const same = source(name, column(name));
    return same === null ? { width: sources.get(name)!.width } : { same };
  });
  const memory = new Memory({ initial: Math.ceil(next / 65536) });
  const run = readied(outputs, sources, memory);
  const made = new Float32Array(memory.buffer, 0, BLOCK * components);
  const put = [...sources.values()].map((s) => putting(s, memory));
  for (let from = 0; from < rows; from += BLOCK) {
    const n = Math.min(BLOCK, rows - from);
    for (const each of put) each(from, n);
    run(n);
    out.set(n === BLOCK ? made : made.subarray(0, n * components), from * components);
  }
  return out;
}

/** What stands behind a name, and where its blocks are laid. */
interface Source extends Stream {
  data: ArrayLike<number>;
}

function sourceOf(values: Exclude<Column, number>, base: number): Source {
  const stored = typeof values === 'object' && 'data' in values;
  const data = (stored ? values.data : values) as ArrayLike<number>;
  return { base, size: data instanceof Float32Array ? 4 : 8, width: stored ? values.components : 1, data };
}

function readied(
  outputs: readonly Expression[],
  sources: ReadonlyMap<string, Source>,
  memory: Memory,
): (rows: number) => void {
  const bytes = formulaModule(outputs, sources);
  const name = String.fromCharCode(...bytes);
  let module = modules.get(name);
  if (!module) {
    module = new Module(bytes);
    if (modules.size >= KEPT_MODULES) modules.delete(modules.keys().next().value!);
    modules.set(name, module);
  }
  const { exports } = new Instance(module, { m: { ...outsideFunctions.m, memory } });
  return exports.run as (rows: number) => void;
}

/** Lays rows of a source where the formula reads them. */
function putting({ base, size, width, data }: Source, memory: Memory) {
  const place = BLOCK * width;
  const to =
    size === 4 ? new Float32Array(memory.buffer, base, place) : new Float64Array(memory.buffer, base, place);
  if (ArrayBuffer.isView(data)) {
    const typed = data as unknown as Float32Array;
    return (from: number, n: number): void => to.set(typed.subarray(from * width, (from + n) * width));
  }
  return (from: number, n: number): void => {
    for (let i = 0, at = from * width; i < n * width; i++, at++) to[i] = data[at];
  };
}

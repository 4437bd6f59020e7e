import { readFileSync } from 'node:fs';

/** What a process had of the machine. */
export interface ProcessorTime {
  /** Milliseconds that processors worked for it. */
  used: number;
  /** Whether it could work now, or waits for the disk: not for somebody else. */
  ready: boolean;
}

/** Clock ticks a second in which Linux counts the time of processes for programs (proc(5); 100 on all its machines). */
const TICKS = 100;

/** Of a process by its number; null where the system does not tell, or the process is gone. */
export function processorTime(pid: number): ProcessorTime | null {
  let text: string;
  try {
    text = readFileSync(`/proc/${pid}/stat`, 'utf8');
  } catch {
    return null;
  }
  // The name, in brackets, may hold anything; behind it come the state and, as the 14th and 15th entry, the times.
  const [state, ...rest] = text.slice(text.lastIndexOf(')') + 2).split(' ');
  return { used: ((Number(rest[10]) + Number(rest[11])) * 1000) / TICKS, ready: 'RD'.includes(state) };
}

/**
 * How much of the time that passed a process had for its work, in milliseconds: all of it, but where it could have worked and
 * others had the processors, or the machine was held up.
 */
export function timeHad(passed: number, before: ProcessorTime | null, now: ProcessorTime | null): number {
  if (!before || !now?.ready) return passed;
  return Math.min(passed, Math.max(0, now.used - before.used));
}
